import { black } from './black.ts';
import { dissolve } from './dissolve.ts';
import { haze } from './haze.ts';
import { push } from './push.ts';
import { slide } from './slide.ts';
import { white } from './white.ts';
import { wipe } from './wipe.ts';
import { zoom } from './zoom.ts';

/** Every kind of transition, in the order in which they are offered. */
export const TRANSITIONS = { dissolve, black, white, wipe, push, slide, zoom, haze };

export type TransitionKind = keyof typeof TRANSITIONS;
export const TRANSITION_KINDS = Object.keys(TRANSITIONS) as [TransitionKind, ...TransitionKind[]];
