import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { framesPerSecond, FRAME_RATES, type FrameRate } from '../time/rate.ts';
import { countingRate } from './counting-rate.ts';

const every = (fps: number, numbers: readonly number[], from = 0): number[] => numbers.map((n) => from + n / fps);
const upTo = (n: number): number[] => Array.from({ length: n }, (_, i) => i);
const rate = (num: number, den = 1): FrameRate => ({ num, den });

test('a steady clip is counted at the rate that its file says', () => {
  for (const said of FRAME_RATES) expect(countingRate(every(framesPerSecond(said), upTo(300), 1.4), said)).toEqual(said);
});

test('frames left out of thirty a second are counted at thirty, whatever their mean is', () => {
  const kept = upTo(300).filter((n) => n % 3 === 0 || n % 7 === 0 || n > 90);
  expect(countingRate(every(30, kept), rate(24630, 1000))).toEqual(rate(30));
});

test('a screen recording with pauses of seconds keeps its grid', () => {
  expect(countingRate(every(60, [0, 1, 2, 5, 300, 301, 480]), rate(10))).toEqual(rate(60));
});

test('milliseconds of rounding, as in WebM, do not matter', () => {
  const stamps = every(30000 / 1001, upTo(400)).map((t) => Math.round(t * 1000) / 1000);
  expect(countingRate(stamps, rate(30))).toEqual(rate(30000, 1001));
});

test('one frame, or none, says nothing', () => {
  expect(countingRate([], rate(25))).toEqual(rate(25));
  expect(countingRate([3], rate(25))).toEqual(rate(25));
});

test('no two frames are counted as one, and each is near its time, down to gaps of 1/240 s', () => {
  const gaps = fc.array(fc.double({ min: 1 / 115, max: 0.3, noNaN: true }), { minLength: 1, maxLength: 60 });
  fc.assert(
    fc.property(gaps, (between) => {
      const stamps = between.reduce((all, gap) => [...all, all.at(-1)! + gap], [0]);
      const fps = framesPerSecond(countingRate(stamps, rate(30)));
      const counts = stamps.map((t) => Math.round(t * fps));
      expect(new Set(counts).size).toBe(counts.length);
      stamps.forEach((t, i) => expect(Math.abs(t - counts[i]! / fps)).toBeLessThanOrEqual(1 / 240 + 1e-9));
    }),
  );
});
