import { black } from './black.ts';
import { dissolve } from './dissolve.ts';
import { white } from './white.ts';

/** Every kind of transition, in the order in which they are offered. */
export const TRANSITIONS = { dissolve, black, white };

export type TransitionKind = keyof typeof TRANSITIONS;
export const TRANSITION_KINDS = Object.keys(TRANSITIONS) as [TransitionKind, ...TransitionKind[]];
