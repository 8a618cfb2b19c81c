import { effectKind } from './effect-kind.ts';

/** How much of the picture is covered at full strength. */
const COVER = 0.9;

export const dip = effectKind({
  title: 'dip',
  says: 'The picture goes dark and comes back',
  key: 'd',
  defaults: { strength: 0.7, beats: 0.5 },
  at: (left) => ({ veil: { colour: '#000000', opacity: COVER * left } }),
});
