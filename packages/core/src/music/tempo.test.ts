import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { middleTempo, tempoCurve } from './tempo.ts';

test('an even tempo is the same everywhere, even with a beat out of place', () => {
  fc.assert(
    fc.property(fc.integer({ min: 40, max: 240 }), fc.integer({ min: 5, max: 25 }), (bpm, slip) => {
      const beats = Array.from({ length: 32 }, (_, i) => (i * 60) / bpm);
      beats[slip]! += 10 / bpm;
      for (const p of tempoCurve(beats)) expect(p.bpm).toBeCloseTo(bpm, 6);
    }),
  );
});
test('a tempo that rises is followed', () => {
  const beats = [0];
  for (let i = 0; i < 60; i++) beats.push(beats.at(-1)! + 0.6 - 0.003 * i);
  const curve = tempoCurve(beats);
  expect(curve[6]!.bpm).toBeGreaterThan(100);
  expect(curve.at(-1)!.bpm).toBeGreaterThan(curve[6]!.bpm * 1.25);
  for (let i = 1; i < curve.length; i++) expect(curve[i]!.bpm).toBeGreaterThanOrEqual(curve[i - 1]!.bpm - 1e-9);
});
test('one beat has no tempo', () => expect(tempoCurve([3])).toEqual([]));

test("a song's tempo is that of most of it, whatever a slow ending does", () => {
  expect(middleTempo([0, 0.5, 1, 1.5, 2, 2.9, 4.5])).toBeCloseTo(120, 9);
  expect(middleTempo([0, 0.5])).toBeNull();
});
