import { dip } from './dip.ts';
import { flash } from './flash.ts';
import { punch } from './punch.ts';
import { shake } from './shake.ts';
import { sound } from './sound.ts';

/** Every kind of effect, in the order in which they are offered. */
export const EFFECTS = { flash, dip, punch, shake, sound };

export type EffectKind = keyof typeof EFFECTS;
export const EFFECT_KINDS = Object.keys(EFFECTS) as [EffectKind, ...EffectKind[]];
