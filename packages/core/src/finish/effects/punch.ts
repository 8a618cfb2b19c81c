import { effectKind } from './effect-kind.ts';

/** How far it goes in at full strength. */
const REACH = 0.25;

export const punch = effectKind({
  title: 'punch-in',
  says: 'The picture jumps nearer and settles',
  key: 'g',
  defaults: { strength: 0.5, beats: 1 },
  at: (left) => ({ zoom: 1 + REACH * left }),
});
