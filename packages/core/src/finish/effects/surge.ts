import { effectKind } from './effect-kind.ts';

/** How far it goes in at full strength. */
const REACH = 1.4;

export const surge = effectKind({
  title: 'zoom-through',
  says: 'The picture rushes towards the eye, out of focus, and settles',
  key: 'a',
  defaults: { strength: 0.6, beats: 0.5 },
  at: (left) => ({ zoom: 1 + REACH * left, look: { blur: 0.5 * left } }),
});
