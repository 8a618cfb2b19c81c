import type { Chance } from './chance.ts';
import type { Metre, Note } from './composition.ts';
import type { Chord, Scale } from './harmony.ts';
import type { RiffStroke } from './riff.ts';
import { barLength, groupStarts, pulse, rhythm, type Stroke } from './rhythm.ts';

/** How a bass moves. */
export type BassFigure =
  | 'roots'
  | 'eighths'
  | 'walking'
  | 'octaves'
  | 'rhythm'
  | 'held'
  | 'fifths'
  | 'tresillo'
  | 'offbeats'
  | 'sixteenths'
  | 'riff';
/** How chords are played. */
export type ChordFigure =
  | 'pad'
  | 'block'
  | 'stabs'
  | 'offbeats'
  | 'arpeggio'
  | 'oompah'
  | 'alberti'
  | 'strum'
  | 'chug'
  | 'tremolo'
  | 'broken'
  | 'comping'
  | 'backbeats'
  | 'riff';

/** Where a figure stands: its bar, its chord and its key. */
export interface Ground {
  readonly metre: Metre;
  readonly key: number;
  readonly scale: Scale;
  readonly chord: Chord;
  /** the chord of the next bar, which walking and anticipating parts lean to */
  readonly next: Chord;
  /** what the parts of a section that play a riff play in this bar */
  readonly riff: readonly RiffStroke[];
}

/** A figure with its choices made, so that it repeats from bar to bar. */
export type Player = (ground: Ground, chance: Chance) => Note[];

const velocity = (stroke: Stroke, loud: number): number => Math.max(1, Math.min(127, Math.round(loud * stroke.strength)));
const note = (stroke: Stroke, pitch: number, loud: number, held = 0.9): Note => ({
  at: stroke.at,
  length: Math.max(0.06, stroke.length * held),
  pitch,
  velocity: velocity(stroke, loud),
});

/** Semitones above a chord's root, so many steps up the scale. */
function stepped(ground: Ground, steps: number): number {
  const root = ground.chord[0]!;
  const degree = Math.max(0, ground.scale.indexOf(((root % 12) + 12) % 12)) + steps;
  return ground.scale[((degree % 7) + 7) % 7]! + 12 * Math.floor(degree / 7) - (((root % 12) + 12) % 12);
}

/** Chord notes within an octave above a pitch. */
function voiced(ground: Ground, above: number): number[] {
  return ground.chord.map((n) => {
    const pitch = ground.key + n;
    return pitch + 12 * Math.ceil((above - pitch) / 12);
  });
}

function rootBelow(ground: Ground, chord: Chord, below: number): number {
  const pitch = ground.key + chord[0]!;
  return pitch - 12 * Math.ceil((pitch - below) / 12);
}

export function bassPlayer(chance: Chance, figure: BassFigure, metre: Metre): Player {
  const loud = chance.between(80, 118);
  const held = chance.of([0.5, 0.9, 0.97]);
  const own = rhythm(chance, metre, metre.unit === 1.5 ? 3 : chance.of([2, 2, 4]), chance.between(0.3, 0.6), chance.between(0.1, 0.7));
  const parts = metre.unit === 1.5 ? 3 : 2;
  return (ground, dice) => {
    const root = rootBelow(ground, ground.chord, 47);
    const fifth = root + 7;
    const total = barLength(ground.metre);
    switch (figure) {
      case 'held':
        return [note({ at: 0, length: total, strength: 0.9 }, root, loud)];
      case 'roots':
        return groupStarts(ground.metre).map((s) => note(s, root, loud, held));
      case 'fifths':
        return groupStarts(ground.metre).map((s, i) => note(s, i % 2 === 0 ? root : fifth - 12, loud, held));
      case 'eighths':
        return pulse(ground.metre, parts).map((s) => note({ ...s, strength: 0.8 + 0.2 * s.strength }, root, loud, held));
      case 'sixteenths':
        return pulse(ground.metre, parts === 3 ? 3 : 4).map((s) => note({ ...s, strength: 0.8 + 0.2 * s.strength }, root, loud, held));
      case 'octaves':
        return pulse(ground.metre, 2).map((s, i) => note(s, i % 2 === 0 ? root : root + 12, loud, 0.6));
      case 'offbeats':
        return pulse(ground.metre, 2)
          .filter((_, i) => i % 2 === 1)
          .map((s) => note(s, root, loud, 0.8));
      case 'walking':
        return pulse(ground.metre, 1).map((s, i, all) => {
          const target = rootBelow(ground, ground.next, 47);
          const way = [root, root + ground.chord[1]! - ground.chord[0]!, fifth, root + 9];
          const pitch = i === all.length - 1 ? target + dice.of([-1, 1, 2]) : i === 0 ? root : dice.of(way);
          return note({ ...s, strength: 0.85 }, pitch, loud, 0.95);
        });
      case 'tresillo':
        return [0, 3, 6].map((k) =>
          note({ at: (k * total) / 8, length: total / 4, strength: k === 0 ? 1 : 0.85 }, k === 6 ? fifth : root, loud, held),
        );
      case 'riff':
        return ground.riff.map((s) => note(s, root + stepped(ground, s.steps), loud, held));
      case 'rhythm':
        return own.map((s) => note(s, dice.is(0.75) ? root : dice.of([fifth, root + 12]), loud, held));
    }
  };
}

