import { effectKind } from './effect-kind.ts';

/** How much of the picture is covered at full strength. */
const COVER = 0.9;

export const flash = effectKind({
  title: 'flash',
  says: 'The picture flares up to white and comes back',
  key: 'f',
  defaults: { strength: 0.7, beats: 0.5 },
  flashes: () => 1,
  at: (left) => ({ veil: { colour: '#ffffff', opacity: COVER * left } }),
});
