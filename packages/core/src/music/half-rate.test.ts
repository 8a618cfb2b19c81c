import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { HalfRate } from './half-rate.ts';

const RATE = 44_100;
const tone = (hz: number, samples = 8820): Float32Array =>
  Float32Array.from({ length: samples }, (_, i) => Math.sin((2 * Math.PI * hz * i) / RATE));

function halved(samples: Float32Array): Float32Array {
  const half = new HalfRate();
  const [a, b] = [half.push(samples), half.finish()];
  return Float32Array.of(...a, ...b);
}
const level = (samples: Float32Array): number =>
  Math.sqrt(samples.slice(200, -200).reduce((s, v) => s + v * v, 0) / (samples.length - 400));

test.each([100, 1000, 5000, 8000])('%i Hz goes through as it is, without delay', (hz) => {
  const out = halved(tone(hz));
  expect(out.length).toBe(4410);
  for (let n = 100; n < 4300; n++) expect(out[n]).toBeCloseTo(Math.sin((2 * Math.PI * hz * 2 * n) / RATE), 1);
});
test.each([14_500, 16_000, 20_000])('%i Hz, which half the rate cannot hold, is gone', (hz) => {
  expect(20 * Math.log10(level(halved(tone(hz))) / level(tone(hz)))).toBeLessThan(-50);
});

/** The same, given piece by piece. */
function halvedInPieces(whole: Float32Array | Int16Array, sizes: readonly number[]): Float32Array {
  const half = new HalfRate();
  const out: number[] = [];
  for (let at = 0, i = 0; at < whole.length; i++) {
    const size = sizes[i % sizes.length]!;
    out.push(...half.push(whole.subarray(at, at + size)));
    at += size;
  }
  return Float32Array.of(...out, ...half.finish());
}
const sizes = (max: number): fc.Arbitrary<number[]> => fc.array(fc.integer({ min: 1, max }), { minLength: 1, maxLength: 20 });

test('sound in pieces of any size comes out as it does in one', () => {
  const whole = tone(440, 5000);
  const expected = halved(whole);
  fc.assert(
    fc.property(sizes(900), (pieces) => expect(halvedInPieces(whole, pieces)).toEqual(expected)),
    { numRuns: 30 },
  );
});
test('samples of 16 bits are heard as the floats that they stand for, in pieces of any size', () => {
  const whole = Int16Array.from(tone(440, 3000), (v) => Math.round(32_767 * v));
  const expected = halved(Float32Array.from(whole, (v) => v / 32_768));
  fc.assert(
    fc.property(sizes(40), (pieces) => expect(halvedInPieces(whole, pieces)).toEqual(expected)),
    { numRuns: 20 },
  );
});
