import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { findBars } from './bars.ts';
import { trackBeats } from './beat-tracking.ts';

/** Chances that stand out on every n-th beat from a first one. */
const chances = (count: number, metre: number, first: number): number[] =>
  Array.from({ length: count }, (_, i) => ((((i - first) % metre) + metre) % metre === 0 ? 0.7 : 0.08));

describe('bars', () => {
  test.each([
    [2, 1],
    [3, 1],
    [4, 0],
    [4, 3],
    [5, 2],
    [6, 4],
    [7, 0],
  ])('of %i beats are counted from beat %i on', (metre, first) => {
    const grid = findBars(chances(84, metre, first));
    expect(grid.metre).toBe(metre);
    expect(grid.downbeats).toEqual(Array.from({ length: 84 }, (_, i) => i).filter((i) => (((i - first) % metre) + metre) % metre === 0));
  });
  test('a metre that changes is followed', () => {
    const { downbeats } = findBars([...chances(32, 4, 0), ...chances(30, 3, 0), ...chances(35, 5, 0)]);
    const starts = [0, 4, 8, 12, 16, 20, 24, 28, 32, 35, 38, 41, 44, 47, 50, 53, 56, 59, 62, 67, 72, 77, 82, 87, 92];
    expect(downbeats).toEqual(starts);
  });
  test('one beat too many is counted over, and the bars go on after it', () => {
    const { downbeats } = findBars([...chances(24, 4, 0), 0.08, ...chances(24, 4, 0)]);
    expect(downbeats.filter((i) => i < 24)).toEqual([0, 4, 8, 12, 16, 20]);
    expect(downbeats.filter((i) => i > 28)).toEqual([29, 33, 37, 41, 45]);
  });
  test('a metre that is known is kept against the evidence', () => {
    const { metre, downbeats } = findBars(chances(40, 4, 0), 3);
    expect(metre).toBe(3);
    const gaps = downbeats.slice(1).map((d, i) => d - downbeats[i]!);
    expect(gaps.filter((g) => g === 3).length).toBeGreaterThan(gaps.length * 0.8);
  });
  test('nothing to go by makes no bars', () => expect(findBars([]).downbeats).toEqual([]));
});

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
});
