import { markKind } from './mark-kind.ts';

export const cue = markKind({
  title: 'cue',
  tap: 'Tap a cue, or put one at the playhead; its word is typed afterwards',
  key: 'q',
  weight: () => 0.9,
  rank: 3,
  counts: false,
  drawn: 'any',
  worded: true,
  banded: false,
});
