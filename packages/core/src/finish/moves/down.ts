import { moveKind, across } from './move-kind.ts';

export const down = moveKind({
  title: 'downwards',
  says: 'The frame goes down the picture',
  views: (at, strength) => across(at, strength, { x: 0, y: 1 }),
});
