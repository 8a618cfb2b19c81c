import { markKind } from './mark-kind.ts';

export const drop = markKind({
  title: 'drop',
  tap: 'Tap a drop',
  key: 'u',
  weight: () => 1,
  rank: 4,
  counts: false,
  drawn: 'bars',
  worded: false,
  banded: false,
});
