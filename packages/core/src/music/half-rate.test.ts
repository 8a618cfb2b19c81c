import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { HalfRate } from './half-rate.ts';

const RATE = 44_100;
const tone = (hz: number, samples = 8820): Float32Array =>
  Float32Array.from({ length: samples }, (_, i) => Math.sin((2 * Math.PI * hz * i) / RATE));

/** The same as whole numbers of 16 bits. */
const whole = (samples: Float32Array): Int16Array => Int16Array.from(samples, (v) => Math.round(32_767 * v));

function halved(samples: Float32Array): Float32Array {
  const half = new HalfRate();
  const [a, b] = [half.push(whole(samples)), half.finish()];
  return Float32Array.of(...a, ...b);
}
const level = (samples: Float32Array): number =>
  Math.sqrt(samples.slice(200, -200).reduce((s, v) => s + v * v, 0) / (samples.length - 400));

test.each([100, 1000, 5000, 8000])('%i Hz goes through as it is, without delay', (hz) => {
  const out = halved(tone(hz));
  expect(out.length).toBe(4410);
  const off = out.slice(100, 4300).map((v, n) => Math.abs(v - Math.sin((2 * Math.PI * hz * 2 * (n + 100)) / RATE)));
  expect(Math.max(...off)).toBeLessThan(0.05);
});
test.each([14_500, 16_000, 20_000])('%i Hz, which half the rate cannot hold, is gone', (hz) => {
  expect(20 * Math.log10(level(halved(tone(hz))) / level(tone(hz)))).toBeLessThan(-50);
});

test.each([-32_768, -1, 1, 32_767])('%i stays what it is of full scale, to the last bit', (value) => {
  const out = new HalfRate().push(new Int16Array(400).fill(value));
  for (const v of out.subarray(20, 150)) expect(v).toBeCloseTo(value / 32_768, 6);
});

test('sound in pieces of any size comes out as it does in one', () => {
  const sound = tone(440, 5000);
  const expected = halved(sound);
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 900 }), { minLength: 1, maxLength: 20 }), (sizes) => {
      const half = new HalfRate();
      const out: number[] = [];
      for (let at = 0, i = 0; at < sound.length; i++) {
        const size = sizes[i % sizes.length]!;
        out.push(...half.push(whole(sound.subarray(at, at + size))));
        at += size;
      }
      out.push(...half.finish());
      expect(out.length).toBe(expected.length);
      expect(out.findIndex((v, i) => v !== expected[i])).toBe(-1);
    }),
    { numRuns: 30 },
  );
});
