import { describe, expect, test } from '@jest/globals';
import { beatMeasures, fMeasure } from './beat-measures.ts';

const grid = (gap: number, from = 5, to = 35): number[] => {
  const times: number[] = [];
  for (let i = 0; from + i * gap <= to; i++) times.push(from + i * gap);
  return times;
};
const truth = grid(0.5);

describe('beat measures', () => {
  test('the true beats are all right', () => {
    expect(beatMeasures(truth, truth)).toEqual({ f: 1, cmlt: 1, amlt: 1, offset: 0 });
  });
  test('half the tempo is right at some level, and a third of F is lost', () => {
    const m = beatMeasures(grid(1), truth);
    expect(m.f).toBeCloseTo(2 / 3, 1);
    expect(m.cmlt).toBeLessThan(0.05);
    expect(m.amlt).toBeGreaterThan(0.95);
  });
  test('off the beat is right at some level only', () => {
    const m = beatMeasures(
      truth.map((t) => t + 0.25),
      truth,
    );
    expect(m.f).toBe(0);
    expect(m.cmlt).toBe(0);
    expect(m.amlt).toBeGreaterThan(0.95);
  });
  test('a steady offset is told with its sign', () => {
    expect(
      beatMeasures(
        truth.map((t) => t - 0.012),
        truth,
      ).offset,
    ).toBeCloseTo(-0.012, 9);
  });
  test('beats before five seconds do not count', () => {
    expect(fMeasure([1, 2, 3, ...truth], truth)).toBe(1);
  });
  test('nothing found is nothing right', () => {
    expect(beatMeasures([], truth)).toMatchObject({ f: 0, cmlt: 0, amlt: 0 });
  });
});
