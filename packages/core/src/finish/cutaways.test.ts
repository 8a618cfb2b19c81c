import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import type { Montage } from '../document/montage.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { drawListAt } from '../picture/draw-list.ts';
import { scoreOf } from '../score/score.ts';
import { sampleClip, sampleMontage } from '../testing/sample-montage.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Command } from '../commands/all.ts';

const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);
type Wish = Partial<Omit<Extract<Command, { do: 'setCutaways' }>, 'do' | 'ids'>>;

/** A filled montage with a cutaway over frames 60 to 90. */
function covered(to: Wish = {}): Montage {
  const m = act(
    sampleMontage(8, [sampleClip('a', 20), sampleClip('b', 20)]),
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
    { do: 'fill', options: FILL_DEFAULTS },
    { do: 'hangOver', from: { frame: 60 }, to: { frame: 90 }, assetId: 'b' },
  );
  return act(m, { do: 'setCutaways', ids: m.shots.filter((s) => s.over).map((s) => s.id), ...to });
}
const seen = (m: Montage, frame: number): { shot: boolean; opacity: number; within: unknown; zoom: number }[] => {
  const over = new Set(m.shots.filter((s) => s.over).map((s) => s.id));
  return drawListAt(m, frame).layers.map(({ shotId, opacity, within, camera }) => ({
    shot: over.has(shotId),
    opacity,
    within,
    zoom: camera?.zoom ?? 1,
  }));
};

describe('cutaways', () => {
  test('cover what lies below, which then is not even drawn', () => {
    expect(seen(covered(), 70)).toMatchObject([{ shot: true, opacity: 1, within: null }]);
    expect(seen(covered(), 59)).toMatchObject([{ shot: false }]);
  });
  test('let it through as far as they are to', () => {
    expect(seen(covered({ opacity: 0.4 }), 70)).toMatchObject([
      { shot: false, opacity: 1 },
      { shot: true, opacity: 0.4 },
    ]);
  });
  test('stand in the frame as a picture in the picture, whole and on even pixels wherever they are put', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0.08, max: 1, noNaN: true }),
        (x, y, size) => {
          const m = covered({ inset: { x, y, size } });
          const { within } = drawListAt(m, 70).layers.at(-1)!;
          const { width, height } = m.shape;
          expect(within!.x).toBeGreaterThanOrEqual(0);
          expect(within!.y).toBeGreaterThanOrEqual(0);
          expect(within!.x + within!.width).toBeLessThanOrEqual(width);
          expect(within!.y + within!.height).toBeLessThanOrEqual(height);
          expect([within!.x, within!.y, within!.width, within!.height].every((v) => v % 2 === 0)).toBe(true);
          expect(Math.abs(within!.width - size * width)).toBeLessThanOrEqual(4);
        },
      ),
      { numRuns: 60 },
    );
  });
  test('come and go in their own time, and are as they are between', () => {
    const m = covered({ comes: { kind: 'dissolve', beats: 0.5 }, goes: { kind: 'dissolve', beats: 0.25 } });
    const opacity = [60, 63, 67, 75, 85, 89].map((frame) => seen(m, frame).at(-1)!.opacity);
    expect(opacity[0]).toBeGreaterThan(0);
    expect(opacity[0]).toBeLessThan(opacity[1]!);
    expect(opacity.slice(2, 5).every((o, i) => (i === 0 ? o <= 1 : o === 1))).toBe(true);
    expect(opacity[5]).toBeLessThan(0.5);
    // While it comes, what lies below is there.
    expect(seen(m, 62)).toHaveLength(2);
    expect(seen(m, 75)).toHaveLength(1);
  });
  test('do not come through a colour, which would cover what lies below as well', () => {
    expect(() => covered({ comes: { kind: 'white', beats: 1 } })).toThrow('cannot come through a colour');
    const plain = covered();
    expect(() => act(plain, { do: 'setCutaways', ids: [plain.shots[0]!.id], opacity: 0.5 })).toThrow('That is no cutaway');
  });
  test('hang on two lines: the second lies over the first, and neither takes the other down', () => {
    const m = act(covered({ opacity: 0.5 }), { do: 'hangOver', from: { frame: 70 }, to: { frame: 100 }, assetId: 'a', upper: true });
    expect(scoreOf(m).over).toHaveLength(2);
    const upper = m.shots.find((s) => s.upper)!;
    expect([65, 80, 95].map((frame) => drawListAt(m, frame).layers.at(-1)!.shotId === upper.id)).toEqual([false, true, true]);
    expect(drawListAt(act(m, { do: 'setCutaways', ids: [upper.id], opacity: 0.5 }), 80).layers).toHaveLength(3);
    // Moving an end of one leaves the other where it is.
    const moved = act(m, { do: 'rollCut', id: upper.startPeg, to: { frame: 75 } });
    expect(scoreOf(moved).over.map((s) => [s.start.frame, s.end.frame])).toEqual([
      [60, 90],
      [75, 100],
    ]);
  });
});
