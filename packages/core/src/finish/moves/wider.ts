import { moveKind, nearer } from './move-kind.ts';

export const wider = moveKind({
  title: 'wider',
  says: 'The frame starts near and lets all of it be seen',
  views: (at, strength, focus) => ({ from: nearer(at, strength, focus), to: at }),
});
