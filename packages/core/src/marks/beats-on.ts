import { firstFrom } from '../lists/first-from.ts';
import { onceFor } from '../lists/once-for.ts';
import { MARKS } from './kinds/all.ts';
import { placedMarks } from './placed-marks.ts';
import type { Montage } from '../document/montage.ts';

/** How long a beat is taken to be where there are none. */
const NO_BEATS_S = 0.5;
/** As near to a beat as this a moment is on it, seconds. */
const ON_BEAT_S = 0.03;

/** The beats that are heard in the arranged song, montage seconds, rising; found once for each document. */
export const placedBeats = onceFor((montage: Montage): readonly number[] =>
  placedMarks(montage).flatMap(({ mark, time }) => (MARKS[mark.kind].counts ? [time] : [])),
);

/** How moments and beats belong together: beats are counted along as they are; beyond the first and the last they go on as there. */
interface Counting {
  /** the place of a moment among the beats, parts allowed */
  readonly placeOf: (time: number) => number;
  readonly timeAt: (place: number) => number;
}

const counting = onceFor((montage: Montage): Counting | null => {
  const all = placedBeats(montage);
  if (all.length < 2) return null;
  const lengthAt = (i: number): number => {
    const low = Math.max(0, Math.min(all.length - 2, i));
    return all[low + 1]! - all[low]!;
  };
  return {
    timeAt: (place) => {
      const i = Math.max(0, Math.min(all.length - 1, Math.floor(place + 1e-9)));
      return all[i]! + (place - i) * lengthAt(i);
    },
    placeOf: (time) => {
      const i = Math.max(0, firstFrom(all, (beat) => beat, time + ON_BEAT_S) - 1);
      const off = time - all[i]!;
      return Math.abs(off) <= ON_BEAT_S ? i : i + off / lengthAt(i);
    },
  };
});

/**
 * The moment a number of beats after another, counted along the beats as they are, so that what lasts whole beats from a
 * beat on ends on one. Beyond the first and the last beat they go on as they went there.
 * @param time montage seconds
 * @param beats parts allowed
 */
export function timeAfterBeats(montage: Montage, time: number, beats: number): number {
  const count = counting(montage);
  return count ? count.timeAt(count.placeOf(time) + beats) : time + beats * NO_BEATS_S;
}

/** How many beats lie between two moments, parts allowed. @param from, to montage seconds */
export function beatsBetween(montage: Montage, from: number, to: number): number {
  const count = counting(montage);
  return count ? count.placeOf(to) - count.placeOf(from) : (to - from) / NO_BEATS_S;
}
