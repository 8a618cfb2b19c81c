import { effectKind } from './effect-kind.ts';

/** How far it goes at full strength, parts of the picture's height. */
const REACH = 0.03;
/** How often it swings to and fro, and up and down, Hz. Numbers without a common measure, so that it does not circle. */
const SWINGS_HZ = [9.3, 7.1] as const;

export const shake = effectKind({
  title: 'shake',
  says: 'The picture is shaken and settles',
  key: 'v',
  defaults: { strength: 0.5, beats: 1 },
  at: (left, { seconds }) => {
    const reach = REACH * left;
    return {
      // Enlarged by as much as it is moved, so that no edge comes into sight.
      zoom: 1 + 2 * reach,
      x: reach * Math.cos(2 * Math.PI * SWINGS_HZ[0] * seconds),
      y: reach * Math.sin(2 * Math.PI * SWINGS_HZ[1] * seconds + 1),
    };
  },
});