export function chordPlayer(chance: Chance, figure: ChordFigure, metre: Metre): Player {
  const loud = chance.between(60, 105);
  const above = chance.whole(50, 64);
  const compound = metre.unit === 1.5;
  const parts = compound ? 3 : chance.of([2, 2, 4, 3]);
  const own = rhythm(chance, metre, compound ? 3 : chance.of([2, 2, 4]), chance.between(0.25, 0.55), chance.between(0.2, 0.9));
  const up = chance.is(0.6);
  const shape = Array.from({ length: 8 }, (_, i) => (chance.is(0.7) ? i : chance.whole(0, 3)));
  const strummed = chance.of([0, 0, 0.01, 0.02, 0.04]);
  const all = (ground: Ground, s: Stroke, held: number): Note[] =>
    voiced(ground, above).map((pitch, i) => {
      const n = note(s, pitch, loud, held);
      return { ...n, at: n.at + strummed * i };
    });
  return (ground, dice) => {
    const { metre: m } = ground;
    const total = barLength(m);
    const notes = voiced(ground, above);
    switch (figure) {
      case 'pad':
        return all(ground, { at: 0, length: total, strength: 0.8 }, 1);
      case 'block':
        return pulse(m, 1).flatMap((s) => all(ground, s, 0.85));
      case 'stabs':
        return own.flatMap((s) => all(ground, s, 0.5));
      case 'comping':
        return rhythm(dice, m, compound ? 3 : 2, 0.3, 0.8).flatMap((s) => all(ground, s, 0.5));
      case 'offbeats':
        return pulse(m, 2)
          .filter((_, i) => i % 2 === 1)
          .flatMap((s) => all(ground, s, 0.5));
      case 'backbeats':
        return pulse(m, 1)
          .filter((_, i) => i % 2 === 1)
          .flatMap((s) => all(ground, s, 0.4));
      case 'arpeggio':
        return pulse(m, parts).map((s, i) => {
          const k = up ? i % (2 * notes.length - 2) : i;
          const at = k < notes.length ? k : 2 * notes.length - 2 - k;
          return note({ ...s, strength: 0.6 + 0.3 * s.strength }, notes[((at % notes.length) + notes.length) % notes.length]!, loud, 1.2);
        });
      case 'broken':
        return pulse(m, parts).map((s, i) =>
          note(
            { ...s, strength: 0.6 + 0.3 * s.strength },
            notes[shape[i % shape.length]! % notes.length]! + (i % 8 === 0 ? -12 : 0),
            loud,
            1.1,
          ),
        );
      case 'alberti':
        return pulse(m, compound ? 3 : 2).map((s, i) =>
          note({ ...s, strength: 0.65 + 0.2 * s.strength }, notes[compound ? i % 3 : [0, 2, 1, 2][i % 4]! % notes.length]!, loud, 1),
        );
      case 'oompah':
        return pulse(m, m.beats <= 2 && !compound ? 2 : 1).flatMap((s, i) => {
          const groupStart = m.beats <= 2 && !compound ? i % 2 === 0 : groupStarts(m).some((g) => Math.abs(g.at - s.at) < 1e-6);
          return groupStart ? [note(s, notes[0]! - 12, loud * 1.1, 0.7)] : all(ground, { ...s, strength: s.strength * 0.9 }, 0.5);
        });
      case 'strum':
        return pulse(m, compound ? 3 : 2)
          .filter((_, i) => i === 0 || shape[i % 8]! === i % 8 || dice.is(0.2))
          .flatMap((s) => all(ground, s, 0.95));
      case 'chug': {
        const root = notes[0]! - 12;
        return pulse(m, compound ? 3 : parts === 3 ? 2 : parts).flatMap((s, i) =>
          shape[i % 8] !== i % 8 && i > 0
            ? []
            : [root, root + 7].map((pitch) => note({ ...s, strength: 0.7 + 0.3 * s.strength }, pitch, loud * 1.1, 0.6)),
        );
      }
      case 'riff': {
        const root = notes[0]! - 12;
        return ground.riff.flatMap((s) => [0, 7].map((above) => note(s, root + stepped(ground, s.steps) + above, loud * 1.1, 0.7)));
      }
      case 'tremolo':
        return pulse(m, compound ? 3 : 4).map((s) => note({ ...s, strength: 0.75 }, notes[0]!, loud, 0.8));
    }
  };
}

/** A tune: a rhythm of its own over two bars, walked along the scale, leaning on chord notes where the bar is heavy. */
export function tunePlayer(chance: Chance, metre: Metre, syncopation: number, low: number): Player {
  const loud = chance.between(75, 115);
  const density = chance.between(0.25, 0.6);
  const parts = metre.unit === 1.5 ? 3 : chance.of([1, 2, 2, 2, 4]);
  const motifs = [0, 1].map(() => rhythm(chance, metre, parts, density, syncopation));
  const held = chance.of([0.5, 0.85, 0.95, 1.05]);
  let degree = chance.whole(0, 7);
  let bar = 0;
  const rests = chance.between(0, 0.3);
  return (ground, dice) => {
    const strokes = dice.is(0.15) ? rhythm(dice, ground.metre, parts, density, syncopation) : motifs[bar % 2]!;
    bar++;
    if (dice.is(rests)) return [];
    return strokes
      .filter((s) => s.at < barLength(ground.metre) - 1e-6)
      .map((s) => {
        degree += dice.weighed([
          [-2, 1],
          [-1, 3],
          [0, 1],
          [1, 3],
          [2, 1],
          [dice.whole(-4, 4), 0.7],
        ] as const);
        degree = Math.max(-3, Math.min(11, degree));
        const octave = Math.floor(degree / 7);
        let pitch = ground.key + ground.scale[((degree % 7) + 7) % 7]! + 12 * octave;
        if (s.strength > 0.85 && dice.is(0.6)) pitch = ground.key + dice.of(ground.chord) + 12 * octave;
        while (pitch < low) pitch += 12;
        return note(s, pitch, loud, held);
      });
  };
}
