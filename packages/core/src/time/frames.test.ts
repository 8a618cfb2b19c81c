import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { clock } from './clock.ts';
import { cutFrame, frameAt, frameCount, frameTime } from './frames.ts';
import { parseRate, rateLabel, FRAME_RATES } from './rate.ts';

const ntsc = { num: 30000, den: 1001 };

describe('frame rates', () => {
  test.each([
    ['30', 30, 1],
    ['29.97', 30000, 1001],
    ['23.976', 24000, 1001],
    ['59.94', 60000, 1001],
    ['30000/1001', 30000, 1001],
    ['25', 25, 1],
    ['12.5', 25, 2],
  ])('%s is %i/%i', (text, num, den) => expect(parseRate(text)).toEqual({ num, den }));

  test.each(['0', 'fast', '1000', '', '30/0', '-5'])('%p is refused with a sentence', (text) =>
    expect(() => parseRate(text)).toThrow(/frame rate/),
  );

  test('every preset is written so that it reads back', () => {
    for (const rate of FRAME_RATES) expect(parseRate(rateLabel(rate))).toEqual(rate);
  });
});

describe('frames at 30000/1001', () => {
  test('an hour begins 107,893 frames', () => expect(frameCount(3600, ntsc)).toBe(107893));
  test('the start of frame 30 is 1.001 s', () => expect(frameTime(30, ntsc)).toBeCloseTo(1.001, 12));
  test('going to a frame and back is the identity', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2_000_000 }), fc.constantFrom(...FRAME_RATES), (n, rate) => {
        expect(frameAt(frameTime(n, rate), rate)).toBe(n);
        for (const rule of ['nearest', 'never-late', 'never-early'] as const) expect(cutFrame(frameTime(n, rate), rate, rule)).toBe(n);
      }),
    );
  });
  test('each rule keeps its promise', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 20_000, noNaN: true }), fc.constantFrom(...FRAME_RATES), (t, rate) => {
        const frame = rate.den / rate.num;
        expect(Math.abs(frameTime(cutFrame(t, rate, 'nearest'), rate) - t)).toBeLessThanOrEqual(frame / 2 + 1e-6);
        expect(frameTime(cutFrame(t, rate, 'never-late'), rate)).toBeLessThanOrEqual(t + frame * 1e-3);
        expect(frameTime(cutFrame(t, rate, 'never-early'), rate)).toBeGreaterThanOrEqual(t - frame * 1e-3);
      }),
    );
  });
  test('a lead moves the cut by whole frames and never before the start', () => {
    expect(cutFrame(1, { num: 30, den: 1 }, 'nearest', 2)).toBe(28);
    expect(cutFrame(0.01, { num: 30, den: 1 }, 'nearest', 2)).toBe(0);
  });
});

test('clocks', () => {
  expect(clock(61.0456)).toBe('1:01.046');
  expect(clock(59.9999)).toBe('1:00.000');
  expect(clock(-0.5)).toBe('-0:00.500');
});
