import type { CutFormat } from './cut-format.ts';
import { edl } from './edl.ts';
import { otio } from './otio.ts';
import { srt } from './srt.ts';
import { vtt } from './vtt.ts';

/** Every way to hand the cut to other programs, in the order in which they are offered. */
export const CUT_FORMATS = { otio, edl, srt, vtt } satisfies Record<string, CutFormat>;
export type CutFormatName = keyof typeof CUT_FORMATS;
