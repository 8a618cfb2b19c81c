import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import midiFile from 'midi-file';
import { Chance } from './chance.ts';
import { compose } from './compose.ts';
import { secondsAt, truthOf, type Note } from './composition.ts';
import { perform } from './perform.ts';
import { FREE_STYLES, STYLES } from './styles.ts';
import { composeUnmeasured } from './unmeasured.ts';

const seeds = fc.integer({ min: 1, max: 1_000_000 });

// One expectation for a piece and not for a note: an expectation takes longer than a note to compose.
/** The times that are not later than the one before. */
const falls = (times: readonly number[]): number[] => times.filter((t, i) => i > 0 && !(t > times[i - 1]!));
/** The notes that no instrument of MIDI plays. */
const unplayable = ({ parts }: ReturnType<typeof compose>): Note[] =>
  parts.flatMap((p) => p.notes).filter((n) => !(n.length > 0 && n.pitch >= 0 && n.pitch <= 127 && n.velocity >= 1 && n.velocity <= 127));

describe('composed pieces', () => {
  test('beats rise, bars are some of them, and bars are as long as their metre says', () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const piece = compose({ seed, seconds: 30 });
        const { beats, bars } = truthOf(piece);
        expect(falls(beats)).toEqual([]);
        const known = new Set(beats);
        expect(bars.every((b) => known.has(b))).toBe(true);
        piece.bars.slice(0, -1).forEach((bar, i) => {
          expect(piece.bars[i + 1]!.at - bar.at).toBeCloseTo(bar.metre.beats * bar.metre.unit, 9);
          expect(bar.metre.groups.reduce((a, b) => a + b, 0)).toBe(bar.metre.beats);
        });
      }),
      { numRuns: 60 },
    );
  });
  test('every style makes music that can be played: several parts, pitches and velocities in range', () => {
    for (const style of STYLES)
      for (const seed of [1, 2, 3]) {
        const piece = compose({ seed, style: style.name, seconds: 20 });
        expect(piece.style).toBe(style.name);
        expect(piece.parts.flatMap((p) => p.notes).length).toBeGreaterThan(3);
        expect(unplayable(piece)).toEqual([]);
      }
  });
  test('the same seed composes the same piece, another seed another', () => {
    expect(compose({ seed: 5, seconds: 20 })).toEqual(compose({ seed: 5, seconds: 20 }));
    expect(compose({ seed: 5, seconds: 20 })).not.toEqual(compose({ seed: 6, seconds: 20 }));
  });
  test('metres of two to seven are among them', () => {
    const metres = new Set(Array.from({ length: 250 }, (_, seed) => compose({ seed, seconds: 5 }).bars[0]!.metre.beats));
    for (const metre of [2, 3, 4, 5, 6, 7]) expect(metres.has(metre)).toBe(true);
  });
});

describe('pieces of any kind', () => {
  const free = (seed: number): ReturnType<typeof compose> => compose({ seed, seconds: 20, free: true });

  test('beats rise, notes can be played, and the same seed composes the same piece', () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const piece = free(seed);
        const { beats } = truthOf(piece);
        expect(falls(beats)).toEqual([]);
        expect(unplayable(piece)).toEqual([]);
        expect(JSON.stringify(free(seed))).toBe(JSON.stringify(piece));
      }),
      { numRuns: 60 },
    );
  });
  test('styles of every list are among them, and mixtures', () => {
    const styles = new Set(Array.from({ length: 600 }, (_, seed) => compose({ seed, seconds: 2, free: true }).style));
    for (const { name } of FREE_STYLES) expect(styles).toContain(name);
    expect([...styles].filter((name) => name.endsWith('-mixed')).length).toBeGreaterThan(10);
  });
  test('a style that is named is kept to, or borrowed for', () => {
    for (let seed = 0; seed < 40; seed++)
      expect(compose({ seed, seconds: 2, free: true, style: 'plain' }).style).toMatch(/^plain(-mixed)?$/);
  });
  test('tempi lie nearer to the usual ones than in pieces that keep to a style', () => {
    const far = (pieces: readonly ReturnType<typeof compose>[]): number =>
      pieces.filter(({ tempo, bars }) => Math.abs(Math.log2(60 / tempo[0]!.seconds / bars[0]!.metre.unit / 110)) > 0.5).length /
      pieces.length;
    const some = Array.from({ length: 300 }, (_, i) => i + 1);
    expect(far(some.map((seed) => compose({ seed, seconds: 2, free: true })))).toBeLessThan(
      0.8 * far(some.map((seed) => compose({ seed, seconds: 2 }))),
    );
  });
});

test('seconds under a tempo map that changes', () => {
  const tempo = [
    { at: 0, seconds: 0.5 },
    { at: 4, seconds: 1 },
  ];
  expect([0, 2, 4, 5.5].map((at) => secondsAt(tempo, at))).toEqual([0, 1, 2, 3.5]);
});

describe('the performance', () => {
  test('is a MIDI file whose drums fall where the score puts them', () => {
    const piece = compose({ seed: 11, style: 'dance', seconds: 20 });
    const steady = { ...piece, parts: piece.parts.map((p) => ({ ...p, unsteady: 0, late: 0 })) };
    const { midi, truth } = perform(steady, 11, 0.5);
    const { tracks, header } = midiFile.parseMidi(midi);
    const kicks: number[] = [];
    for (const track of tracks) {
      let tick = 0;
      for (const event of track) {
        tick += event.deltaTime;
        if (event.type === 'noteOn' && event.channel === 9 && event.noteNumber === 36) kicks.push((tick / header.ticksPerBeat!) * 0.5);
      }
    }
    expect(kicks.length).toBeGreaterThan(20);
    const on = kicks.filter((k) => truth.beats.some((b) => Math.abs(b - k) < 0.002));
    expect(on.length / kicks.length).toBeGreaterThan(0.7);
    expect(truth.beats[0]).toBeCloseTo(0.5, 9);
  });
  test('of music without a beat has no beats', () => {
    const piece = composeUnmeasured(3, 20);
    expect(perform(piece, 3).truth).toEqual({ beats: [], bars: [] });
    expect(piece.parts.flatMap((p) => p.notes).length).toBeGreaterThan(3);
  });
});

test('chance is even', () => {
  const chance = new Chance(42);
  const rolls = Array.from({ length: 6000 }, () => chance.whole(1, 6));
  for (let face = 1; face <= 6; face++) expect(Math.abs(rolls.filter((r) => r === face).length - 1000)).toBeLessThan(120);
});
