import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { attackNear } from './attack.ts';
import { Fft } from './fft.ts';
import { peaks } from './peaks.ts';
import { arrangedLength, toMontageTime, toSongTime } from './arrangement.ts';

function slowTransform(re: readonly number[], im: readonly number[]): [number[], number[]] {
  const n = re.length;
  const out: [number[], number[]] = [[], []];
  for (let k = 0; k < n; k++) {
    let a = 0;
    let b = 0;
    for (let i = 0; i < n; i++) {
      const angle = (-2 * Math.PI * k * i) / n;
      a += re[i]! * Math.cos(angle) - im[i]! * Math.sin(angle);
      b += re[i]! * Math.sin(angle) + im[i]! * Math.cos(angle);
    }
    out[0].push(a);
    out[1].push(b);
  }
  return out;
}

describe('the transform', () => {
  test.each([2, 4, 8, 16, 32, 64, 128])('of size %i is the definition', (size) => {
    const re = Array.from({ length: size }, (_, i) => Math.sin(i * 1.7) + (i % 3));
    const im = Array.from({ length: size }, (_, i) => Math.cos(i * 0.3));
    const [wantRe, wantIm] = slowTransform(re, im);
    const gotRe = Float64Array.from(re);
    const gotIm = Float64Array.from(im);
    new Fft(size).transform(gotRe, gotIm);
    for (let k = 0; k < size; k++) {
      expect(gotRe[k]).toBeCloseTo(wantRe[k]!, 8);
      expect(gotIm[k]).toBeCloseTo(wantIm[k]!, 8);
    }
  });
  test('a size that is no power of two is refused', () => expect(() => new Fft(12)).toThrow(/power of two/));
});

test('an attack is found to 3 ms wherever it lies', () => {
  fc.assert(
    fc.property(fc.integer({ min: -30, max: 30 }), (offset) => {
      const rate = 22050;
      const at = 1 + offset / 1000;
      let noise = 7;
      const samples = Float32Array.from({ length: 2 * rate }, (_, i) => {
        const t = i / rate - at;
        noise = (Math.imul(noise, 1664525) + 1013904223) | 0;
        const hum = 0.01 * Math.sin(i * 0.05);
        return t < 0 ? hum : hum + (noise / 2147483648) * 0.6 * Math.exp(-t / 0.05);
      });
      const found = attackNear({ samples, rate }, 1, 0.04);
      expect(Math.abs(found.time - at)).toBeLessThan(0.003);
      expect(found.clarity).toBeGreaterThan(0.3);
    }),
    { numRuns: 40 },
  );
});

test('peaks keep bands apart', () => {
  const rate = 22050;
  const tone = (hz: number): Float32Array => Float32Array.from({ length: rate }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rate));
  const low = peaks({ samples: tone(60), rate });
  const high = peaks({ samples: tone(8000), rate });
  const middle = (p: Float32Array): number => p[Math.floor(p.length / 2)]!;
  expect(middle(low.low)).toBeGreaterThan(3 * middle(low.high));
  expect(middle(high.high)).toBeGreaterThan(3 * middle(high.low));
  expect(low.all.length).toBe(200);
});

describe('the arranged song', () => {
  const pieces = [
    { from: 2, to: 6 },
    { from: 10, to: 15 },
  ];
  test('lasts as long as its pieces', () => expect(arrangedLength(pieces)).toBe(9));
  test('a moment that was cut out has no montage time', () => {
    expect(toMontageTime(pieces, 8)).toBeNull();
    expect(toMontageTime(pieces, 6)).toBeNull();
    expect(toMontageTime(pieces, 10)).toBe(4);
    expect(toMontageTime(pieces, 15)).toBe(9);
  });
  test('there and back', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 8.999, noNaN: true }), (t) => {
        expect(toMontageTime(pieces, toSongTime(pieces, t))).toBeCloseTo(t, 9);
      }),
    );
  });
});
