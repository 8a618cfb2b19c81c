import type { Chance } from './chance.ts';

/** A chord as pitch classes above the key's note; the first is its root. */
export type Chord = readonly number[];

export const MAJOR = [0, 2, 4, 5, 7, 9, 11];
export const MINOR = [0, 2, 3, 5, 7, 8, 10];
export const DORIAN = [0, 2, 3, 5, 7, 9, 10];
const PHRYGIAN = [0, 1, 3, 5, 7, 8, 10];
export const MIXOLYDIAN = [0, 2, 4, 5, 7, 9, 10];

export type Scale = readonly number[];

export function chooseScale(chance: Chance, mood: 'bright' | 'dark' | 'any'): Scale {
  if (mood === 'bright') return chance.of([MAJOR, MAJOR, MIXOLYDIAN]);
  if (mood === 'dark') return chance.of([MINOR, MINOR, PHRYGIAN, DORIAN]);
  return chance.of([MAJOR, MAJOR, MINOR, MINOR, DORIAN, MIXOLYDIAN]);
}

/** The chord on a degree of a scale, by thirds. */
export function chordOn(scale: Scale, degree: number, notes: number): Chord {
  return Array.from({ length: notes }, (_, i) => {
    const step = degree + 2 * i;
    return scale[((step % 7) + 7) % 7]! + 12 * Math.floor(step / 7);
  });
}

const LOOPS: readonly (readonly number[])[] = [
  [0, 4, 5, 3],
  [0, 5, 3, 4],
  [5, 3, 0, 4],
  [0, 3, 4, 3],
  [0, 3, 0, 4],
  [1, 4, 0, 0],
  [0, 6, 5, 4],
  [0, 5, 1, 4],
  [0, 2, 3, 4],
  [0, 0, 3, 4],
  [0, 6, 3, 0],
  [0, 4, 0, 4],
  [0, 5],
  [0, 3],
  [0, 6],
  [0],
];
const TWELVE_BARS = [0, 0, 0, 0, 3, 3, 0, 0, 4, 3, 0, 4];

/** One chord degree a bar or half bar, as many as are needed. */
export function progression(chance: Chance, bars: number, blues: boolean): number[] {
  if (blues) return Array.from({ length: bars }, (_, i) => TWELVE_BARS[i % 12]!);
  const loop = chance.is(0.75) ? chance.of(LOOPS) : Array.from({ length: 4 }, () => chance.whole(0, 6));
  // Some songs dwell on each chord for two bars.
  const dwell = chance.weighed([
    [1, 6],
    [2, 3],
    [4, 0.6],
  ] as const);
  return Array.from({ length: bars }, (_, i) => loop[Math.floor(i / dwell) % loop.length]!);
}
