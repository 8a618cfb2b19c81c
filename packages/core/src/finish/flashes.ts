import type { Effect, Montage } from '../document/montage.ts';
import { frameTime } from '../time/frames.ts';
import { EFFECTS } from './effects/all.ts';
import { firingsOf } from './firings.ts';

/** Flashes a second over a large area that WCAG 2.3.1 allows. */
const ALLOWED = 3;
/** What covers less than this of the picture is no flash. */
const SEEN = 0.1;

/** A second in which the picture flashes more often than is safe. */
export interface FlashingSecond {
  /** montage seconds */
  readonly from: number;
  readonly flashes: number;
  readonly effects: readonly Effect[];
}

/**
 * Where effects flash more than three times in a second (WCAG 2.3.1), which can make people ill: each second once, in order.
 * @returns montage seconds; none where all is safe
 */
export function tooManyFlashes(montage: Montage): FlashingSecond[] {
  const flashes = firingsOf(montage).flatMap(({ effect, frame, frames, beat }): { time: number; effect: Effect }[] => {
    const { flashes: often } = EFFECTS[effect.kind];
    if (!often || effect.strength < SEEN) return [];
    const start = frameTime(frame, montage.shape.rate);
    const length = frameTime(frames, montage.shape.rate);
    const rate = effect.gentle ? Math.min(often(beat), ALLOWED - 0.1) : often(beat);
    const count = rate <= 1 ? 1 : Math.max(1, Math.round(rate * length));
    return Array.from({ length: count }, (_, i) => ({ time: start + (i * length) / count, effect }));
  });
  flashes.sort((a, b) => a.time - b.time);
  const seconds: FlashingSecond[] = [];
  let first = 0;
  for (let last = 0; last < flashes.length; last++) {
    while (flashes[last]!.time - flashes[first]!.time >= 1) first++;
    const count = last - first + 1;
    const from = flashes[first]!.time;
    if (count <= ALLOWED) continue;
    const before = seconds.at(-1);
    const effects = [...new Set(flashes.slice(first, last + 1).map((f) => f.effect))];
    if (before && from - before.from < 1) {
      if (count > before.flashes) seconds[seconds.length - 1] = { from: before.from, flashes: count, effects };
    } else seconds.push({ from, flashes: count, effects });
  }
  return seconds;
}
