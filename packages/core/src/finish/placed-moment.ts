import type { Moment, Montage } from '../document/montage.ts';
import { placedMark } from '../marks/placed-marks.ts';
import { toMontageTime } from '../music/arrangement.ts';
import { cutFrame } from '../time/frames.ts';

/** Where a moment of the song is in the montage. */
export interface PlacedMoment {
  /** of the mark that it is on; null for a mere time */
  readonly at: string | null;
  readonly frame: number;
  /** montage seconds */
  readonly time: number;
}

/** Where a moment is in the montage; null where it sleeps: its mark is thinned away, or it was cut out of the song. */
export function placedMoment(montage: Montage, { markId, time }: Moment): PlacedMoment | null {
  if (markId !== null) {
    const placed = placedMark(montage, markId);
    return placed ? { at: markId, frame: placed.frame, time: placed.time } : null;
  }
  const found = toMontageTime(montage.song?.pieces ?? [], time);
  return found === null ? null : { at: null, frame: cutFrame(found, montage.shape.rate, 'nearest'), time: found };
}
