import { effectKind } from './effect-kind.ts';

export const freeze = effectKind({
  title: 'freeze',
  says: 'The picture stands for so many beats, and then is where it would have been',
  key: 'y',
  defaults: { strength: 1, beats: 1 },
  curve: 'whole',
  at: null,
  shown: () => 0,
});
