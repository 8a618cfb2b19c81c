import type { Montage, Span } from '../document/montage.ts';
import { timeAfterBeats } from '../marks/beats-on.ts';
import { scoreOf } from '../score/score.ts';
import { cutFrame, frameTime } from '../time/frames.ts';
import { placedMoment } from './placed-moment.ts';

/** When something is there, frames of the montage. */
export interface PlacedSpan {
  /** its first frame, and the first after it */
  readonly from: number;
  readonly to: number;
  /** how many frames it takes to come and to go, within those */
  readonly rise: number;
  readonly fall: number;
}

/** Where a span lies in the montage; null where one of its ends sleeps, or nothing is left between them. */
export function placedSpan(montage: Montage, span: Span): PlacedSpan | null {
  const { frames } = scoreOf(montage);
  const { rate } = montage.shape;
  const start = span.from ? placedMoment(montage, span.from) : { frame: 0, time: 0 };
  const end = span.to ? placedMoment(montage, span.to) : { frame: frames, time: frameTime(frames, rate) };
  if (!start || !end) return null;
  const [from, to] = [Math.max(0, start.frame), Math.min(frames, end.frame)];
  if (from >= to) return null;
  const rise = span.rise > 0 ? cutFrame(timeAfterBeats(montage, start.time, span.rise) - start.time, rate, 'nearest') : 0;
  const fall = span.fall > 0 ? cutFrame(end.time - timeAfterBeats(montage, end.time, -span.fall), rate, 'nearest') : 0;
  // Where there is not time enough for both, each has its share.
  const share = Math.min(1, (to - from) / Math.max(1, rise + fall));
  return { from, to, rise: rise * share, fall: fall * share };
}

/** How much of it there is at a frame, 0 to 1: it comes and goes softly. */
export function spanPart({ from, to, rise, fall }: PlacedSpan, frame: number): number {
  if (frame < from || frame >= to) return 0;
  // Whole frames count from their middle, so that the first is seen already and the last still is.
  const coming = rise > 0 ? (frame - from + 0.5) / rise : 1;
  const going = fall > 0 ? (to - frame - 0.5) / fall : 1;
  const part = Math.max(0, Math.min(1, coming, going));
  return part * part * (3 - 2 * part);
}
