import { entranceKind } from './entrance-kind.ts';

export const fade = entranceKind({
  title: 'fading',
  says: 'It fades in and out',
});
