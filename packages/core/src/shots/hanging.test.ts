import { describe, expect, test } from '@jest/globals';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { sampleClip, sampleMontage } from '../testing/sample-montage.ts';
import { carryOut } from '../commands/carry-out.ts';
import { planHang } from './hang-shot.ts';
import { scoreOf } from '../score/score.ts';
import { sourceFrame } from '../score/placed-shot.ts';
import type { Command } from '../commands/all.ts';
import type { Montage } from '../document/montage.ts';

const clips = [
  sampleClip('a', 20, { selects: [{ id: 'a1', in: 5, out: 9, hit: 6 }] }),
  sampleClip('b', 20),
  sampleClip('c', 1.2),
  sampleClip('d', 20, { selects: [{ id: 'd1', in: 4, out: 5, hit: 4.5 }] }),
];
/** Ten slots of a bar, 2 s or 60 frames each. */
function bars(filled = true): Montage {
  const m = carryOut(sampleMontage(20, clips), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
  return filled ? carryOut(m, { do: 'fill', options: { ...FILL_DEFAULTS, order: 'picked', picked: ['a', 'b'] } }) : m;
}
const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);
const start = (m: Montage, n: number): string => scoreOf(m).slots[n]!.start.id;
const idOf = (m: Montage, n: number): string => scoreOf(m).slots[n]!.placed!.shot.id;
const names = (m: Montage): (string | null)[] => scoreOf(m).slots.map((s) => s.placed?.item.assetId ?? null);
const frameAt = (m: Montage, slot: number, into: number): number | null => sourceFrame(scoreOf(m).slots[slot]!.placed!, into, m);

