import { markKind } from './mark-kind.ts';

export const bar = markKind({
  title: 'bar',
  tap: 'Tap the first beat of a bar',
  key: 'y',
  weight: () => 0.55,
  rank: 1,
  counts: true,
  drawn: 'bars',
  worded: false,
  banded: false,
});
