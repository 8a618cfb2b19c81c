import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { columnsOf, type Channels } from './sound-columns.ts';

const sound = (...channels: readonly (readonly number[])[]): Channels => ({
  length: channels[0]!.length,
  numberOfChannels: channels.length,
  getChannelData: (n) => Float32Array.from(channels[n]!),
});

describe('a sound in columns', () => {
  test('each says how far both channels together swing', () => {
    const columns = columnsOf(sound([0.5, -0.5, 0.25, 1, 0.5], [0.5, -0.25, 0.25, 0, 0.5]), 2);
    expect(columns.count).toBe(3);
    expect([0, 1, 2].map(columns.high)).toEqual([0.5, 0.5, 0.5]);
    expect([0, 1, 2].map(columns.low)).toEqual([-0.375, 0, 0]);
  });

  test('begin where they should however long they are, far into a sound too', () => {
    const samples = new Array<number>(10_000).fill(0);
    samples[9_000] = 1;
    const columns = columnsOf(sound(samples), 57.4);
    const loud = Array.from({ length: columns.count }, (_, n) => n).filter((n) => columns.high(n) > 0);
    expect(loud).toEqual([Math.floor(9_000 / 57.4)]);
  });

  test('are kept while the same are asked for, and found anew for others', () => {
    const one = sound([1, -1, 1, -1]);
    const first = columnsOf(one, 2);
    expect(columnsOf(one, 2)).toBe(first);
    expect(columnsOf(one, 1).count).toBe(4);
  });

  test('no sample is left out, whatever is asked for first', () => {
    const values = fc.array(
      fc.float({ min: -1, max: 1, noNaN: true }).map((value) => value + 0),
      { minLength: 1, maxLength: 60 },
    );
    fc.assert(
      fc.property(values, fc.double({ min: 1, max: 70, noNaN: true }), fc.boolean(), (samples, perColumn, backwards) => {
        const columns = columnsOf(sound(samples), perColumn);
        const order = Array.from({ length: columns.count }, (_, n) => (backwards ? columns.count - 1 - n : n));
        const swings = order.map((n) => [columns.low(n), columns.high(n)] as const);
        expect(Math.min(...swings.map(([low]) => low))).toBe(Math.min(0, ...samples));
        expect(Math.max(...swings.map(([, high]) => high))).toBe(Math.max(0, ...samples));
      }),
    );
  });
});
