import { describe, expect, test } from '@jest/globals';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { carryOut } from '../commands/carry-out.ts';
import { drawListAt, picturesIn } from '../picture/draw-list.ts';
import { FILL_DEFAULTS, type FillOptions } from './fill-options.ts';
import { mixPlan } from '../sound/mix-plan.ts';
import { scoreOf } from '../score/score.ts';
import { shuffled } from '../lists/seeded.ts';
import { syncReport } from '../report/sync-report.ts';
import { wouldMiss } from '../shots/hang-shot.ts';
import type { FootageItem, Montage } from '../document/montage.ts';

function filled(clips: readonly FootageItem[], options: Partial<FillOptions> = {}, seconds = 20): Montage {
  const m = carryOut(sampleMontage(seconds, clips), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
  return carryOut(m, { do: 'fill', options: { ...FILL_DEFAULTS, ...options } });
}
const clipsOf = (m: Montage): (string | null)[] => scoreOf(m).slots.map((s) => s.placed?.item.assetId ?? null);

describe('filling slots of 2 s', () => {
  test('in story order, from each in point', () => {
    const clips = [sampleClip('a', 5, { selects: [{ id: 'x', in: 1, out: 5, hit: null }] }), sampleClip('b', 5), sampleClip('c', 5)];
    const m = filled(clips, { whenOut: 'stop' });
    expect(clipsOf(m).slice(0, 4)).toEqual(['a', 'b', 'c', null]);
    expect(scoreOf(m).slots[0]!.placed!.shot.sourceIn).toBe(1);
  });

  test('every select of a clip has its turn, in the order of time', () => {
    const select = (id: string, from: number): FootageItem['selects'][number] => ({ id, in: from, out: from + 2.5, hit: null });
    const clips = [sampleClip('a', 20, { selects: [select('x', 3), select('y', 11)] }), sampleClip('b', 5)];
    const placed = scoreOf(filled(clips, { whenOut: 'stop' })).slots.flatMap((s) => s.placed ?? []);
    expect(placed.map((p) => [p.item.assetId, p.shot.sourceIn])).toEqual([
      ['a', 3],
      ['a', 11],
      ['b', 0],
    ]);
  });

  test('a short clip is slowed to fit, down to the least speed', () => {
    const [slot] = scoreOf(filled([sampleClip('a', 1.5), sampleClip('b', 9)])).slots;
    expect(slot!.placed!.speed).toBeCloseTo(0.75, 6);
    expect(slot!.placed!.missing).toBe(0);
  });

  test('shorter than that it leaves a gap that says how much is missing', () => {
    const [slot] = scoreOf(filled([sampleClip('a', 0.6), sampleClip('b', 9)])).slots;
    expect(slot!.placed!.speed).toBe(0.5);
    expect(slot!.placed!.missing).toBeCloseTo(0.8, 6);
    expect(picturesIn(drawListAt(filled([sampleClip('a', 0.6), sampleClip('b', 9)]), 50))).toEqual([]);
  });

  test('or is passed over for the next that suffices', () => {
    expect(clipsOf(filled([sampleClip('a', 0.6), sampleClip('b', 9)], { tooShort: 'next' }))[0]).toBe('b');
  });

  test('going round again takes unused parts first', () => {
    const m = filled([sampleClip('a', 7), sampleClip('b', 4)]);
    const ins = scoreOf(m).slots.map((s) => [s.placed!.item.assetId, s.placed!.shot.sourceIn]);
    expect(ins.slice(0, 5)).toEqual([
      ['a', 0],
      ['b', 0],
      ['a', 2],
      ['b', 2],
      ['a', 4],
    ]);
  });

  test('no clip follows itself while there is another', () => {
    const order = clipsOf(filled([sampleClip('a', 30), sampleClip('b', 2), sampleClip('c', 3)], {}, 60));
    order.slice(1).forEach((id, i) => expect(id).not.toBe(order[i]));
  });

  test('photos last as long as they are wanted', () => {
    const m = filled([samplePhoto('p'), sampleClip('a', 3)]);
    expect(scoreOf(m).slots[0]!.placed!.missing).toBe(0);
  });

  test('only gaps: what hangs stays as it is', () => {
    let m = filled([sampleClip('a', 9), sampleClip('b', 9)]);
    const gone = scoreOf(m).slots[3]!.placed!.shot.id;
    const rest = m.shots.filter((s) => s.id !== gone);
    m = carryOut(m, { do: 'takeDownShot', id: gone });
    m = carryOut(m, { do: 'fill', options: { ...FILL_DEFAULTS, scope: 'empty' } });
    for (const shot of rest) expect(m.shots).toContainEqual(shot);
    expect(scoreOf(m).slots.every((s) => s.placed)).toBe(true);
  });

  test('shuffling is the same for the same seed, and a rearrangement', () => {
    const list = Array.from({ length: 20 }, (_, i) => i);
    expect(shuffled(list, 5)).toEqual(shuffled(list, 5));
    expect(shuffled(list, 5)).not.toEqual(shuffled(list, 6));
    expect([...shuffled(list, 5)].sort((a, b) => a - b)).toEqual(list);
  });

  test('without footage it says so', () => {
    const m = carryOut(sampleMontage(20, []), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    expect(() => carryOut(m, { do: 'fill', options: FILL_DEFAULTS })).toThrow(/no footage/);
  });
});

describe('single shots', () => {
  test('slipping shows another part, in the same slot, inside the clip', () => {
    let m = filled([sampleClip('a', 5), sampleClip('b', 5)]);
    const { shot } = scoreOf(m).slots[0]!.placed!;
    m = carryOut(m, { do: 'slipShot', id: shot.id, by: 1.5 });
    expect(scoreOf(m).slots[0]!.placed!.shot.sourceIn).toBe(1.5);
    m = carryOut(m, { do: 'slipShot', id: shot.id, by: 99 });
    expect(scoreOf(m).slots[0]!.placed!.shot.sourceIn).toBe(3);
    expect(scoreOf(m).slots[0]!.placed!.missing).toBe(0);
  });

  test('replacing hangs another clip and moves no cut', () => {
    const m = filled([sampleClip('a', 5), sampleClip('b', 5)]);
    const slot = scoreOf(m).slots[2]!;
    const next = carryOut(m, { do: 'hangShot', startPeg: slot.start.id, assetId: 'b' });
    expect(clipsOf(next)[2]).toBe('b');
    expect(scoreOf(next).pegs).toEqual(scoreOf(m).pegs);
    expect(next.shots.length).toBe(m.shots.length);
  });

  test('how much would be missing is known beforehand', () => {
    const m = carryOut(sampleMontage(20, [sampleClip('tiny', 0.5)]), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    expect(wouldMiss(m, scoreOf(m).slots[0]!, 'tiny')).toBeCloseTo(1, 6);
  });

  test('a clip at 25 frames shows frame floor(t · 25)', () => {
    const m = filled([sampleClip('pal', 8, { rate: { num: 25, den: 1 } })]);
    const shown = Array.from({ length: 12 }, (_, n) => picturesIn(drawListAt(m, n))[0]!.frame);
    expect(shown).toEqual([0, 0, 1, 2, 3, 4, 5, 5, 6, 7, 8, 9]);
  });
});

test('the song is planned at its own level, clips only where they were switched on', () => {
  let m = filled([sampleClip('a', 5, { hasSound: true }), sampleClip('b', 5)]);
  expect(mixPlan(m).clips).toEqual([]);
  m = carryOut(m, { do: 'setShotSound', ids: [scoreOf(m).slots[0]!.placed!.shot.id], level: 0.5 });
  expect(mixPlan(m).clips).toEqual([
    { assetId: 'a', at: 0, length: 2, from: 0, speed: 1, level: 0.5, fadeIn: 0.01, fadeOut: 0.01, line: null },
  ]);
  expect(mixPlan(m).song).toMatchObject({ assetId: 'song', fadeIn: 0, fadeOut: 0 });
});

test('the report measures each cut, and knows where no picture changes', () => {
  let m = filled([sampleClip('a', 30), sampleClip('b', 30)]);
  m = carryOut(m, { do: 'shiftAllMarks', by: 0.01 });
  m = carryOut(m, { do: 'hangPeg', markId: m.marks[2]!.id });
  const report = syncReport(m);
  expect(report.cuts[0]).toMatchObject({ frame: 30, visible: false, mark: { kind: 'beat' } });
  expect(report.cuts[1]).toMatchObject({ frame: 60, visible: true });
  expect(report.cuts[1]!.errorMs).toBeCloseTo(-10, 3);
  expect(report.cuts[1]!.errorFrames).toBeCloseTo(-0.3, 3);
  expect(report.worstErrorMs).toBeLessThanOrEqual(1000 / 60 + 1e-6);
});
