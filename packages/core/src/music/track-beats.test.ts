import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { trackBeats } from './track-beats.ts';

describe('beats from chances', () => {
  const FPS = 50;
  /** Chances with a peak at each time, spread over its neighbours as the network's are. */
  const curve = (times: readonly number[], seconds: number, strength = 0.8): Float32Array =>
    Float32Array.from({ length: seconds * FPS }, (_, i) =>
      Math.max(0.01, ...times.map((t) => strength * Math.max(0, 1 - Math.abs(i - t * FPS) / 2))),
    );

  test('are found at any tempo from 45 to 200, wherever they start', () => {
    fc.assert(
      fc.property(fc.integer({ min: 45, max: 200 }), fc.double({ min: 0, max: 1, noNaN: true }), (bpm, phase) => {
        const truth: number[] = [];
        for (let t = (phase * 60) / bpm; t < 30; t += 60 / bpm) truth.push(t);
        const beats = trackBeats(curve(truth, 30), FPS).filter((b) => b > 2 && b < 28);
        const inner = truth.filter((t) => t > 2 && t < 28);
        expect(Math.abs(beats.length - inner.length)).toBeLessThanOrEqual(1);
        for (const b of beats) expect(Math.min(...truth.map((t) => Math.abs(t - b)))).toBeLessThan(0.045);
      }),
      { numRuns: 40 },
    );
  });
  test('follow a tempo that rises by a fifth', () => {
    const truth: number[] = [];
    for (let t = 0.2; t < 40; t += 0.6 - (0.1 * t) / 40) truth.push(t);
    const beats = trackBeats(curve(truth, 40), FPS);
    expect(truth.filter((t) => beats.some((b) => Math.abs(b - t) <= 0.03)).length / truth.length).toBeGreaterThan(0.95);
    expect(Math.abs(beats.length - truth.length)).toBeLessThanOrEqual(2);
  });
  test('a hint chooses between a tempo and its half', () => {
    const truth = Array.from({ length: 60 }, (_, i) => 0.3 + i * 0.5);
    const weak = truth.map((t) => t + 0.25);
    const between = curve(weak, 30, 0.5);
    const both = curve(truth, 30).map((v, i) => Math.max(v, between[i]!));
    const at = (bpm: number): number => trackBeats(both, FPS, { bpm, within: 1.2 }).length;
    expect(Math.abs(at(240) - 120)).toBeLessThanOrEqual(3);
    expect(Math.abs(at(120) - 60)).toBeLessThanOrEqual(2);
    expect(Math.abs(at(60) - 30)).toBeLessThanOrEqual(2);
  });

  describe('where the level that is heard best changes', () => {
    const SECONDS = 80;
    const grid = (bpm: number): number[] => Array.from({ length: Math.floor((SECONDS * bpm) / 60) }, (_, i) => 0.3 + (i * 60) / bpm);
    /** Every beat at 140 a minute up to a moment, then only every other one, with the rest hardly heard. */
    const halvedAt = (moment: number): Float32Array => {
      const weak = grid(140).filter((t, i) => t >= moment && i % 2 === 1);
      const strong = grid(140).filter((t) => !weak.includes(t));
      const faint = curve(weak, SECONDS, 0.08);
      return curve(strong, SECONDS).map((v, i) => Math.max(v, faint[i]!));
    };
    const gaps = (beats: readonly number[]): number[] => beats.slice(1).map((t, i) => t - beats[i]!);

    test.each([20, 40, 60])('after %i of 80 seconds, the song is counted at one of them throughout', (moment) => {
      const beats = trackBeats(halvedAt(moment), FPS).filter((t) => t > 2 && t < SECONDS - 2);
      const lengths = gaps(beats);
      expect(Math.max(...lengths) / Math.min(...lengths)).toBeLessThan(1.3);
      expect([140, 70].some((bpm) => Math.abs(60 / (lengths.reduce((a, b) => a + b) / lengths.length) - bpm) < 2)).toBe(true);
      for (const b of beats) expect(Math.min(...grid(140).map((t) => Math.abs(t - b)))).toBeLessThan(0.045);
    });
    test('a tempo that becomes half as fast again is followed', () => {
      const slow = grid(90).filter((t) => t < 40);
      const fast = grid(135).filter((t) => t > 40.2);
      const beats = trackBeats(curve([...slow, ...fast], SECONDS), FPS);
      const found = [...slow, ...fast].filter((t) => beats.some((b) => Math.abs(b - t) < 0.05));
      expect(found.length).toBeGreaterThanOrEqual(slow.length + fast.length - 4);
    });
  });
});
