import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { carryOut, emptyMontage, framesPerSecond, layLines, scoreOf, type Line, type Montage } from '@bluster/core';
import { lineX } from './line-x.ts';
import { onLine } from './on-line.ts';
import { NARROWEST_PRINT, printPlace } from './print-layout.ts';

const line: Line = { index: 0, from: 4, to: 8, span: 4, bar: 3 };

test('a time lies on its line in proportion', () => {
  expect([4, 6, 8].map((time) => lineX(line, time, 1000))).toEqual([0, 500, 1000]);
  // The last line is as long in pixels as it lasts, not as wide as the others.
  expect(lineX({ ...line, to: 6 }, 6, 1000)).toBe(500);
});

/** A montage with a song, a beat every half second, and pegs on bars. */
function montage(seconds: number, every: number): Montage {
  let m = carryOut(emptyMontage(), { do: 'setSong', assetId: 's', name: 's', length: seconds });
  const times = Array.from({ length: Math.floor(seconds * 2) }, (_, i) => i / 2);
  m = carryOut(m, { do: 'takeBeatTimes', times, metre: 4 });
  return carryOut(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every } });
}

describe('what lies on the lines of a montage', () => {
  const laid = fc.record({
    seconds: fc.integer({ min: 9, max: 60 }),
    every: fc.integer({ min: 1, max: 7 }),
    barsALine: fc.constantFrom(1 as const, 2 as const, 4 as const, 8 as const),
    width: fc.integer({ min: 300, max: 2000 }),
  });

  test('is every slot, on each line that it reaches, and every peg and mark once', () => {
    fc.assert(
      fc.property(laid, ({ seconds, every, barsALine }) => {
        const m = montage(seconds, every);
        const lines = layLines(m, m.song!.pieces, barsALine);
        const seen = lines.map((l) => onLine(m, l));
        const fps = framesPerSecond(m.shape.rate);
        for (const slot of scoreOf(m).slots)
          expect(seen.map((on) => on.slots.includes(slot))).toEqual(
            lines.map((l) => slot.start.frame / fps < l.to - 1e-6 && slot.end.frame / fps > l.from + 1e-6),
          );
        const pegs = seen.flatMap(({ pegs: own }) => own.map((p) => p.id));
        expect(pegs).toEqual(m.pegs.map((p) => p.id));
        const marks = new Set(seen.flatMap(({ marks: own }) => own.map((k) => k.id)));
        expect(marks.size).toBe(m.marks.length);
      }),
    );
  });

  test('the prints of a line follow one another over its whole width', () => {
    fc.assert(
      fc.property(laid, ({ seconds, every, barsALine, width }) => {
        const m = montage(seconds, every);
        const fps = framesPerSecond(m.shape.rate);
        for (const l of layLines(m, m.song!.pieces, barsALine)) {
          const places = onLine(m, l).slots.map((slot) => printPlace(slot, l, width, fps));
          expect(places[0]!.left).toBeCloseTo(0, 6);
          const apart = places.slice(1).filter((place, i) => Math.abs(place.left - places[i]!.left - places[i]!.wide) > 5e-7);
          expect(apart).toEqual([]);
          const end = places.at(-1)!;
          expect(Math.abs(end.left + end.wide - lineX(l, l.to, width))).toBeLessThan(NARROWEST_PRINT + width / l.span / fps);
        }
      }),
      { numRuns: 60 },
    );
  });
});
