import { transitionKind } from './transition-kind.ts';

export const dissolve = transitionKind({ title: 'dissolve', layers: (part) => ({ before: 1, after: part }), veil: null });
