import { transitionKind } from './transition-kind.ts';

/** How far the picture before goes in, and how near the one after begins. */
const REACH = 1.2;

export const zoom = transitionKind({
  title: 'zoom',
  directed: false,
  layers: (part) => ({
    before: { zoom: 1 + REACH * part ** 2 },
    after: { zoom: 1 + REACH * (1 - part) ** 2, opacity: Math.max(0, Math.min(1, (part - 0.3) / 0.4)) },
  }),
  veil: null,
});
