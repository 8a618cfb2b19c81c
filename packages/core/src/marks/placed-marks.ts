import { onceFor } from '../lists/once-for.ts';
import { toMontageTime } from '../music/arrangement.ts';
import { cutFrame } from '../time/frames.ts';
import { byId } from '../lists/by-id.ts';
import type { Mark, Montage } from '../document/montage.ts';
import { marksInUse } from './in-use.ts';

/** A mark that is heard in the arranged song. */
export interface PlacedMark {
  readonly mark: Mark;
  /** montage seconds */
  readonly time: number;
  /** where a cut on it falls */
  readonly frame: number;
}

/**
 * The mark of an id where it is heard, or undefined: thinned away, or cut out of the song.
 * @returns with its time in the montage, seconds, and the frame of it
 */
export function placedMark(montage: Montage, markId: string): PlacedMark | undefined {
  return byId(placedMarks(montage), (p) => p.mark.id).get(markId);
}

/** The marks in use that are heard in the arranged song, in order of montage time; found once for each document. */
export const placedMarks = onceFor((montage: Montage): readonly PlacedMark[] => {
  const { rule, lead } = montage.cut;
  const pieces = montage.song?.pieces ?? [];
  const placed: PlacedMark[] = [];
  let ordered = true;
  for (const mark of marksInUse(montage)) {
    const time = toMontageTime(pieces, mark.time);
    if (time === null) continue;
    ordered &&= placed.length === 0 || placed.at(-1)!.time <= time;
    placed.push({ mark, time, frame: cutFrame(time, montage.shape.rate, rule, lead) });
  }
  // Marks are kept in the order of the song, which is mostly that of the montage.
  return ordered ? placed : placed.sort((a, b) => a.time - b.time);
});
