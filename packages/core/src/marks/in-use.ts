import { onceFor } from '../lists/once-for.ts';
import { MARKS } from './kinds/all.ts';
import type { Montage, Mark, AccentFloor } from '../document/montage.ts';
/** What is thinned away at first: most songs have far more weak accents than anyone cuts on. */
export const ACCENT_FLOOR: AccentFloor = { low: 0.6, mid: 0.6, high: 0.75, voice: 0.6 };

/**
 * The strengths from which accents count.
 * @returns for each band, 0 to 1, above 1 where none count; the usual ones where there is no song
 */
export function accentFloorOf(montage: Montage): AccentFloor {
  return montage.song?.accentFloor ?? ACCENT_FLOOR;
}

/**
 * Marks that an edit may land on: all but the accents that were thinned away.
 * None where nothing is marked.
 * @example
 * marksInUse(montage).filter((m) => m.kind === 'bar').length // 10
 */
export const marksInUse = onceFor((montage: Montage): readonly Mark[] => {
  const floor = accentFloorOf(montage);
  return montage.marks.filter((m) => m.kind !== 'accent' || m.strength === undefined || m.strength >= floor[m.band ?? 'mid']);
});

const pulseOf = onceFor((marks: Montage['marks']): readonly Mark[] =>
  marks.filter((m) => MARKS[m.kind].counts).sort((a, b) => a.time - b.time),
);

/**
 * Marks that count time: beats and the downbeats of bars, in order; none where nothing is marked.
 * Times are song seconds.
 * @example
 * pulse(montage).slice(0, 3).map((m) => m.time) // [0, 0.5, 1]
 */
export function pulse({ marks }: Pick<Montage, 'marks'>): readonly Mark[] {
  return pulseOf(marks);
}
