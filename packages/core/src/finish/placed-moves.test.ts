import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import type { Command } from '../commands/all.ts';
import { carryOut } from '../commands/carry-out.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import type { Montage } from '../document/montage.ts';
import { showsEdge } from '../geometry/view.ts';
import { drawListAt, picturesIn } from '../picture/draw-list.ts';
import { scoreOf } from '../score/score.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { EASE_NAMES } from './motion/eases.ts';
import { MOVE_KINDS } from './moves/all.ts';
import { movesOf, placedMoves, viewAt } from './placed-moves.ts';

const after = (montage: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, montage);
/** Eight seconds at 120 beats a minute: slots of sixty frames with a clip, a photo, a clip, a photo. */
const filled = (): Montage =>
  after(
    sampleMontage(8, [sampleClip('a', 5), samplePhoto('p'), sampleClip('b', 5), samplePhoto('q')]),
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
    { do: 'fill', options: FILL_DEFAULTS },
  );
const shot = (m: Montage, n: number): string => scoreOf(m).slots[n]!.placed!.shot.id;
const beat = (m: Montage, time: number): string => m.marks.find((k) => k.time === time)!.id;
const zoom = (m: Montage, n: number, into: number): number => viewAt(m, scoreOf(m).slots[n]!, into)!.zoom;

