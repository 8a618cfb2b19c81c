import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { cleanTaps, tapTime } from './taps.ts';

test('a tap counts when the key went down, not when its handler ran', () => {
  // Context second 10.0 left the speakers at page millisecond 5000; the song's second 3 was started at context second 8.
  const output = { contextTime: 10, performanceTime: 5000 };
  expect(tapTime(5000, output, 8, 3)).toBeCloseTo(5, 9);
  expect(tapTime(4880, output, 8, 3)).toBeCloseTo(4.88, 9);
  expect(tapTime(5100, output, 8, 3, 0.5)).toBeCloseTo(3 + 2.1 * 0.5, 9);
  expect(tapTime(5000, output, 8, 3, 1, 0.046)).toBeCloseTo(4.954, 9);
});

test('double taps within 60 ms are one, and the higher kind stays', () => {
  expect(
    cleanTaps([
      { time: 1, kind: 'beat' },
      { time: 1.04, kind: 'bar' },
      { time: 1.5, kind: 'beat' },
    ]),
  ).toEqual([
    { time: 1, kind: 'bar' },
    { time: 1.5, kind: 'beat' },
  ]);
});

test('cleaned taps are in order and never closer than 60 ms', () => {
  const tap = fc.record({
    time: fc.double({ min: 0, max: 20, noNaN: true }),
    kind: fc.constantFrom('beat' as const, 'bar' as const, 'drop' as const),
  });
  fc.assert(
    fc.property(fc.array(tap), (taps) => {
      const clean = cleanTaps(taps);
      for (let i = 1; i < clean.length; i++) expect(clean[i]!.time - clean[i - 1]!.time).toBeGreaterThanOrEqual(0.06);
    }),
  );
});
