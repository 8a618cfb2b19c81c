import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { Fft } from './fft.ts';
import { OnsetMeter, onsetStrength, type OnsetStrength } from './onset-strength.ts';
import { SpectrumKernel, type FilterBank } from './spectrum-kernel.ts';

/** Noise between -1 and 1 that is the same every time. */
function noise(length: number): Float32Array {
  let state = 99;
  return Float32Array.from({ length }, () => (state = (Math.imul(state, 1664525) + 1013904223) | 0) / 2147483648);
}

const TWO_BANDS: FilterBank = {
  count: 2,
  first: Uint32Array.of(1, 4),
  at: Uint32Array.of(0, 3, 5),
  weights: Float32Array.of(0.25, 0.5, 0.25, 0.5, 0.5),
  hz: [100, 1000],
};

describe('the compiled kernel', () => {
  test.each([16, 32, 256, 1024, 2048])('magnitudes of windows of %i samples are those of the plain transform', (size) => {
    const window = Float32Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
    const kernel = new SpectrumKernel(window, TWO_BANDS, 1, 1, 2);
    const samples = [noise(size), noise(2 * size).slice(size)] as const;
    samples.forEach((s, which) => kernel.inputs[which]!.set(s));
    kernel.transform();
    samples.forEach((s, which) => {
      const re = Float64Array.from(s, (v, i) => v * window[i]!);
      const im = new Float64Array(size);
      new Fft(size).transform(re, im);
      const got = kernel.magnitude(which as 0 | 1);
      for (let k = 1; k < size / 2; k++) expect(got[k]).toBeCloseTo(Math.hypot(re[k]!, im[k]!), 3);
    });
  });

  test('bands are weighted sums, on a log scale, and rises are against the frame before', () => {
    const kernel = new SpectrumKernel(new Float32Array(32).fill(1), TWO_BANDS, 1, 1, 2);
    const wave = Float32Array.from({ length: 32 }, (_, i) => Math.cos((2 * Math.PI * 2 * i) / 32)); // 16 in bin 2, else nothing
    kernel.inputs[0].set(wave);
    kernel.inputs[1].set(wave.map((v) => v * 3));
    kernel.transform();
    const first = Float32Array.from(kernel.hear(0, 0, 1));
    expect(kernel.levels(0, 2)[0]).toBeCloseTo(Math.log10(1 + 0.5 * 16), 4);
    expect(kernel.levels(0, 2)[1]).toBeCloseTo(0, 4);
    expect(first[0]).toBeCloseTo(Math.log10(9), 4); // the low band rose from silence
    expect(first[3]).toBeCloseTo(Math.log(0.001 + 64 / 2), 3);
    const second = kernel.hear(1, 1, 1);
    expect(second[0]).toBeCloseTo(Math.log10(25) - Math.log10(9), 4);
    // Its neighbour below was louder before: that is no rise.
    expect(second[2]).toBeCloseTo(0, 4);
  });
});

/** Whether two numbers, or two lists of numbers, are the same to the last bit. */
const isSame = (a: number | Float32Array, b: number | Float32Array): boolean =>
  typeof a === 'number' || typeof b === 'number' ? a === b : a.length === b.length && a.every((v, i) => Object.is(v, b[i]));

test('a song heard in pieces of any size is the song heard whole', () => {
  const rate = 8000;
  const samples = noise(rate * 3).map((v, i) => v * (i % 2000 < 300 ? 0.8 : 0.05));
  const whole = onsetStrength({ samples, rate });
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 9000 }), { minLength: 1, maxLength: 30 }), (sizes) => {
      const meter = new OnsetMeter(rate, 0.5); // shorter than the song, so that its memory grows
      for (let at = 0, i = 0; at < samples.length; i++) {
        const size = sizes[i % sizes.length]!;
        meter.push(samples.subarray(at, at + size));
        at += size;
      }
      const { signal, onsets } = meter.finish();
      expect(isSame(signal.samples, samples)).toBe(true);
      // Expectations of lists this long take a third of a second each.
      expect(Object.keys(onsets)).toEqual(Object.keys(whole));
      for (const key of Object.keys(whole) as (keyof OnsetStrength)[]) expect([key, isSame(onsets[key], whole[key])]).toEqual([key, true]);
    }),
    { numRuns: 25 },
  );
});
