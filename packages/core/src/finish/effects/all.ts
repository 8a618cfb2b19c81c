import { blur } from './blur.ts';
import { dip } from './dip.ts';
import { drain } from './drain.ts';
import { flash } from './flash.ts';
import { freeze } from './freeze.ts';
import { mirror } from './mirror.ts';
import { punch } from './punch.ts';
import { shake } from './shake.ts';
import { sound } from './sound.ts';
import { strobe } from './strobe.ts';
import { stutter } from './stutter.ts';
import { surge } from './surge.ts';

/** Every kind of effect, in the order in which they are offered. */
export const EFFECTS = { flash, dip, punch, surge, shake, blur, drain, strobe, mirror, freeze, stutter, sound };

export type EffectKind = keyof typeof EFFECTS;
export const EFFECT_KINDS = Object.keys(EFFECTS) as [EffectKind, ...EffectKind[]];
