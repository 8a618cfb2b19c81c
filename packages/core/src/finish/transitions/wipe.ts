import { EASES } from '../motion/eases.ts';
import { transitionKind, type SeenPicture } from './transition-kind.ts';

export const wipe = transitionKind({
  title: 'wipe',
  directed: true,
  layers: (part, way) => {
    const open = EASES['in-and-out'].at(part);
    const within: Readonly<Record<typeof way, NonNullable<SeenPicture['within']>>> = {
      right: { x: 0, y: 0, width: open, height: 1 },
      left: { x: 1 - open, y: 0, width: open, height: 1 },
      down: { x: 0, y: 0, width: 1, height: open },
      up: { x: 0, y: 1 - open, width: 1, height: open },
    };
    return { before: {}, after: { within: within[way] } };
  },
  veil: null,
});
