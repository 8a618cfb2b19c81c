import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { BANDS, findAccents, nearestAccent } from './accents.ts';
import { generateSong } from '../testing/generated-song.ts';
import { onsetStrength } from './onset-strength.ts';
import { ANALYSIS_RATE, type Signal } from './signal.ts';

/** Strokes at given times: deep ones and bright ones, over quiet noise. */
function strokes(deep: readonly number[], bright: readonly number[], seconds: number): Signal {
  const rate = ANALYSIS_RATE;
  let state = 7;
  const hiss = (): number => (state = (Math.imul(state, 1664525) + 1013904223) | 0) / 2147483648;
  const samples = Float32Array.from({ length: seconds * rate }, () => 0.001 * hiss());
  const add = (at: number, wave: (t: number) => number): void => {
    for (let i = 0; i < 0.15 * rate; i++) samples[Math.round(at * rate) + i]! += wave(i / rate);
  };
  for (const at of deep) add(at, (t) => 0.7 * Math.sin(2 * Math.PI * 70 * t) * Math.exp(-t / 0.04));
  for (const at of bright) add(at, (t) => 0.3 * hiss() * Math.exp(-t / 0.01));
  return { samples, rate };
}

describe('accents', () => {
  const deep = [1.013, 2.027, 3.041, 4.055];
  const bright = [1.52, 2.534, 3.548, 4.562];
  const signal = strokes(deep, bright, 6);
  const accents = findAccents(onsetStrength(signal), signal);

  test('lie within 5 ms of the strokes, in their band', () => {
    for (const [band, times] of [
      ['low', deep],
      ['high', bright],
    ] as const)
      for (const time of times) {
        const near = accents.find((a) => a.band === band && Math.abs(a.time - time) < 0.005);
        expect(near?.strength ?? 0).toBeGreaterThan(0.5);
      }
  });
  test('nothing strong is heard where nothing sounds, once it has begun', () => {
    const truth = [...deep, ...bright];
    for (const a of accents)
      if (a.strength > 0.4 && a.time > 0.1) expect(Math.min(...truth.map((t) => Math.abs(t - a.time)))).toBeLessThan(0.03);
  });
  test('strengths are from 0 to 1 and times rise', () => {
    for (const [i, a] of accents.entries()) {
      expect(a.strength).toBeGreaterThan(0);
      expect(a.strength).toBeLessThanOrEqual(1);
      if (i > 0) expect(a.time).toBeGreaterThanOrEqual(accents[i - 1]!.time);
    }
  });
  test('a song has some in several bands', () => {
    const song = generateSong({ bpm: 120, seconds: 12 });
    const found = findAccents(onsetStrength(song.signal), song.signal);
    expect(BANDS.filter((b) => found.some((a) => a.band === b)).length).toBeGreaterThanOrEqual(3);
  });
});

test('the nearest accent is the nearest', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0, max: 50, noNaN: true }), { minLength: 1 }),
      fc.double({ min: 0, max: 50, noNaN: true }),
      (times, time) => {
        const list = [...times].sort((a, b) => a - b).map((t) => ({ time: t }));
        const best = Math.min(...times.map((t) => Math.abs(t - time)));
        expect(Math.abs(nearestAccent(list, time, 100)!.time - time)).toBeCloseTo(best, 9);
        expect(nearestAccent(list, time, best / 2 - 1e-9)).toBeNull();
      },
    ),
  );
});
