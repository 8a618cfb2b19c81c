import { describe, expect, test } from '@jest/globals';
import { composeForm, type FormWish } from './compose-form.ts';
import { MAJOR } from './harmony.ts';
import { FOUR } from './palette.ts';
import { truthOf } from './composition.ts';

const WISH: FormWish = {
  name: 'Test kite',
  seed: 7,
  metre: FOUR,
  bpm: 120,
  curve: 'machine',
  key: 40,
  scale: MAJOR,
  chords: { A: [0, 3], B: [4, 5] },
  instruments: {
    drums: { role: 'drums', program: 0, volume: 100, figure: 'rock' },
    bass: { role: 'bass', program: 33, volume: 100, figure: 'roots' },
    piano: { role: 'chords', program: 0, volume: 90, figure: 'pad' },
  },
  form: [
    { bars: 2, letter: 'A', plays: ['piano'], strength: 0.2 },
    { bars: 4, letter: 'A', plays: ['piano', 'bass'], strength: 0.4 },
    { bars: 4, letter: 'B', plays: ['piano', 'bass', 'drums'], strength: 1 },
  ],
};
const part = (piece: ReturnType<typeof composeForm>, drums: boolean): readonly { at: number; pitch: number; velocity: number }[] =>
  piece.parts.filter((p) => p.drums === drums).flatMap((p) => p.notes);

describe('a piece by its form', () => {
  const piece = composeForm(WISH);

  test('has its bars at its tempo, and one more for the last chord', () => {
    expect(piece.bars.map((b) => b.at)).toEqual(Array.from({ length: 11 }, (_, i) => 4 * i));
    const { bars } = truthOf(piece);
    expect(bars[10]! - bars[0]!).toBeCloseTo(20, 0);
  });

  test('plays in each passage what it says, and passages of one letter alike', () => {
    const [piano, bass] = [piece.parts.find((p) => p.program === 0 && !p.drums)!, piece.parts.find((p) => p.program === 33)!];
    expect(Math.min(...bass.notes.map((n) => n.at))).toBeGreaterThanOrEqual(8);
    const inBars = (from: number): unknown => piano.notes.filter((n) => n.at >= from && n.at < from + 8).map((n) => [n.at - from, n.pitch]);
    expect(inBars(0)).toEqual(inBars(8));
    expect(inBars(24)).not.toEqual(inBars(8));
  });

  test('is played softer where it is less strong, with a roll before the leap and a crash on it', () => {
    const loud = (from: number, to: number): number =>
      Math.max(
        ...part(piece, false)
          .filter((n) => n.at >= from && n.at < to)
          .map((n) => n.velocity),
      );
    expect(loud(0, 8)).toBeLessThan(loud(24, 40));
    const drums = part(piece, true);
    const roll = drums.filter((n) => n.at >= 20 && n.at < 24);
    expect(roll).toHaveLength(16);
    expect(roll.at(-1)!.velocity).toBeGreaterThan(roll[0]!.velocity);
    expect(drums.some((n) => n.at === 24 && n.pitch === 49)).toBe(true);
    expect(drums.every((n) => n.at >= 20)).toBe(true);
  });

  test('is the same for the same seed, and says what it has not', () => {
    expect(composeForm(WISH)).toEqual(piece);
    expect(composeForm({ ...WISH, seed: 8 })).not.toEqual(piece);
    const odd = (form: FormWish['form'][number]): FormWish => ({ ...WISH, form: [form] });
    expect(() => composeForm(odd({ bars: 1, letter: 'C', plays: [], strength: 1 }))).toThrow('no chords for "C"');
    expect(() => composeForm(odd({ bars: 1, letter: 'A', plays: ['harp'], strength: 1 }))).toThrow('harp');
  });
});
