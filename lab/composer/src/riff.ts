import type { Chance } from './chance.ts';
import type { Metre } from './composition.ts';
import { groove, type DrumStroke, type GrooveName } from './drums.ts';
import { barLength, pulse, rhythm, type Stroke } from './rhythm.ts';
import { sequencedDrums } from './sequenced-drums.ts';

/** A stroke of a riff, and how many steps of the scale it lies above the chord's root. */
export interface RiffStroke extends Stroke {
  readonly steps: number;
}

/** What drums play: a groove, what the riff says, layers of voices with rhythms of their own, or what only a sequencer would. */
export type DrumFigure = GrooveName | 'riff' | 'layers' | 'sequenced';

/** A rhythm over one bar or two that several parts of a section play together. */
export type Riff = readonly (readonly RiffStroke[])[];

/** Groups of three (now and then five) on a grid of halves or quarters of a beat, against the bar, which begins them anew. */
function crossing(chance: Chance, metre: Metre, bars: number): Stroke[][] {
  const parts = metre.unit === 1.5 ? 3 : chance.of([2, 4, 4]);
  const group = metre.unit === 1.5 ? chance.of([2, 4]) : chance.of([3, 3, 3, 5]);
  const step = metre.unit / parts;
  const places = metre.beats * parts;
  const anew = chance.is(0.5);
  const second = chance.is(0.4) ? chance.whole(1, group - 1) : 0;
  return Array.from({ length: bars }, (_, bar) => {
    const strokes: Stroke[] = [];
    for (let i = 0; i < places; i++) {
      const within = ((anew ? 0 : bar * places) + i) % group;
      if (within === 0 || (second > 0 && within === second))
        strokes.push({ at: i * step, length: step * (within === 0 && second > 0 ? second : 1), strength: within === 0 ? 0.95 : 0.75 });
    }
    return strokes;
  });
}

/** Writes a riff of one bar or two. */
export function makeRiff(chance: Chance, metre: Metre, syncopation: readonly [number, number]): Riff {
  const bars = chance.of([1, 2, 2]);
  const parts = metre.unit === 1.5 ? 3 : chance.of([2, 4, 4]);
  const density = chance.between(0.25, 0.6);
  const lean = chance.between(...syncopation);
  const strokes = chance.is(0.3)
    ? crossing(chance, metre, bars)
    : Array.from({ length: bars }, () => rhythm(chance, metre, parts, density, lean));
  const still = chance.is(0.35);
  return strokes.map((bar) => bar.map((s) => ({ ...s, steps: still || chance.is(0.5) ? 0 : chance.of([-1, 1, 2, 3, 4, 6]) })));
}

const KICK = 36;
const SNARE = 38;
const CYMBALS = [42, 51, 49, 46, 52, 57] as const;
const UNDER_LAYERS = ['rock', 'funk', 'floor', 'breakbeat', 'backbeat', 'latin', 'shaker', 'halftime'] as const;
const HANDS = [54, 56, 60, 61, 62, 63, 64, 67, 68, 69, 70, 75, 76, 77] as const;

/** One bar of a drum figure. */
export function drumFigure(chance: Chance, figure: DrumFigure, metre: Metre, riff: readonly RiffStroke[], lean: number): DrumStroke[] {
  if (figure === 'riff') return riffDrums(chance, metre, riff);
  if (figure === 'layers') return layeredDrums(chance, metre, lean);
  if (figure === 'sequenced') return sequencedDrums(chance, metre, lean);
  return groove(chance, figure, metre);
}

/** Drums to a riff: the kick plays it, the snare and a cymbal keep the beat (or the half, or the double of it). */
function riffDrums(chance: Chance, metre: Metre, bar: readonly RiffStroke[]): DrumStroke[] {
  const beats = pulse(metre, 1);
  const snare = chance.weighed([
    ['back', 5],
    ['half', 2.5],
    ['double', 1.2],
    ['none', 0.8],
  ] as const);
  const on =
    snare === 'back'
      ? beats.filter((_, i) => i % 2 === 1)
      : snare === 'half'
        ? beats.filter((_, i) => i === Math.floor(metre.beats / 2))
        : snare === 'double'
          ? pulse(metre, metre.unit === 1.5 ? 3 : 2).filter((_, i) => i % 2 === 1)
          : [];
  const cymbal = chance.is(0.8) ? pulse(metre, chance.of([1, 1, 2])) : [];
  return [
    ...bar.map((s) => ({ ...s, sound: KICK })),
    ...on.map((s) => ({ ...s, strength: 0.95, sound: SNARE })),
    ...cymbal.map((s) => ({ ...s, strength: 0.65, sound: chance.is(0.97) ? CYMBALS[0] : chance.of(CYMBALS) })),
  ];
}

/** Drums in layers, as sequencers stack them: a groove, thinned, and two to four more voices with rhythms of their own. */
function layeredDrums(chance: Chance, metre: Metre, lean: number): DrumStroke[] {
  const parts = metre.unit === 1.5 ? 3 : 4;
  const base = chance.is(0.75) ? groove(chance, chance.of(UNDER_LAYERS), metre) : [];
  const without = chance.is(0.3) ? chance.of([KICK, SNARE, 42]) : 0;
  const layers = Array.from({ length: chance.whole(base.length > 0 ? 1 : 3, 4) }, () => {
    const sound = base.length === 0 && chance.is(0.4) ? chance.of([KICK, SNARE, 40]) : chance.of(HANDS);
    const level = chance.between(0.5, 1);
    const strokes = chance.is(0.35)
      ? pulse(metre, chance.of([parts, parts / (parts === 4 ? 2 : 1)])).filter((_, i) => chance.is(0.9) || i === 0)
      : rhythm(chance, metre, parts, chance.between(0.15, 0.5), lean);
    return strokes.map((s) => ({ ...s, sound, strength: s.strength * level }));
  });
  return [...base.filter((s) => s.sound !== without), ...layers.flat().filter((s) => s.at < barLength(metre) - 1e-6)];
}
