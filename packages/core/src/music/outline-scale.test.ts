import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { outlineScale } from './outline-scale.ts';

const PER_SECOND = 20;
const outlineHeights = (outline: Float32Array, perSecond: number): Float32Array => outline.map(outlineScale(outline, perSecond));
/** Attacks on every half second that die away, as loud as is said for their second. */
const song = (levels: readonly number[]): Float32Array =>
  Float32Array.from({ length: levels.length * PER_SECOND }, (_, i) => levels[Math.floor(i / PER_SECOND)]! * Math.exp(-(i % 10) / 3));
const highest = (heights: Float32Array, second: number): number =>
  Math.max(...heights.subarray(second * PER_SECOND, (second + 1) * PER_SECOND));

describe('how tall an outline is drawn', () => {
  test('a song as loud throughout: its attacks all the way up, and their ends lower than they sound', () => {
    const heights = outlineHeights(song(Array.from({ length: 20 }, () => 0.5)), PER_SECOND);
    for (let i = 0; i < heights.length; i++) expect(heights[i]).toBeCloseTo(Math.exp(-(i % 10) / 3) ** 1.7, 5);
  });
  test('attacks in a passage a tenth as loud are seen, well below those of the loud one', () => {
    const heights = outlineHeights(song(Array.from({ length: 40 }, (_, s) => (s < 20 ? 0.1 : 1))), PER_SECOND);
    expect(highest(heights, 30)).toBeCloseTo(1, 5);
    expect(highest(heights, 5)).toBeCloseTo(0.1 ** 0.4, 5);
  });
  test('what is nearly silent is not raised to the height of music', () => {
    const heights = outlineHeights(song(Array.from({ length: 40 }, (_, s) => (s < 20 ? 0.001 : 1))), PER_SECOND);
    expect(highest(heights, 5)).toBeLessThan(0.001);
    expect([...outlineHeights(new Float32Array(100), PER_SECOND)]).toEqual(Array.from({ length: 100 }, () => 0));
  });
  test('any outline stays between nothing and everything, and louder is taller within a moment', () => {
    const value = fc.float({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.array(value, { minLength: 1, maxLength: 400 }), (values) => {
        const outline = Float32Array.from(values);
        const heights = outlineHeights(outline, PER_SECOND);
        expect(heights).toHaveLength(outline.length);
        for (const h of heights) expect(h >= 0 && h <= 1).toBe(true);
        for (let i = 1; i < outline.length; i++)
          if (outline[i]! > 1.6 * outline[i - 1]!) expect(heights[i]).toBeGreaterThan(heights[i - 1]! - 1e-6);
      }),
    );
  });
});
