import { entranceKind, fading, softly } from './entrance-kind.ts';

export const letters = entranceKind({
  title: 'letter by letter',
  says: 'Its letters come one after the other',
  by: 'letters',
  beats: 2,
  piece: (part) => ({ ...fading(part), below: 0.25 * (1 - softly(part)) }),
});
