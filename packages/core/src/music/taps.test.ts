import { describe, expect, test } from '@jest/globals';
import { MARKS, type MarkKind } from '../marks/kinds/all.ts';
import fc from 'fast-check';
import { cleanTaps, drawnToOnsets, steadyLateness, tappingOf, tapTime } from './taps.ts';

const rankOf = (kind: MarkKind): number => MARKS[kind].rank;

test('a tap counts when the key went down, not when its handler ran', () => {
  // Context second 10.0 left the speakers at page millisecond 5000; the song's second 3 was started at context second 8.
  const output = { contextTime: 10, performanceTime: 5000 };
  expect(tapTime(5000, output, 8, 3)).toBeCloseTo(5, 9);
  expect(tapTime(4880, output, 8, 3)).toBeCloseTo(4.88, 9);
  expect(tapTime(5100, output, 8, 3, 0.5)).toBeCloseTo(3 + 2.1 * 0.5, 9);
  expect(tapTime(5000, output, 8, 3, 1, 0.046)).toBeCloseTo(4.954, 9);
});

test('double taps within 60 ms are one, and the higher kind stays', () => {
  expect(
    cleanTaps(
      [
        { time: 1, kind: 'beat' },
        { time: 1.04, kind: 'bar' },
        { time: 1.5, kind: 'beat' },
      ],
      rankOf,
    ),
  ).toEqual([
    { time: 1, kind: 'bar' },
    { time: 1.5, kind: 'beat' },
  ]);
});

test('cleaned taps are in order and never closer than 60 ms', () => {
  const tap = fc.record({
    time: fc.double({ min: 0, max: 20, noNaN: true }),
    kind: fc.constantFrom('beat' as const, 'bar' as const, 'drop' as const),
  });
  fc.assert(
    fc.property(fc.array(tap), (taps) => {
      const clean = cleanTaps(taps, rankOf);
      for (let i = 1; i < clean.length; i++) expect(clean[i]!.time - clean[i - 1]!.time).toBeGreaterThanOrEqual(0.06);
    }),
  );
});

describe('lateness', () => {
  const clicks = Array.from({ length: 16 }, (_, i) => 1 + i * 0.6);
  test('is the middle of what taps are late by, whatever one slip does', () => {
    const taps = clicks.map((t, i) => t + 0.046 + (i % 2 === 0 ? 0.004 : -0.004));
    taps[5] = clicks[5]! + 0.2;
    const tapping = tappingOf(taps, clicks)!;
    expect(tapping.lateness).toBeCloseTo(0.046, 2);
    expect(tapping.spread).toBeLessThan(0.006);
    expect(tapping.taps).toBe(16);
  });
  test('is not told from a few taps, nor from taps that have nothing to do with the clicks', () => {
    expect(tappingOf(clicks.slice(0, 4), clicks)).toBeNull();
    expect(
      tappingOf(
        clicks.map((t) => t + 40),
        clicks,
      ),
    ).toBeNull();
  });
  test('that is steady is noticed against onsets; a small or wild one is not', () => {
    const onsets = Array.from({ length: 40 }, (_, i) => i * 0.3);
    const late = (by: (i: number) => number): number[] => clicks.map((t, i) => t + 0.2 + by(i));
    expect(
      steadyLateness(
        late(() => 0.046),
        onsets,
      )!.lateness,
    ).toBeCloseTo(0.046, 3);
    expect(
      steadyLateness(
        late(() => 0.006),
        onsets,
      ),
    ).toBeNull();
    expect(
      steadyLateness(
        late((i) => 0.1 * Math.sin(i * 1.7)),
        onsets,
      ),
    ).toBeNull();
  });
});

test('taps are drawn to the strong onset in their window, and stay where there is none', () => {
  const onsets = [
    { time: 0.99, strength: 0.2 },
    { time: 1.03, strength: 1 },
    { time: 2.2, strength: 1 },
  ];
  const taps = [1, 2].map((time) => ({ time, kind: 'beat' as const }));
  expect(drawnToOnsets(taps, onsets, 0.06).map((t) => t.time)).toEqual([1.03, 2]);
});
