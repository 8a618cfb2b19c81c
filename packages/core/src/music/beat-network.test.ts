import { describe, expect, test } from '@jest/globals';
import { BEAT_NETWORK, BEAT_WEIGHTS } from './beat-network.weights.ts';
import { beatChances } from './beat-network.ts';

/** The network again, written as plainly as can be: what the compiled layers must agree with. */
function plainly(pulse: Float32Array): { beat: number[]; downbeat: number[] } {
  const [width, channels, taps, blocks] = BEAT_NETWORK as readonly [number, number, number, number];
  const values = BEAT_WEIGHTS;
  const frames = pulse.length / width;
  let at = 0;
  const layer = (x: readonly (readonly number[])[], k: number, dilation: number): number[][] => {
    const inputs = x[0]!.length;
    const weights = values.subarray(at, at + k * inputs * channels);
    const bias = values.subarray(at + k * inputs * channels, at + k * inputs * channels + channels);
    at += k * inputs * channels + channels;
    return x.map((_, t) =>
      Array.from({ length: channels }, (_, o) => {
        let sum = bias[o]!;
        for (let tap = 0; tap < k; tap++) {
          const from = x[t + (tap - (k >> 1)) * dilation];
          if (from) for (let i = 0; i < inputs; i++) sum += weights[(tap * inputs + i) * channels + o]! * from[i]!;
        }
        return sum;
      }),
    );
  };
  const clip = (x: number[][]): number[][] => x.map((row) => row.map((v) => Math.max(0, v)));
  let x = clip(
    layer(
      Array.from({ length: frames }, (_, t) => [...pulse.subarray(t * width, (t + 1) * width)]),
      1,
      1,
    ),
  );
  for (let b = 0; b < blocks; b++) {
    const y = layer(clip(layer(x, taps, 2 ** b)), 1, 1);
    x = x.map((row, t) => row.map((v, c) => v + y[t]![c]!));
  }
  const head = layer(clip(x), 1, 1);
  const chance = (v: number): number => 1 / (1 + Math.exp(-v));
  return { beat: head.map((row) => chance(row[0]!)), downbeat: head.map((row) => chance(row[1]!)) };
}

describe('the compiled network', () => {
  const width = BEAT_NETWORK[0]!;
  const made = (frames: number): Float32Array =>
    Float32Array.from(
      { length: frames * width },
      (_, i) => Math.abs(Math.sin(i * 0.37) * Math.sin(i * 0.011)) * (Math.floor(i / width) % 25 < 3 ? 1.2 : 0.3),
    );

  test.each([1, 2, 37, 120])('agrees with the same sums done plainly, over %i frames', (frames) => {
    const pulse = made(frames);
    const fast = beatChances(pulse, width);
    const plain = plainly(pulse);
    expect(fast.beat.length).toBe(frames);
    for (let t = 0; t < frames; t++) {
      expect(fast.beat[t]).toBeCloseTo(plain.beat[t]!, 4);
      expect(fast.downbeat[t]).toBeCloseTo(plain.downbeat[t]!, 4);
    }
  });
  test('the same song gives the same chances', () => {
    expect(beatChances(made(60), width)).toEqual(beatChances(made(60), width));
  });
  test('nothing to hear gives nothing', () => expect(beatChances(new Float32Array(0), width).beat.length).toBe(0));
  test('a width that it was not trained for is refused', () => expect(() => beatChances(made(3), width + 1)).toThrow(/hears/));
});
