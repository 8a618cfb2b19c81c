import { moveKind, across } from './move-kind.ts';

export const right = moveKind({
  title: 'to the right',
  says: 'The frame goes over the picture to the right',
  views: (at, strength) => across(at, strength, { x: 1, y: 0 }),
});
