import { describe, expect, test } from '@jest/globals';
import { findBars } from './bars.ts';

/** Evidence that stands out on every n-th beat from a first one. */
const evidence = (count: number, metre: number, first: number): number[] =>
  Array.from({ length: count }, (_, i) => ((((i - first) % metre) + metre) % metre === 0 ? 2 : -3));

/** A march's beat, and a ballad's, seconds. */
const [QUICK, SLOW] = [0.5, 0.9];

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
    const grid = findBars(evidence(84, metre, first), QUICK);
    expect(grid.metre).toBe(metre);
    expect(grid.downbeats).toEqual(Array.from({ length: 84 }, (_, i) => i).filter((i) => (((i - first) % metre) + metre) % metre === 0));
  });
  test('of two beats are quick ones: slow beats of which every other one stands out a little are in four', () => {
    const little = evidence(84, 2, 0).map((e) => Math.min(0, e));
    expect(findBars(little, QUICK).metre).toBe(2);
    expect(findBars(little, SLOW).metre).toBe(4);
  });
  test('a metre that changes is followed', () => {
    const { downbeats } = findBars([...evidence(32, 4, 0), ...evidence(30, 3, 0), ...evidence(70, 5, 0)], QUICK);
    const starts = [
      0, 4, 8, 12, 16, 20, 24, 28, 32, 35, 38, 41, 44, 47, 50, 53, 56, 59, 62, 67, 72, 77, 82, 87, 92, 97, 102, 107, 112, 117, 122, 127,
    ];
    expect(downbeats).toEqual(starts);
  });
  test('one beat too many is counted over, and the bars go on after it', () => {
    const { downbeats } = findBars([...evidence(24, 4, 0), -3, ...evidence(24, 4, 0)], QUICK);
    expect(downbeats.filter((i) => i < 24)).toEqual([0, 4, 8, 12, 16, 20]);
    expect(downbeats.filter((i) => i > 28)).toEqual([29, 33, 37, 41, 45]);
  });
  test('a metre that is known is kept against the evidence', () => {
    const { metre, downbeats } = findBars(evidence(40, 4, 0), QUICK, 3);
    expect(metre).toBe(3);
    const gaps = downbeats.slice(1).map((d, i) => d - downbeats[i]!);
    expect(gaps.filter((g) => g === 3).length).toBeGreaterThan(gaps.length * 0.8);
  });
  test('nothing to go by makes no bars', () => expect(findBars([], QUICK).downbeats).toEqual([]));
});