describe('moves', () => {
  test('go over their slot, from where the picture stood to where they arrive on its last frame', () => {
    const m = after(filled(), { do: 'setMoves', ids: [shot(filled(), 0)], moves: [{ kind: 'closer', strength: 1, ease: 'even' }] });
    expect(zoom(m, 0, 0)).toBe(1);
    expect(zoom(m, 0, 59)).toBeCloseTo(1.9);
    // The frame's own size goes evenly: half way its sides are the mean of both.
    expect(1 / zoom(m, 0, 29.5)).toBeCloseTo((1 + 1 / 1.9) / 2);
    expect(viewAt(m, scoreOf(m).slots[1]!, 10)).toBeNull();
  });
  test('arrive on a mark and then stand; the mark is moved, and they arrive there', () => {
    const one = filled();
    const m = after(one, {
      do: 'setMoves',
      ids: [shot(one, 0)],
      moves: [{ kind: 'closer', strength: 1, ease: 'out', to: { markId: beat(one, 1) } }],
    });
    expect([zoom(m, 0, 29) < 1.9, zoom(m, 0, 30)]).toEqual([true, expect.closeTo(1.9)]);
    const [placed] = placedMoves(m, scoreOf(m).slots[0]!);
    expect([placed!.from, placed!.to]).toEqual([0, 30]);
    const moved = after(m, { do: 'moveMarks', ids: [beat(m, 1)], by: 0.1 });
    expect(placedMoves(moved, scoreOf(moved).slots[0]!)[0]!.to).toBe(33);
    const cutOut = after(m, { do: 'removeMarks', ids: [beat(m, 1)] });
    expect(placedMoves(cutOut, scoreOf(cutOut).slots[0]!)[0]!.to).toBe(30);
  });
  test('several follow one another, each from where the one before arrived', () => {
    const one = filled();
    const at = { markId: beat(one, 1) };
    const m = after(one, {
      do: 'setMoves',
      ids: [shot(one, 0)],
      moves: [
        { kind: 'closer', strength: 0.5, ease: 'even', to: at },
        {
          kind: 'drawn',
          strength: 0,
          ease: 'even',
          from: at,
          views: { from: { x: 0.5, y: 0.5, zoom: 1.45, turn: 0 }, to: { x: 0.2, y: 0.5, zoom: 3, turn: 0 } },
        },
      ],
    });
    expect(zoom(m, 0, 29)).toBeLessThan(1.46);
    expect(zoom(m, 0, 30)).toBeCloseTo(1.45);
    expect(zoom(m, 0, 59)).toBeCloseTo(3);
  });
  test('by rule go by turns over the photos, so that neighbours differ; what was moved by hand, or is to stand, stays', () => {
    const m = after(filled(), { do: 'setMoveRule', rule: { what: 'photos', kinds: ['closer', 'wider'], strength: 0.5, ease: 'even' } });
    const kinds = (of: Montage): (string | undefined)[] => scoreOf(of).slots.map((s) => movesOf(of, s.placed!.shot)[0]?.kind);
    expect(kinds(m)).toEqual([undefined, 'closer', undefined, 'wider']);
    expect(kinds(after(m, { do: 'setMoves', ids: [shot(m, 1)], moves: [] }))).toEqual([undefined, undefined, undefined, 'wider']);
    const all = after(m, { do: 'setMoveRule', rule: { what: 'all', kinds: ['left', 'up', 'drift'], strength: 0.5, ease: 'even' } });
    expect(kinds(all)).toEqual(['left', 'up', 'drift', 'left']);
    expect(kinds(after(all, { do: 'setMoveRule', rule: null }))).toEqual([undefined, undefined, undefined, undefined]);
  });
  test('where they follow the energy go less far in a quiet section than in a full one', () => {
    const sections = {
      do: 'takeMarking',
      marking: {
        marks: [],
        sections: [
          { from: 0, name: 'A' },
          { from: 4, name: 'B' },
        ],
      },
    } as const;
    let m = after(filled(), sections, {
      do: 'setMoveRule',
      rule: { what: 'all', kinds: ['closer'], strength: 0.5, ease: 'even', byEnergy: true },
    });
    m = { ...m, song: { ...m.song!, sections: m.song!.sections.map((s, i) => ({ ...s, energy: i === 0 ? 0.1 : 1 })) } };
    expect(zoom(m, 0, 59)).toBeLessThan(1.2);
    expect(zoom(m, 2, 59)).toBeCloseTo(1.45);
  });
  test('of any kind, strength and shape never show an edge of a picture that fills the frame', () => {
    const move = fc.record({
      kind: fc.constantFrom(...MOVE_KINDS),
      strength: fc.double({ min: 0, max: 1, noNaN: true }),
      ease: fc.constantFrom(...EASE_NAMES),
    });
    const shape = fc.constantFrom({ width: 1280, height: 720 }, { width: 720, height: 1280 }, { width: 960, height: 720 });
    const focus = fc.record({ x: fc.double({ min: 0, max: 1, noNaN: true }), y: fc.double({ min: 0, max: 1, noNaN: true }) });
    fc.assert(
      fc.property(move, shape, focus, fc.integer({ min: 0, max: 239 }), (one, size, at, frame) => {
        const base = after(
          filled(),
          { do: 'setShape', shape: { ...size, rate: { num: 30, den: 1 } } },
          { do: 'setFocus', assetId: 'p', ...at },
        );
        const m = after(base, { do: 'setMoves', ids: base.shots.map((s) => s.id), moves: [one] });
        for (const { target } of picturesIn(drawListAt(m, frame))) {
          expect(target.x).toBeLessThan(1e-6);
          expect(target.y).toBeLessThan(1e-6);
          expect(target.x + target.width).toBeGreaterThan(size.width - 1e-6);
          expect(target.y + target.height).toBeGreaterThan(size.height - 1e-6);
        }
      }),
      { numRuns: 60 },
    );
  });
  test('a picture framed by hand that is to be shown whole may show its edges, before a colour or itself', () => {
    const one = filled();
    const ids = [shot(one, 0)];
    const view = { x: 0.5, y: 0.5, zoom: 0.5, turn: 0 };
    const filling = after(one, { do: 'setView', ids, view });
    expect(picturesIn(drawListAt(filling, 0))[0]!.target).toEqual({ x: 0, y: 0, width: 1280, height: 720 });
    const small = after(filling, { do: 'setFraming', ids, framing: 'fit' }, { do: 'setBorder', ids, border: '#c8d8b8' });
    const [layer] = drawListAt(small, 0).layers;
    expect([layer!.ground, layer!.pictures[0]!.target]).toEqual(['#c8d8b8', { x: 320, y: 180, width: 640, height: 360 }]);
    const [behind, before] = picturesIn(drawListAt(after(small, { do: 'setBorder', ids, border: 'blurred' }), 0));
    expect([behind!.blur > 0, before!.blur, behind!.frame === before!.frame]).toEqual([true, 0, true]);
    expect(showsEdge({ ...view, zoom: 1 }, { width: 1280, height: 720 }, one.shape)).toBe(false);
  });
});
