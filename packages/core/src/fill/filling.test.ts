import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { FILL_DEFAULTS, candidateKey, type FillKnowledge, type FillOptions } from './fill-options.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { carryOut } from '../commands/carry-out.ts';
import { planFill, takePlan } from './fill.ts';
import { scoreOf } from '../score/score.ts';
import { sourceFrame } from '../score/placed-shot.ts';
import type { FootageItem, Montage } from '../document/montage.ts';

const withSelect = (id: string, length: number, from: number, out: number, hit: number | null = null): FootageItem =>
  sampleClip(id, length, { selects: [{ id: `${id}-1`, in: from, out, hit }] });
const slots = (clips: readonly FootageItem[], seconds = 20): Montage =>
  carryOut(sampleMontage(seconds, clips), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
const fill = (m: Montage, options: Partial<FillOptions>, knowledge?: FillKnowledge): Montage =>
  takePlan(m, planFill(m, { ...FILL_DEFAULTS, ...options }, knowledge));
const first = (m: Montage): NonNullable<ReturnType<typeof scoreOf>['slots'][number]['placed']> => scoreOf(m).slots[0]!.placed!;

describe('which part of a clip', () => {
  test('from its in, back-timed from its out, its hit on the first frame', () => {
    const m = slots([withSelect('a', 20, 4, 12, 7)]);
    expect(first(fill(m, { from: 'in' })).shot.sourceIn).toBe(4);
    expect(first(fill(m, { from: 'out' })).shot.sourceIn).toBe(10);
    expect(first(fill(m, { from: 'hit-first' })).shot.sourceIn).toBe(7);
  });

  test('its hit on the strongest mark inside: that very frame is seen when the drop is heard', () => {
    let m = slots([withSelect('a', 20, 4, 12, 7.5)]);
    m = carryOut(m, { do: 'addMark', kind: 'drop', time: 1.21 });
    const filled = fill(m, { from: 'hit-mark' });
    const dropFrame = Math.round(1.21 * 30);
    expect(sourceFrame(first(filled), dropFrame, filled)).toBe(Math.round(7.5 * 30));
    expect(first(filled).shot.why).toMatch(/hit on a drop/);
  });

  test('going round again takes parts that were not seen, before and behind', () => {
    const m = fill(slots([withSelect('a', 20, 0, 8, 4), sampleClip('b', 40)]), { from: 'hit-first' });
    const seen = scoreOf(m)
      .slots.filter((s) => s.placed!.item.assetId === 'a')
      .map((s) => s.placed!.shot.sourceIn);
    expect(seen.slice(0, 3)).toEqual([4, 0, 2]);
  });
});

describe('too short', () => {
  const tiny = (): Montage => slots([withSelect('a', 20, 4, 4.6), sampleClip('b', 30), sampleClip('c', 30)]);
  test('slowed first, then beyond the select into the handles', () => {
    const plan = planFill(tiny(), { ...FILL_DEFAULTS, handles: true, whenOut: 'stop' });
    expect(plan.counts).toMatchObject({ slots: 10, filled: 3, slowed: 1, beyond: 1, gaps: 0, missing: 0 });
    expect(first(takePlan(tiny(), plan)).speed).toBeCloseTo(0.5, 6);
  });
  test('without handles it ends at its out and leaves a gap of known length, or holds its last frame', () => {
    const gap = fill(tiny(), { handles: false });
    expect(first(gap).missing).toBeCloseTo(0.8, 6);
    expect(sourceFrame(first(gap), 40, gap)).toBeNull();
    const held = fill(tiny(), { handles: false, tooShort: 'hold' });
    expect(sourceFrame(first(held), 59, held)).toBe(Math.round(4.6 * 30) - 1);
  });
  test('or the slot is divided on its last beat within reach, and the next clip goes on', () => {
    const m = fill(tiny(), { handles: false, tooShort: 'divide' });
    const { slots: all } = scoreOf(m);
    expect(all.slice(0, 3).map((s) => [s.start.frame, s.placed!.item.assetId])).toEqual([
      [0, 'a'],
      [30, 'b'],
      [60, 'c'],
    ]);
    expect(all[0]!.placed!.missing).toBe(0);
    expect(all[1]!.start.mark?.kind).toBe('beat');
  });
});

test('locked shots stay, chosen slots alone are filled, leftovers are listed', () => {
  let m = fill(slots([sampleClip('a', 30), sampleClip('b', 30), sampleClip('c', 30)]), {});
  const lock = scoreOf(m).slots[2]!.placed!.shot;
  m = carryOut(m, { do: 'lockShots', ids: [lock.id], locked: true });
  const again = fill(m, { order: 'shuffle', seed: 5 });
  expect(scoreOf(again).slots[2]!.placed!.shot.id).toBe(lock.id);
  const one = scoreOf(m).slots[4]!;
  const plan = planFill(m, { ...FILL_DEFAULTS, scope: 'chosen', slots: [one.start.id], order: 'picked', picked: ['c', 'a'] });
  const chosen = takePlan(m, plan);
  expect(
    scoreOf(chosen)
      .slots.map((s) => s.placed!.shot.id)
      .filter((id, i) => id !== scoreOf(m).slots[i]!.placed!.shot.id),
  ).toHaveLength(1);
  expect(scoreOf(chosen).slots[4]!.placed!.item.assetId).toBe('c');
  expect(planFill(sampleMontage(2, [sampleClip('a', 9), sampleClip('b', 9)]), FILL_DEFAULTS).leftovers).toEqual([
    { assetId: 'b', selectId: 'whole' },
  ]);
});

test('what has gone round again is not left over', () => {
  const plan = planFill(slots(['a', 'b', 'c'].map((id) => sampleClip(id, 3))), { ...FILL_DEFAULTS, whenOut: 'again' });
  expect(plan.counts.repeated).toBeGreaterThan(0);
  expect(plan.leftovers).toEqual([]);
});

test('never the same clip within so many slots while there are others', () => {
  const clips = ['a', 'b', 'c', 'd'].map((id, i) => sampleClip(id, 4 + 20 * i));
  const m = fill(slots(clips, 60), { apart: 3, order: 'shuffle', seed: 9 });
  const order = scoreOf(m).slots.map((s) => s.placed!.item.assetId);
  order.forEach((id, i) => expect(order.slice(Math.max(0, i - 2), i)).not.toContain(id));
});

describe('best match', () => {
  const clips = Array.from({ length: 12 }, (_, i) => withSelect(`c${i}`, 12, 0, 12, i % 4 === 0 ? 3 : null));
  const knowledge = (m: Montage): FillKnowledge => ({
    energy: Object.fromEntries(scoreOf(m).slots.map((s) => [s.start.id, s.start.time >= 10 ? 0.9 : 0.2])),
    looks: Object.fromEntries(
      clips.map((c, i) => [
        candidateKey(c.assetId, `${c.assetId}-1`),
        { movement: i < 6 ? 0.8 : 0.1, brightness: 0.5, sharpness: 0.5, colours: [i % 2 ? '#c02020' : '#2020c0'] },
      ]),
    ),
  });
  test('lively clips meet full music, neighbours differ in look, the drop gets a hit', () => {
    let m = slots(clips);
    m = carryOut(m, { do: 'addMark', kind: 'drop', time: 12.6 });
    const filled = fill(m, { order: 'match', whenOut: 'stop' }, knowledge(m));
    const placed = scoreOf(filled).slots.map((s) => s.placed!);
    const number = (p: (typeof placed)[number]): number => Number(p.item.assetId.slice(1));
    const lively = placed.filter((p) => number(p) < 6);
    expect(lively.filter((p) => scoreOf(filled).slots.find((s) => s.placed === p)!.start.time >= 10).length).toBeGreaterThanOrEqual(4);
    const alike = placed.slice(1).filter((p, i) => number(p) % 2 === number(placed[i]!) % 2).length;
    expect(alike).toBeLessThanOrEqual(3);
    const onDrop = scoreOf(filled).slots.find((s) => s.start.frame <= 378 && s.end.frame > 378)!;
    expect(onDrop.placed!.item.selects[0]!.hit).toBe(3);
    expect(sourceFrame(onDrop.placed!, 378 - onDrop.start.frame, filled)).toBe(90);
    for (const p of placed) expect(p.shot.why).toMatch(/picture for/);
    expect(new Set(placed.map((p) => p.item.assetId)).size).toBe(placed.length);
  });
});

test('whatever the options, filling moves no cut, and what it counts is what hangs', () => {
  const options = fc.record({
    order: fc.constantFrom('story' as const, 'shuffle' as const, 'match' as const),
    seed: fc.nat(1000),
    from: fc.constantFrom('in' as const, 'out' as const, 'hit-first' as const, 'hit-mark' as const),
    leastSpeed: fc.constantFrom(0.25, 0.5, 1),
    handles: fc.boolean(),
    tooShort: fc.constantFrom('gap' as const, 'hold' as const, 'divide' as const, 'next' as const),
    whenOut: fc.constantFrom('stop' as const, 'again' as const),
    apart: fc.integer({ min: 1, max: 4 }),
  });
  const clips = [withSelect('a', 9, 1, 3, 2), withSelect('b', 2, 0.5, 0.9), sampleClip('c', 30), samplePhoto('p'), sampleClip('d', 0.4)];
  fc.assert(
    fc.property(options, (chosen) => {
      const m = slots(clips);
      const plan = planFill(m, { ...FILL_DEFAULTS, ...chosen });
      const after = takePlan(m, plan);
      const frames = scoreOf(after).pegs.map((p) => p.frame);
      for (const p of scoreOf(m).pegs) expect(frames).toContain(p.frame);
      const gaps = scoreOf(after).slots.filter((s) => s.placed && s.placed.missing > 0 && s.placed.shot.whenShort === 'gap');
      expect(gaps).toHaveLength(plan.counts.gaps);
      expect(gaps.reduce((sum, s) => sum + s.placed!.missing, 0)).toBeCloseTo(plan.counts.missing, 6);
      for (const slot of scoreOf(after).slots)
        for (const into of [0, slot.frames - 1]) {
          const n = slot.placed && sourceFrame(slot.placed, into, after);
          if (n !== null) expect(n >= 0 && n < slot.placed!.item.frames).toBe(true);
        }
    }),
    { numRuns: 150 },
  );
});
