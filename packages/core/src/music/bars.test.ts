import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { findBars } from './bars.ts';
import { beatChance, trackBeats } from './beat-tracking.ts';
import { tempogram } from './tempogram.ts';

/** Evidence that stands out on every n-th beat from a first one. */
const evidence = (count: number, metre: number, first: number): number[] =>
  Array.from({ length: count }, (_, i) => ((i - first) % metre === 0 ? 1.5 : -0.5));

describe('bars', () => {
  test.each([
    [4, 0],
    [4, 3],
    [3, 1],
  ])('of %i beats are counted from beat %i on', (metre, first) => {
    const grid = findBars(evidence(48, metre, first));
    expect(grid.metre).toBe(metre);
    expect(grid.downbeats).toEqual(Array.from({ length: 48 }, (_, i) => i).filter((i) => (i - first) % metre === 0));
  });
  test('one beat too many is counted over, and the bars go on after it', () => {
    const broken = [...evidence(24, 4, 0), -0.5, ...evidence(24, 4, 0)];
    const { downbeats } = findBars(broken);
    expect(downbeats.filter((i) => i < 24)).toEqual([0, 4, 8, 12, 16, 20]);
    expect(downbeats.filter((i) => i > 28)).toEqual([29, 33, 37, 41, 45]);
  });
  test('nothing to go by makes no bars', () => expect(findBars([]).downbeats).toEqual([]));
});

describe('beats from onset strength', () => {
  const FPS = 100;
  /** A curve with an onset every so many frames, weaker ones between, each spread over its neighbours as real ones are. */
  const curve = (length: number, every: number, first: number): Float32Array =>
    Float32Array.from({ length }, (_, i) => {
      const after = (((i - first) % every) + every) % every;
      const near = (place: number): number => Math.exp(-(Math.min(Math.abs(after - place), every - Math.abs(after - place)) ** 2));
      return 0.02 + near(0) + 0.35 * near(Math.floor(every / 2));
    });

  test('are found at any tempo from 60 to 170, wherever they start', () => {
    fc.assert(
      fc.property(fc.integer({ min: 36, max: 100 }), fc.integer({ min: 0, max: 35 }), (every, first) => {
        const strength = curve(3000, every, first);
        const beats = trackBeats(beatChance(strength, FPS), tempogram(strength, FPS));
        const inner = beats.slice(2, -2);
        // At most tempi every beat lies on an onset; at twice the onsets' tempo every other one does.
        const on = inner.filter((b) => Math.min((((b - first) % every) + every) % every, (((first - b) % every) + every) % every) <= 2);
        expect(on.length / inner.length).toBeGreaterThanOrEqual(0.5);
        expect(inner.length).toBeGreaterThan(15);
      }),
      { numRuns: 30 },
    );
  });
  test('follow a tempo that rises by a fifth', () => {
    const truth: number[] = [];
    for (let t = 20; t < 4000; t += 60 - (10 * t) / 4000) truth.push(Math.round(t));
    const strength = new Float32Array(4000).fill(0.02);
    for (const t of truth) strength[t] = 1;
    const beats = trackBeats(beatChance(strength, FPS), tempogram(strength, FPS));
    const hit = truth.filter((t) => beats.some((b) => Math.abs(b - t) <= 2));
    expect(hit.length / truth.length).toBeGreaterThan(0.95);
    expect(Math.abs(beats.length - truth.length)).toBeLessThanOrEqual(2);
  });
});
