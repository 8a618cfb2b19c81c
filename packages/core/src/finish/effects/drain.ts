import { effectKind } from './effect-kind.ts';

export const drain = effectKind({
  title: 'drain',
  says: 'Colours drain away and come back',
  key: 'q',
  defaults: { strength: 1, beats: 2 },
  curve: 'late',
  at: (left) => ({ look: { saturation: 1 - left, contrast: 1 + 0.15 * left } }),
});
