import { blur } from './blur.ts';
import { contrast } from './contrast.ts';
import { exposure } from './exposure.ts';
import { faded } from './faded.ts';
import { grain } from './grain.ts';
import { grey } from './grey.ts';
import { saturation } from './saturation.ts';
import { table } from './table.ts';
import { vignette } from './vignette.ts';
import { warmth } from './warmth.ts';

/** Every kind of look, in the order in which they are offered. */
export const LOOKS = { exposure, contrast, saturation, warmth, grey, faded, vignette, blur, grain, table };

export type LookKind = keyof typeof LOOKS;
export const LOOK_KINDS = Object.keys(LOOKS) as [LookKind, ...LookKind[]];
