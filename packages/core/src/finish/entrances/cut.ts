import { entranceKind } from './entrance-kind.ts';

export const cut = entranceKind({
  title: 'at once',
  says: 'It is there at once',
  beats: 0,
});
