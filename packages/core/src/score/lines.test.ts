import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { emptyMontage } from '../document/montage.ts';
import { BARS_A_LINE, barAndBeat, layLines, nearestMark } from './lines.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { carryOut } from '../commands/carry-out.ts';

const whole = [{ from: 0, to: 20 }];

describe('lines', () => {
  test.each([
    [1, 10],
    [2, 5],
    [4, 3],
    [8, 2],
    [16, 1],
  ] as const)('%i bars a line make %i lines of a song of ten bars', (bars, count) => {
    const lines = layLines(sampleMontage(), whole, bars);
    expect(lines).toHaveLength(count);
    expect(lines.map((l) => l.bar)).toEqual(Array.from({ length: count }, (_, i) => 1 + i * bars));
  });
  test('what lies before the first bar has a line of its own when it is long', () => {
    const late = carryOut(sampleMontage(), { do: 'takeBeatTimes', times: Array.from({ length: 20 }, (_, i) => 8 + i * 0.5), metre: 4 });
    const [first, second] = layLines(late, whole, 4);
    expect(first).toMatchObject({ from: 0, to: 8, bar: 0 });
    expect(second).toMatchObject({ from: 8, bar: 1 });
  });
  test('without bars they hold two seconds a bar', () => {
    const bare = carryOut(emptyMontage(), { do: 'setSong', assetId: 's', name: 's', length: 20 });
    expect(layLines(bare, whole, 4).map((l) => [l.from, l.to])).toEqual([
      [0, 8],
      [8, 16],
      [16, 20],
    ]);
  });
  test('they follow one another over the whole song, whatever was cut out of it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 9, noNaN: true }),
        fc.double({ min: 10, max: 20, noNaN: true }),
        fc.constantFrom(...BARS_A_LINE),
        (from, to, bars) => {
          const lines = layLines(sampleMontage(), [{ from, to }], bars);
          expect(lines[0]!.from).toBe(0);
          expect(lines.at(-1)!.to).toBeCloseTo(to - from, 9);
          lines.slice(1).forEach((line, i) => expect(line.from).toBe(lines[i]!.to));
          for (const line of lines) expect(line.span).toBeGreaterThanOrEqual(line.to - line.from - 1e-9);
        },
      ),
    );
  });
  test('no song, no lines', () => expect(layLines(emptyMontage(), [], 4)).toEqual([]));
});

test('bar and beat are counted from one', () => {
  const montage = sampleMontage();
  expect(barAndBeat(montage, 0)).toEqual({ bar: 1, beat: 1 });
  expect(barAndBeat(montage, 1.99)).toEqual({ bar: 1, beat: 4 });
  expect(barAndBeat(montage, 2)).toEqual({ bar: 2, beat: 1 });
  expect(barAndBeat(emptyMontage(), 2)).toBeNull();
});

test('the nearest mark is found within reach, among those wanted', () => {
  const montage = sampleMontage();
  expect(nearestMark(montage, 1.1, 0.2)!.time).toBe(1);
  expect(nearestMark(montage, 1.1, 0.05)).toBeNull();
  expect(nearestMark(montage, 1.1, 2, (m) => m.kind === 'bar')!.time).toBe(2);
});
