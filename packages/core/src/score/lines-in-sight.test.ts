import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { BARS_A_LINE, layLines } from './lines.ts';
import { offsetFor } from './lines-in-sight.ts';
import { sampleMontage } from '../testing/sample-montage.ts';

const H = 100;
const HEIGHT = 150;
const PIECES = [{ from: 0, to: 20 }];
const linesOf = (bars: (typeof BARS_A_LINE)[number]): ReturnType<typeof layLines> => layLines(sampleMontage(), PIECES, bars);

test('at first nothing is scrolled', () => expect(offsetFor(null, linesOf(1), H, 0)).toBe(0));

test('the first whole line stays where it is, as the line that holds its start', () => {
  // Bar 5 begins at 8 s; it is 40 pixels below the top.
  const before = { lines: linesOf(1), offset: 360, height: HEIGHT };
  expect(offsetFor(before, linesOf(2), H, 0)).toBe(2 * H - 40);
});

test('a playhead in sight stays where it is, before anything else', () => {
  // It is on the third line of two bars, bar 6; the first whole line is the second.
  const before = { lines: linesOf(2), offset: 100, height: 2 * H };
  expect(offsetFor(before, linesOf(1), H, 10.5)).toBe(5 * H - H);
});

test('what was looked at is in sight afterwards, and nothing is scrolled beyond the ends', () => {
  const bars = fc.constantFrom(...BARS_A_LINE);
  fc.assert(
    fc.property(bars, bars, fc.double({ min: 0, max: 1, noNaN: true }), (from, to, part) => {
      const [old, now] = [linesOf(from), linesOf(to)];
      const offset = part * Math.max(0, old.length * H - HEIGHT);
      const after = offsetFor({ lines: old, offset, height: HEIGHT }, now, H, -1);
      expect(after).toBeGreaterThanOrEqual(0);
      expect(after).toBeLessThanOrEqual(Math.max(0, now.length * H - HEIGHT));
      const moment = old[Math.min(old.length - 1, Math.ceil(offset / H))]!.from;
      const top = now.findIndex((l) => moment < l.to - 1e-6) * H;
      expect(top + H > after && top < after + HEIGHT).toBe(true);
    }),
  );
});
