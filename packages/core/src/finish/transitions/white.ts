import { transitionKind } from './transition-kind.ts';

export const white = transitionKind({ title: 'through white', directed: false, layers: null, veil: '#ffffff' });
