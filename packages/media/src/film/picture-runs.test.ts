import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  FILL_DEFAULTS,
  UNDESCRIBED,
  carryOut,
  drawListAt,
  picturesIn,
  emptyMontage,
  scoreOf,
  type Command,
  type FootageItem,
  type Montage,
} from '@bluster/core';
import { filmPlan, filmPlans, type FilmPlan } from './picture-runs.ts';

const clip = (assetId: string, frames: number): FootageItem => ({
  assetId,
  kind: 'clip',
  name: assetId,
  width: 320,
  height: 180,
  rate: { num: 30, den: 1 },
  frames,
  hasSound: false,
  ...UNDESCRIBED,
});

const after = (montage: Montage, commands: readonly Command[]): Montage => commands.reduce(carryOut, montage);

/** Six slots of one second. */
function montage(): Montage {
  const times = Array.from({ length: 12 }, (_, i) => i * 0.5);
  return after({ ...emptyMontage(), shape: { width: 320, height: 180, rate: { num: 30, den: 1 } } }, [
    { do: 'setSong', assetId: 'song', name: 'song', length: 6 },
    { do: 'takeBeatTimes', times, metre: 4 },
    { do: 'addFootage', items: [clip('a', 150), clip('b', 100), clip('c', 60)] },
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 2 } },
    { do: 'fill', options: FILL_DEFAULTS },
  ]);
}

const wholePlan = (m: Montage): FilmPlan => filmPlan(m, 0, scoreOf(m).frames);

/** What must hold for any film: each picture of each frame comes from a run that has it then. In stretches it is the same film. */
function expectWhole(m: Montage): void {
  expectPlanned(m, wholePlan(m), 0);
  let from = 0;
  for (const plan of filmPlans(m, 0, scoreOf(m).frames, 37)) {
    expectPlanned(m, plan, from);
    from += plan.frames.length;
  }
  expect(from).toBe(scoreOf(m).frames);
}

function expectPlanned(m: Montage, plan: FilmPlan, from: number): void {
  const planned = plan.frames.map(({ layers, list }, n) => {
    const pictures = layers.flat().map(({ run, source, opacity }) => {
      const { item, wants, first } = plan.runs[run]!;
      return { source, opacity, shotId: item.shotId, read: wants[n - first]?.includes(source) };
    });
    return { list, pictures };
  });
  const meant = plan.frames.map((_, n) => {
    const list = drawListAt(m, from + n);
    return { list, pictures: picturesIn(list).map(({ frame, opacity, shotId }) => ({ source: frame, opacity, shotId, read: true })) };
  });
  expect(planned).toEqual(meant);
  for (const { wants, order } of plan.runs)
    if (order === 'rising') expect(wants.every(([source], i) => i === 0 || source! >= wants[i - 1]![0]!)).toBe(true);
}

describe('the plan of a film', () => {
  test('has a run for each shot, and none for a gap', () => {
    const m = montage();
    expectWhole(m);
    expect(wholePlan(m).frames).toHaveLength(180);
    expect(wholePlan(m).runs.map((r) => [r.first, r.wants.length, r.order])).toEqual(
      Array.from({ length: 6 }, (_, i) => [30 * i, 30, 'rising']),
    );
    const gap = after(m, [{ do: 'takeDownShot', id: scoreOf(m).slots[2]!.placed!.shot.id }]);
    expectWhole(gap);
    expect(wholePlan(gap).runs.map((r) => r.first)).toEqual([0, 30, 90, 120, 150]);
    expect(wholePlan(gap).frames[75]!.layers).toEqual([]);
  });
  test('in a dissolve two runs are read at once, each from where its clip is seen first', () => {
    const m = montage();
    const [, second] = scoreOf(m).slots;
    const dissolved = after(m, [
      { do: 'setTransition', pegIds: [second!.start.id], transition: { kind: 'dissolve', beats: 1, place: 'over' } },
    ]);
    expectWhole(dissolved);
    const [a, b] = wholePlan(dissolved).runs;
    expect([a!.first, a!.first + a!.wants.length]).toEqual([0, 38]);
    expect([b!.first, b!.first + b!.wants.length]).toEqual([23, 60]);
  });
  test('a clip that runs backwards is held in pieces', () => {
    const m = montage();
    const id = scoreOf(m).slots[1]!.placed!.shot.id;
    const back = after(m, [{ do: 'reverseShot', id }]);
    expectWhole(back);
    const own = wholePlan(back).runs.filter((r) => r.item.shotId === id);
    expect(own.length).toBeGreaterThan(1);
    expect(own.every((r) => r.order === 'any')).toBe(true);
  });
  test('is whole whatever is hung and dressed how', () => {
    const change = fc.oneof(
      fc.record({ what: fc.constant('dissolve' as const), slot: fc.integer({ min: 1, max: 5 }), beats: fc.constantFrom(0.5, 1, 2, 4) }),
      fc.record({ what: fc.constant('rate' as const), slot: fc.integer({ min: 0, max: 5 }), rate: fc.constantFrom(-1, 0.25, 0.5, 2) }),
      fc.record({ what: fc.constant('blend' as const), slot: fc.integer({ min: 0, max: 5 }) }),
      fc.record({ what: fc.constant('take' as const), slot: fc.integer({ min: 0, max: 5 }) }),
      fc.record({ what: fc.constant('over' as const), slot: fc.integer({ min: 0, max: 4 }) }),
    );
    fc.assert(
      fc.property(fc.array(change, { maxLength: 6 }), (changes) => {
        const m = changes.reduce((now, c): Montage => {
          const slot = scoreOf(now).slots[c.slot]!;
          const id = slot.placed?.shot.id;
          if (c.what === 'dissolve')
            return carryOut(now, {
              do: 'setTransition',
              pegIds: [slot.start.id],
              transition: { kind: 'dissolve', beats: c.beats, place: 'over' },
            });
          if (c.what === 'over') {
            const [from, to] = [30 * c.slot + 11, 30 * c.slot + 29];
            const taken = scoreOf(now).over.some((o) => o.start.frame < to && o.end.frame > from);
            return taken ? now : carryOut(now, { do: 'hangOver', from: { frame: from }, to: { frame: to }, assetId: 'c' });
          }
          if (id === undefined) return now;
          if (c.what === 'rate') return carryOut(now, { do: 'setRate', id, rate: c.rate });
          if (c.what === 'blend') return carryOut(now, { do: 'setBlend', ids: [id], blend: true });
          return carryOut(now, { do: 'takeDownShot', id });
        }, montage());
        expectWhole(m);
      }),
      { numRuns: 25 },
    );
  });
});
