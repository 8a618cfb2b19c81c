import { EASES } from '../motion/eases.ts';
import { WAYS } from '../motion/ways.ts';
import { transitionKind } from './transition-kind.ts';

export const slide = transitionKind({
  title: 'slide over',
  directed: true,
  layers: (part, way) => {
    const left = 1 - EASES.out.at(part);
    const { x, y } = WAYS[way];
    return { before: {}, after: { x: -x * left, y: -y * left } };
  },
  veil: null,
});
