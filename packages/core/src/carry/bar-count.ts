import type { Montage } from '../document/montage.ts';
import { firstFrom } from '../lists/first-from.ts';
import { onceFor } from '../lists/once-for.ts';
import { pulse } from '../marks/in-use.ts';

/** How long a bar is taken to be where nothing is marked, seconds. */
const NO_BARS_S = 2;

/** A song's time counted in bars: whole numbers are its bars, parts are beats of them. Before the first and after the last it goes on as there. */
export interface BarCount {
  /** @param time song seconds @returns bars, parts allowed, 0 at the first bar */
  readonly placeOf: (time: number) => number;
  /** @param place bars, parts allowed @returns song seconds */
  readonly timeAt: (place: number) => number;
}

interface Point {
  readonly time: number;
  readonly place: number;
}

/** Each beat with the bar that it stands in and the part of it that has gone by; without bars they are counted by the song's metre. */
function pointsOf(montage: Montage): Point[] {
  const beats = pulse(montage);
  const metre = montage.song?.metre ?? 4;
  let bars = beats.flatMap((beat, i) => (beat.kind === 'bar' ? [i] : []));
  if (bars.length < 2) bars = beats.flatMap((_, i) => ((i - (bars[0] ?? 0)) % metre === 0 ? [i] : []));
  const [first, last] = [bars[0], bars.at(-1)];
  if (first === undefined || last === undefined || last === first) return [];
  const points: Point[] = [];
  for (let b = 0; b + 1 < bars.length; b++) {
    const [from, to] = [bars[b]!, bars[b + 1]!];
    for (let i = from; i < to; i++) points.push({ time: beats[i]!.time, place: b + (i - from) / (to - from) });
  }
  points.push({ time: beats[last]!.time, place: bars.length - 1 });
  // A pick-up and what follows the last bar are counted by the bars beside them.
  const opening = beats.slice(0, first).map(({ time }, i) => ({ time, place: (i - first) / (bars[1]! - first) }));
  const closing = beats
    .slice(last + 1)
    .map(({ time }, i) => ({ time, place: bars.length - 1 + (i + 1) / Math.max(last - bars.at(-2)!, beats.length - last) }));
  return [...opening, ...points, ...closing];
}

/** The bars of a montage's song as a count; evenly of two seconds where too little is marked. */
export const barCount = onceFor((montage: Montage): BarCount => {
  const points = pointsOf(montage);
  if (points.length < 2) return { placeOf: (time) => time / NO_BARS_S, timeAt: (place) => place * NO_BARS_S };
  /** Between which two points something lies; beyond the ends the two beside it count. */
  const line = (of: (p: Point) => number, to: (p: Point) => number, value: number): number => {
    const at = Math.max(1, Math.min(points.length - 1, firstFrom(points, of, value)));
    const [before, after] = [points[at - 1]!, points[at]!];
    return to(before) + ((value - of(before)) / (of(after) - of(before))) * (to(after) - to(before));
  };
  const [timeOf, placeOf] = [(p: Point) => p.time, (p: Point) => p.place];
  return { placeOf: (time) => line(timeOf, placeOf, time), timeAt: (place) => line(placeOf, timeOf, place) };
});
