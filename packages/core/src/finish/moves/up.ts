import { moveKind, across } from './move-kind.ts';

export const up = moveKind({
  title: 'upwards',
  says: 'The frame goes up the picture',
  views: (at, strength) => across(at, strength, { x: 0, y: -1 }),
});
