import { transitionKind } from './transition-kind.ts';

/** How far both are out of focus in the middle. */
const FAR = 0.6;

export const haze = transitionKind({
  title: 'through a blur',
  directed: false,
  layers: (part) => ({
    before: { blur: FAR * Math.min(1, 2 * part) },
    after: { blur: FAR * Math.min(1, 2 * (1 - part)), opacity: Math.max(0, Math.min(1, (part - 0.3) / 0.4)) },
  }),
  veil: null,
});
