import { moveKind } from './move-kind.ts';

/** From one frame to another that were drawn by hand; those stand in the move itself. */
export const drawn = moveKind({
  title: 'drawn',
  says: 'The frame goes from where you drew it to where you drew the other',
  views: (at) => ({ from: at, to: at }),
});
