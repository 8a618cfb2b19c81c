import { moveKind, nearer } from './move-kind.ts';

export const closer = moveKind({
  title: 'closer',
  says: 'The frame goes in on what matters',
  views: (at, strength, focus) => ({ from: at, to: nearer(at, strength, focus) }),
});
