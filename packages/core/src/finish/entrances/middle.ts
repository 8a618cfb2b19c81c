import { entranceKind, fading, softly } from './entrance-kind.ts';

export const middle = entranceKind({
  title: 'from the middle',
  says: 'Its letters come from the middle outwards',
  by: 'letters',
  order: 'outwards',
  beats: 2,
  piece: (part) => ({ ...fading(part), scale: 0.6 + 0.4 * softly(part) }),
});
