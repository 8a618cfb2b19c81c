import { markKind } from './mark-kind.ts';

export const beat = markKind({
  title: 'beat',
  tap: 'Tap a beat',
  key: 't',
  weight: () => 0.3,
  rank: 0,
  counts: true,
  drawn: 'beats',
  worded: false,
  banded: false,
});
