import { markKind } from './mark-kind.ts';

export const accent = markKind({
  title: 'accent',
  tap: 'Tap an accent, or put one at the playhead',
  key: 'a',
  weight: (strength = 0.7) => 0.8 * strength,
  rank: 2,
  counts: false,
  drawn: 'any',
  worded: false,
  banded: true,
});
