import { transitionKind } from './transition-kind.ts';

export const dissolve = transitionKind({
  title: 'dissolve',
  directed: false,
  layers: (part) => ({ before: {}, after: { opacity: part } }),
  veil: null,
});
