import type { Chance } from './chance.ts';
import type { Metre } from './composition.ts';

/** Something that sounds in a bar: where (quarter notes from the bar line), how long, and how strongly, 0 to 1. */
export interface Stroke {
  readonly at: number;
  readonly length: number;
  readonly strength: number;
}

export const barLength = (metre: Metre): number => metre.beats * metre.unit;

/** How much a place in the bar weighs, 0 to 1: the bar line most, then groups, beats, and the parts of beats. */
export function weightOf(metre: Metre, at: number): number {
  const beat = at / metre.unit;
  const nearest = Math.round(beat);
  if (Math.abs(beat - nearest) > 1e-4) {
    const half = beat * 2;
    return Math.abs(half - Math.round(half)) < 1e-4 ? 0.3 : 0.12;
  }
  if (nearest === 0) return 1;
  let start = 0;
  for (const group of metre.groups) {
    if (start === nearest) return 0.8;
    start += group;
  }
  return 0.55;
}

/**
 * A rhythm of one bar on a grid: heavy places are the likelier, the more so the less it is syncopated.
 * @param parts of a beat that the grid has
 * @param density how much of the grid sounds, 0 to 1
 * @param syncopation 0: square, 1: any place is as good as another
 */
export function rhythm(chance: Chance, metre: Metre, parts: number, density: number, syncopation: number): Stroke[] {
  const step = metre.unit / parts;
  const places = metre.beats * parts;
  const on: number[] = [];
  for (let i = 0; i < places; i++) {
    const weight = weightOf(metre, i * step);
    const likelihood = density * ((1 - syncopation) * weight * 2 + syncopation);
    if (chance.is(Math.min(0.97, likelihood))) on.push(i);
  }
  if (on.length === 0 || (on[0] !== 0 && chance.is(0.75 - 0.4 * syncopation))) on.unshift(0);
  return on
    .filter((v, i) => v !== on[i - 1])
    .map((i, k, all) => {
      const to = all[k + 1] ?? places;
      return { at: i * step, length: (to - i) * step, strength: 0.55 + 0.45 * weightOf(metre, i * step) };
    });
}

/** One stroke on every part of every beat. */
export function pulse(metre: Metre, parts: number): Stroke[] {
  const step = metre.unit / parts;
  return Array.from({ length: metre.beats * parts }, (_, i) => ({
    at: i * step,
    length: step,
    strength: 0.5 + 0.5 * weightOf(metre, i * step),
  }));
}

/** One stroke at the start of each group of beats. */
export function groupStarts(metre: Metre): Stroke[] {
  let beat = 0;
  return metre.groups.map((group) => {
    const at = beat * metre.unit;
    beat += group;
    return { at, length: group * metre.unit, strength: at === 0 ? 1 : 0.8 };
  });
}

/**
 * Where a place is played when parts of beats swing: the first half of each beat takes `ratio` of it.
 * @param ratio 0.5 straight, 0.667 triplets
 */
export function swung(metre: Metre, at: number, ratio: number, parts: 2 | 4): number {
  if (ratio === 0.5) return at;
  const span = (metre.unit * 2) / parts;
  const whole = Math.floor(at / span + 1e-6) * span;
  const within = (at - whole) / span;
  return whole + span * (within <= 0.5 ? within * 2 * ratio : ratio + (within - 0.5) * 2 * (1 - ratio));
}
