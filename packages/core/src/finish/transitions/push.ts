import { EASES } from '../motion/eases.ts';
import { WAYS } from '../motion/ways.ts';
import { transitionKind } from './transition-kind.ts';

export const push = transitionKind({
  title: 'push',
  directed: true,
  layers: (part, way) => {
    const gone = EASES['in-and-out'].at(part);
    const { x, y } = WAYS[way];
    return { before: { x: x * gone, y: y * gone }, after: { x: x * (gone - 1), y: y * (gone - 1) } };
  },
  veil: null,
});
