import { moveKind } from './move-kind.ts';

/** How far it goes at full strength: in, and aslant, parts of the picture. */
const REACH = { zoom: 0.18, x: 0.06, y: 0.04 };

export const drift = moveKind({
  title: 'drifts',
  says: 'The frame floats slowly aslant and a little in',
  views: (at, strength) => {
    const zoom = at.zoom * (1 + 0.5 * REACH.zoom * strength);
    const [x, y] = [REACH.x * strength, REACH.y * strength];
    return {
      from: { ...at, zoom, x: at.x - x, y: at.y + y },
      to: { ...at, zoom: at.zoom * (1 + REACH.zoom * strength), x: at.x + x, y: at.y - y },
    };
  },
});
