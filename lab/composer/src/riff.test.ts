import { describe, expect, test } from '@jest/globals';
import { Chance } from './chance.ts';
import type { Metre } from './composition.ts';
import { bassPlayer, chordPlayer } from './figures.ts';
import { FIVE, FOUR, TWELVE } from './palette.ts';
import { barLength } from './rhythm.ts';
import { drumFigure, makeRiff } from './riff.ts';

const KICK = 36;
const MAJOR = [0, 2, 4, 5, 7, 9, 11];
const LEAN = [0.2, 0.9] as const;
const riffs = (metre: Metre): ReturnType<typeof makeRiff>[] =>
  Array.from({ length: 80 }, (_, seed) => makeRiff(new Chance(seed), metre, LEAN));

describe('a riff', () => {
  test.each([FOUR, FIVE, TWELVE])('keeps to its bars: %o', (metre) => {
    for (const riff of riffs(metre)) {
      expect(riff.length === 1 || riff.length === 2).toBe(true);
      for (const bar of riff) {
        expect(bar.length).toBeGreaterThan(0);
        for (const [i, s] of bar.entries()) {
          expect(s.at).toBeGreaterThanOrEqual(0);
          expect(s.at).toBeLessThan(barLength(metre));
          if (i > 0) expect(s.at).toBeGreaterThan(bar[i - 1]!.at);
        }
      }
    }
  });
  test('now and then runs in threes against the bar, and over the bar line', () => {
    const threes = riffs(FOUR).filter((riff) =>
      riff.every((bar) => bar.length > 3 && bar.slice(1).every((s, i) => Math.abs(s.at - bar[i]!.at - 0.75) < 1e-9)),
    );
    expect(threes.length).toBeGreaterThan(0);
    expect(threes.some((riff) => riff.length === 2 && riff[1]![0]!.at > 0)).toBe(true);
  });
  test('is played by kick, bass and chords at the same moments, and by bass and chords on the same notes', () => {
    const chance = new Chance(4);
    const riff = makeRiff(chance, FOUR, LEAN)[0]!;
    const ground = { metre: FOUR, key: 40, scale: MAJOR, chord: [0, 4, 7], next: [0, 4, 7], riff };
    const at = riff.map((s) => s.at);
    const bass = bassPlayer(chance, 'riff', FOUR)(ground, chance);
    const chords = chordPlayer(chance, 'riff', FOUR)(ground, chance);
    const kicks = drumFigure(chance, 'riff', FOUR, riff, 0.5).filter((s) => s.sound === KICK);
    expect(bass.map((n) => n.at)).toEqual(at);
    expect(kicks.map((n) => n.at)).toEqual(at);
    expect(chords.filter((_, i) => i % 2 === 0).map((n) => n.at)).toEqual(at);
    for (const [i, n] of bass.entries()) {
      expect((((chords[2 * i]!.pitch - n.pitch) % 12) + 12) % 12).toBe(0);
      expect(MAJOR).toContain((((n.pitch - 40) % 12) + 12) % 12);
    }
  });
  test('layers of drums are several voices within the bar', () => {
    for (let seed = 0; seed < 60; seed++) {
      const strokes = drumFigure(new Chance(seed), 'layers', FOUR, [], 0.7);
      expect(new Set(strokes.map((s) => s.sound)).size).toBeGreaterThan(1);
      for (const s of strokes) expect(s.at >= 0 && s.at < 4 && s.strength > 0 && s.strength <= 1).toBe(true);
    }
  });
});
