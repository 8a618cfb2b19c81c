import { transitionKind } from './transition-kind.ts';

export const white = transitionKind({ title: 'through white', layers: null, veil: '#ffffff' });
