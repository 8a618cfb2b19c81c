import type { FrameRate } from '../../time/rate.ts';
import type { CutFormat } from './cut-format.ts';
import { edl } from './edl.ts';
import { otio } from './otio.ts';
import { CutReadError, type ReadCut } from './read-cut.ts';
import { srt } from './srt.ts';
import { vtt } from './vtt.ts';

/** Every way to hand the cut to other programs, in the order in which they are offered. */
export const CUT_FORMATS = { otio, edl, srt, vtt } satisfies Record<string, CutFormat>;
export type CutFormatName = keyof typeof CUT_FORMATS;

/**
 * Reads a cut from a file, by the ending of its name.
 * @param rate of the montage, for files that do not say theirs
 * @throws CutReadError
 */
export function readCut(name: string, text: string, rate: FrameRate): ReadCut {
  const ending = name.split('.').at(-1)?.toLowerCase() ?? '';
  const readers = Object.values<CutFormat>(CUT_FORMATS).filter((format) => format.read);
  const format = readers.find((f) => f.ending === ending);
  if (!format?.read)
    throw new CutReadError(
      `A cut is read from one of these: ${readers.map((f) => `${f.title} (.${f.ending})`).join(', ')}. "${name}" is none of them.`,
    );
  return format.read(text, rate);
}
