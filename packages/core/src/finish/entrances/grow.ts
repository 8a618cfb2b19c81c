import { entranceKind } from './entrance-kind.ts';

export const grow = entranceKind({
  title: 'growing',
  says: 'It grows slowly all the time',
  grows: (through) => 0.86 + 0.14 * through,
});
