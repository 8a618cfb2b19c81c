import { moveKind, across } from './move-kind.ts';

export const left = moveKind({
  title: 'to the left',
  says: 'The frame goes over the picture to the left',
  views: (at, strength) => across(at, strength, { x: -1, y: 0 }),
});
