import { describe, expect, test } from '@jest/globals';
import { Chance } from './chance.ts';
import { compose } from './compose.ts';
import { FIVE, FOUR, JIG } from './palette.ts';
import { barLength } from './rhythm.ts';
import { sequencedDrums } from './sequenced-drums.ts';

const bars = Array.from({ length: 300 }, (_, seed) => sequencedDrums(new Chance(seed), FOUR, 0.5));

describe('drums as only a sequencer has them', () => {
  test.each([FOUR, FIVE, JIG])('keep to the bar, and no sound is struck twice at one place by one voice: %o', (metre) => {
    for (let seed = 0; seed < 100; seed++) {
      const strokes = sequencedDrums(new Chance(seed), metre, 0.8);
      expect(strokes.length).toBeGreaterThan(0);
      for (const s of strokes) expect(s.at >= 0 && s.at < barLength(metre) - 1e-9 && s.strength >= 0.6 && s.strength <= 1).toBe(true);
    }
  });
  test('a voice is as loud on the beat as off it', () => {
    for (const bar of bars) {
      const levels = new Map<number, Set<number>>();
      for (const s of bar) levels.set(s.sound, (levels.get(s.sound) ?? new Set()).add(s.strength));
      // Two voices may have been given one sound.
      for (const [, own] of levels) expect(own.size).toBeLessThanOrEqual(3);
    }
  });
  test('snares keep time now and then, and kicks fall between beats', () => {
    const snareOnEveryHalf = bars.filter((bar) => new Set(bar.filter((s) => s.sound === 38 || s.sound === 40).map((s) => s.at)).size >= 7);
    const kickBetween = bars.filter((bar) => bar.some((s) => s.sound === 36 && s.at % 1 !== 0));
    expect(snareOnEveryHalf.length).toBeGreaterThan(10);
    expect(kickBetween.length).toBeGreaterThan(30);
  });
});

test('a sequenced piece has any instrument', () => {
  const pieces = Array.from({ length: 60 }, (_, seed) => compose({ seed, seconds: 8, free: true, style: 'sequenced' }));
  const programs = new Set(pieces.flatMap((p) => p.parts.filter((part) => !part.drums).map((part) => part.program)));
  expect(programs.size).toBeGreaterThan(50);
  expect(new Set(pieces.map((p) => p.style))).toEqual(new Set(['sequenced', 'sequenced-mixed']));
});
