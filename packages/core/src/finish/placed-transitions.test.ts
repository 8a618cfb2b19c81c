import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import type { Montage, Transition } from '../document/montage.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { scoreOf } from '../score/score.ts';
import { drawListAt, picturesIn } from '../picture/draw-list.ts';
import { seenFrom, undressed } from '../picture/layers.ts';
import { transitionAt, transitionsOf } from './placed-transitions.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Command } from '../commands/all.ts';

const after = (montage: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, montage);
/** Bars of sixty frames: a, b, c and so on. */
const filled = (clips = ['a', 'b', 'c'].map((id) => sampleClip(id, 6))): Montage =>
  after(
    sampleMontage(8, clips),
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
    { do: 'fill', options: FILL_DEFAULTS },
  );
const cut = (montage: Montage, n: number): string => scoreOf(montage).slots[n]!.start.id;
const set = (montage: Montage, n: number, transition: Transition | null): Montage =>
  after(montage, { do: 'setTransition', pegIds: [cut(montage, n)], transition });
const over = { kind: 'dissolve', beats: 1, place: 'over' } as const;

describe('transitions', () => {
  test('lie before, over or after their cut', () => {
    const places = (['before', 'over', 'after'] as const).map((place) => transitionsOf(set(filled(), 1, { ...over, place }))[0]!);
    expect(places.map(({ from, cut: at, to }) => [from, at, to])).toEqual([
      [45, 60, 60],
      [53, 60, 68],
      [60, 60, 75],
    ]);
  });
  test('in a dissolve both clips run on beyond their slots', () => {
    const montage = after(set(filled(), 1, over), { do: 'slipShot', id: filled().shots.find((s) => s.assetId === 'b')!.id, by: 1 });
    const [a, b] = picturesIn(drawListAt(montage, 56));
    expect([a!.assetId, a!.frame, a!.opacity]).toEqual(['a', 56, 1]);
    expect([b!.assetId, b!.frame]).toEqual(['b', 26]);
    expect(drawListAt(montage, 56).layers[1]!.opacity).toBeCloseTo(4 / 16);
    expect(picturesIn(drawListAt(montage, 64)).map((i) => [i.assetId, i.frame])).toEqual([
      ['a', 64],
      ['b', 34],
    ]);
    expect(picturesIn(drawListAt(montage, 52))).toHaveLength(1);
    expect(picturesIn(drawListAt(montage, 68)).map((i) => i.assetId)).toEqual(['b']);
    expect(seenFrom(montage, scoreOf(montage).slots[1]!)).toBe(53);
    expect(seenFrom(montage, scoreOf(montage).slots[2]!)).toBe(120);
  });
  test('a clip without more pictures stands, and it is said for how long', () => {
    const montage = set(filled([sampleClip('a', 2.1), sampleClip('b', 6), samplePhoto('p')]), 1, over);
    const [transition] = transitionsOf(montage);
    // Two seconds in the slot leave three frames; b starts at its first.
    expect(transition!.still).toEqual({ before: 5, after: 7 });
    expect(picturesIn(drawListAt(montage, 67))[0]!.frame).toBe(62);
    expect(picturesIn(drawListAt(montage, 53))[1]!.frame).toBe(0);
    expect(transitionsOf(set(montage, 2, over))[1]!.still).toEqual({ before: 0, after: 0 });
  });
  test('from and into a gap the picture comes and goes by itself', () => {
    const montage = set(filled(), 1, over);
    const shot = (n: number): string => scoreOf(montage).slots[n]!.placed!.shot.id;
    const seen = (m: Montage, frame: number): (readonly [string, number])[] =>
      drawListAt(m, frame).layers.map((l) => [l.pictures[0]!.assetId, l.opacity] as const);
    const gone = after(montage, { do: 'takeDownShot', id: shot(1) });
    expect(seen(gone, 56)).toEqual([['a', 12 / 16]]);
    const first = after(montage, { do: 'takeDownShot', id: shot(0) });
    expect(seen(first, 56)).toEqual([['b', 4 / 16]]);
  });
  test('through black the picture is covered at the cut and nowhere else', () => {
    const montage = set(filled(), 1, { kind: 'black', beats: 2, place: 'over' });
    const black = (n: number): number => drawListAt(montage, n).veils[0]?.opacity ?? 0;
    expect([44, 59, 60, 75].map(black)).toEqual([0, 15 / 16, 1, 0]);
    expect(picturesIn(drawListAt(montage, 60))).toHaveLength(1);
  });
  test('stay with their peg when other shots hang there, and go with it', () => {
    const montage = set(filled(), 1, over);
    const { slots } = scoreOf(montage);
    const swapped = after(montage, { do: 'swapShots', a: slots[0]!.placed!.shot.id, b: slots[1]!.placed!.shot.id });
    expect(transitionsOf(swapped)).toHaveLength(1);
    expect(transitionsOf(after(montage, { do: 'removePeg', id: cut(montage, 1) }))).toEqual([]);
    expect(transitionsOf(set(montage, 1, null))).toEqual([]);
    expect(picturesIn(drawListAt(undressed(montage), 56))).toHaveLength(1);
    expect(() => after(montage, { do: 'setTransition', pegIds: ['nowhere'], transition: over })).toThrow();
  });
  test('never meet, whatever their lengths, and never leave a frame without its shots', () => {
    const transition = fc.record({
      kind: fc.constantFrom('dissolve' as const, 'black' as const),
      beats: fc.double({ min: 0.1, max: 16, noNaN: true }),
      place: fc.constantFrom('before' as const, 'over' as const, 'after' as const),
    });
    fc.assert(
      fc.property(fc.array(transition, { minLength: 3, maxLength: 3 }), (list) => {
        const montage = list.reduce((m, t, i) => set(m, i + 1, t), filled());
        const all = transitionsOf(montage);
        for (const [i, t] of all.entries()) {
          expect(t.from).toBeLessThan(t.to);
          expect(t.from).toBeGreaterThanOrEqual(all[i - 1]?.to ?? 0);
        }
        for (let n = 0; n < scoreOf(montage).frames; n++) {
          const dissolving = transitionAt(montage, n)?.transition.kind === 'dissolve';
          expect(picturesIn(drawListAt(montage, n))).toHaveLength(dissolving ? 2 : 1);
        }
      }),
      { numRuns: 25 },
    );
  });
  test('mixed frames of a clip are seen as much as their layer is', () => {
    const base = set(filled(), 1, over);
    const shot = scoreOf(base).slots[1]!.placed!.shot.id;
    const montage = after(base, { do: 'setRate', id: shot, rate: 0.5 }, { do: 'setBlend', ids: [shot], blend: true });
    const [below, first, next] = picturesIn(drawListAt(montage, 61));
    expect([below!.assetId, first!.assetId, next!.assetId]).toEqual(['a', 'b', 'b']);
    expect(drawListAt(montage, 61).layers.map((l) => l.opacity)).toEqual([1, 9 / 16]);
    // Within its layer the second lies over the first.
    expect([first!.opacity, next!.opacity]).toEqual([1, 0.5]);
  });
});