describe('three-point edits', () => {
  test('slot and in, slot and out, slot and hit on a mark: that frame is where it belongs', () => {
    const m = bars(false);
    const at = (point: Extract<Command, { do: 'hangShot' }>['point']): Montage =>
      act(m, { do: 'hangShot', startPeg: start(m, 2), assetId: 'b', point: point! });
    expect(frameAt(at({ kind: 'in', at: 3 }), 2, 0)).toBe(90);
    // Back-timed: the last frame of the slot is the last before the out.
    expect(frameAt(at({ kind: 'out', at: 7 }), 2, 59)).toBe(7 * 30 - 1);
    const beat = m.marks.find((x) => x.time === 5)!;
    expect(frameAt(at({ kind: 'hit', at: 8.2, markId: beat.id }), 2, 30)).toBe(246);
  });

  test('without a select named, the first that is not seen elsewhere', () => {
    const selects = [1, 5, 9].map((from) => ({ id: `s${from}`, in: from, out: from + 3, hit: null }));
    const clip = sampleClip('many', 20, { selects });
    const empty = carryOut(sampleMontage(20, [clip]), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    const hang = (m: Montage, n: number): Montage => act(m, { do: 'hangShot', startPeg: start(m, n), assetId: 'many' });
    const m = [3, 1, 6, 2].reduce(hang, empty);
    expect([3, 1, 6, 2].map((n) => scoreOf(m).slots[n]!.placed!.shot.sourceIn)).toEqual([1, 5, 9, 1]);
    // Hung again in its own slot a select is not counted as seen elsewhere.
    expect(scoreOf(hang(m, 1)).slots[1]!.placed!.shot.sourceIn).toBe(5);
  });

  test('too little footage is known beforehand, with what each remedy would leave', () => {
    const m = bars(false);
    const slot = scoreOf(m).slots[0]!;
    const plan = planHang(m, slot, { assetId: 'd' });
    expect(plan.short).toBeCloseTo(1, 6);
    expect(Object.fromEntries(plan.remedies.map((r) => [r.remedy, Math.round(r.missing * 100) / 100]))).toEqual({
      handles: 0,
      slow: 0,
      hold: 1,
      gap: 1,
    });
    const gap = act(m, { do: 'hangShot', startPeg: slot.start.id, assetId: 'd', remedy: 'gap' });
    expect([frameAt(gap, 0, 29), frameAt(gap, 0, 30)]).toEqual([149, null]);
    const held = act(m, { do: 'hangShot', startPeg: slot.start.id, assetId: 'd', remedy: 'hold' });
    expect([frameAt(held, 0, 29), frameAt(held, 0, 59)]).toEqual([149, 149]);
    const beyond = act(m, { do: 'hangShot', startPeg: slot.start.id, assetId: 'd', remedy: 'handles' });
    expect(frameAt(beyond, 0, 59)).toBe(179);
  });

  test('a hit too near the clip’s start for its mark is slowed into place, or said to miss', () => {
    const m = bars(false);
    const beat = m.marks.find((x) => x.time === 1)!;
    const slowed = act(m, { do: 'hangShot', startPeg: 'start', assetId: 'd', point: { kind: 'hit', markId: beat.id }, remedy: 'slow' });
    expect(frameAt(slowed, 0, 30)).toBe(135);
  });
});

describe('changing what hangs', () => {
  test('replaced keeping its timing, its speed too where there is enough', () => {
    const m = act(bars(), { do: 'setRate', id: idOf(bars(), 0), rate: 2 });
    const next = act(m, { do: 'replaceShot', id: idOf(m, 0), assetId: 'b' });
    expect(scoreOf(next).slots[0]!.placed).toMatchObject({ speed: 2, item: { assetId: 'b' } });
    expect(scoreOf(next).pegs).toEqual(scoreOf(m).pegs);
  });

  test('replaced so that the frame looked at meets the playhead; too early a frame is refused', () => {
    const m = bars();
    const next = act(m, { do: 'replaceAt', id: idOf(m, 1), assetId: 'b', source: 11, frame: 85 });
    expect(frameAt(next, 1, 25)).toBe(330);
    expect(() => act(m, { do: 'replaceAt', id: idOf(m, 1), assetId: 'b', source: 0.1, frame: 110 })).toThrow(/too late/);
  });

  test('two change places', () => {
    const m = bars();
    const next = act(m, { do: 'swapShots', a: idOf(m, 0), b: idOf(m, 3) });
    expect([idOf(next, 0), idOf(next, 3)]).toEqual([idOf(m, 3), idOf(m, 0)]);
    expect(scoreOf(next).slots.map((s) => s.start.frame)).toEqual(scoreOf(m).slots.map((s) => s.start.frame));
  });

  test('inserted, the rest moves on by one slot; taken out, it moves back; locked shots stay', () => {
    const m = act(bars(), { do: 'lockShots', ids: [idOf(bars(), 4)], locked: true });
    const inserted = act(m, { do: 'insertShot', startPeg: start(m, 2), assetId: 'd' });
    expect(names(inserted)).toEqual(['a', 'b', 'd', 'a', 'a', 'b', 'b', 'a', 'b', 'a']);
    expect(idOf(inserted, 4)).toBe(idOf(m, 4));
    const out = act(inserted, { do: 'removeShot', id: idOf(inserted, 2) });
    expect(names(out)).toEqual(['a', 'b', 'a', 'b', 'a', 'b', 'a', 'b', 'a', null]);
    for (const n of [0, 1, 2, 3]) expect(scoreOf(out).slots[n]!.placed!.shot.sourceIn).toBe(scoreOf(m).slots[n]!.placed!.shot.sourceIn);
  });

  test('a shot over three slots; back to one the others are empty', () => {
    const m = bars();
    const three = act(m, { do: 'extendShot', id: idOf(m, 1), slots: 3 });
    expect(scoreOf(three).slots[1]).toMatchObject({ frames: 180, start: { frame: 60 }, end: { frame: 240 } });
    expect(names(act(three, { do: 'extendShot', id: idOf(m, 1), slots: 1 })).slice(0, 5)).toEqual(['a', 'b', null, null, 'a']);
  });

  test('copied, and going on with a jump at every peg', () => {
    const m = bars();
    expect(frameAt(act(m, { do: 'copyShot', id: idOf(m, 0), startPeg: start(m, 5) }), 5, 0)).toBe(frameAt(m, 0, 0));
    const skipped = act(m, { do: 'goOnShot', id: idOf(m, 0), slots: 3, skip: 30 });
    expect([0, 1, 2, 3].map((n) => frameAt(skipped, n, 0))).toEqual([150, 240, 330, 420]);
    const different = act(m, { do: 'goOnShot', id: idOf(m, 0), slots: 2, starts: [6, 8, 12.5] });
    expect([1, 2].map((n) => frameAt(different, n, 0))).toEqual([240, 375]);
  });
});

describe('a cutaway over the line', () => {
  test('covers what hangs below from mark to frame, with pegs of its own that divide no slot', () => {
    const m = bars();
    const mark = m.marks.find((x) => x.time === 3)!;
    const over = act(m, { do: 'hangOver', from: { markId: mark.id }, to: { frame: 150 }, assetId: 'd' });
    const score = scoreOf(over);
    expect(score.slots).toHaveLength(10);
    expect(score.over.map((s) => [s.start.frame, s.end.frame, s.placed!.item.assetId])).toEqual([[90, 150, 'd']]);
    const moved = act(over, { do: 'moveMarks', ids: [mark.id], by: 0.1 });
    expect(scoreOf(moved).over[0]!.start.frame).toBe(93);
    const gone = act(over, { do: 'takeDownShot', id: score.over[0]!.placed!.shot.id });
    expect(gone.pegs).toEqual(m.pegs);
    expect(() => act(m, { do: 'hangOver', from: { frame: 90 }, to: { frame: 80 }, assetId: 'd' })).toThrow(/end after it starts/);
  });
});
