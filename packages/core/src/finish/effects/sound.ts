import { effectKind } from './effect-kind.ts';

export const sound = effectKind({
  title: 'sound',
  says: 'A sound effect is heard, its hit on the mark',
  key: 'b',
  // It is heard to its end, however many beats that takes.
  defaults: { strength: 1, beats: 1 },
  at: null,
});
