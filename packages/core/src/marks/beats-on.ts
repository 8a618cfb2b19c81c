import { placedMarks } from './placed-marks.ts';
import type { Montage } from '../document/montage.ts';

/** How long a beat is taken to be where there are none. */
const NO_BEATS_S = 0.5;
/** As near to a beat as this a moment is on it, seconds. */
const ON_BEAT_S = 0.03;

const known = new WeakMap<Montage, readonly number[]>();

/** The beats that are heard in the arranged song, montage seconds, rising; found once for each document. */
export function placedBeats(montage: Montage): readonly number[] {
  let beats = known.get(montage);
  if (!beats) {
    beats = placedMarks(montage).flatMap(({ mark, time }) => (mark.kind === 'beat' || mark.kind === 'bar' ? [time] : []));
    known.set(montage, beats);
  }
  return beats;
}

/**
 * The moment a number of beats after another, counted along the beats as they are, so that what lasts whole beats from a
 * beat on ends on one. Beyond the first and the last beat they go on as they went there.
 * @param time montage seconds
 * @param beats parts allowed
 */
export function timeAfterBeats(montage: Montage, time: number, beats: number): number {
  const all = placedBeats(montage);
  if (all.length < 2) return time + beats * NO_BEATS_S;
  const lengthAt = (i: number): number => {
    const low = Math.max(0, Math.min(all.length - 2, i));
    return all[low + 1]! - all[low]!;
  };
  const at = (place: number): number => {
    const i = Math.max(0, Math.min(all.length - 1, Math.floor(place + 1e-9)));
    return all[i]! + (place - i) * lengthAt(i);
  };
  let low = 0;
  let high = all.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (all[middle]! <= time + ON_BEAT_S) low = middle + 1;
    else high = middle;
  }
  const i = Math.max(0, low - 1);
  const off = time - all[i]!;
  const place = Math.abs(off) <= ON_BEAT_S ? i : i + off / lengthAt(i);
  return at(place + beats);
}
