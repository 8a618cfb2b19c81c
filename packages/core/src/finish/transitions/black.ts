import { transitionKind } from './transition-kind.ts';

export const black = transitionKind({ title: 'through black', directed: false, layers: null, veil: '#000000' });
