import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { sampleClip, sampleMontage } from '../testing/sample-montage.ts';
import { sourceCurve } from '../score/source-curve.ts';
import { carryOut } from '../commands/carry-out.ts';
import { mixPlan } from '../sound/mix-plan.ts';
import { scoreOf } from '../score/score.ts';
import { sourceFrame } from '../score/placed-shot.ts';
import { speedsOf } from '../score/retime.ts';
import type { Command } from '../commands/all.ts';
import type { FootageItem, Montage } from '../document/montage.ts';

/** One clip in slots of two bars, 4 s each. */
function hung(clip: FootageItem = sampleClip('a', 20)): { m: Montage; id: string } {
  let m = carryOut(sampleMontage(8, [clip, sampleClip('b', 30)]), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 2 } });
  m = carryOut(m, { do: 'fill', options: FILL_DEFAULTS });
  return { m, id: scoreOf(m).slots[0]!.placed!.shot.id };
}
const shown = (m: Montage, slot = 0): (number | null)[] => {
  const { placed, frames } = scoreOf(m).slots[slot]!;
  return Array.from({ length: frames }, (_, into) => sourceFrame(placed!, into, m));
};
const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);
const markAt = (m: Montage, time: number): string => m.marks.find((x) => Math.abs(x.time - time) < 1e-6)!.id;

describe('curves through tied frames', () => {
  test('eased ones are monotone and meet every node exactly', () => {
    const steps = fc.array(fc.tuple(fc.double({ min: 0.05, max: 3, noNaN: true }), fc.double({ min: 0, max: 5, noNaN: true })), {
      minLength: 1,
      maxLength: 8,
    });
    fc.assert(
      fc.property(steps, fc.double({ min: 0, max: 20, noNaN: true }), (list, edge) => {
        let [at, source] = [0, 1];
        const nodes = [{ at, source }, ...list.map(([t, s]) => ({ at: (at += t), source: (source += s) }))];
        const curve = sourceCurve(nodes, 'eased', { start: edge, end: edge });
        for (const n of nodes) expect(curve.source(n.at)).toBe(n.source);
        const shownAt = Array.from({ length: 201 }, (_, i) => curve.source((i * at) / 200));
        expect(shownAt.filter((s, i) => i > 0 && !(s >= shownAt[i - 1]! - 1e-9))).toEqual([]);
      }),
    );
  });
  test('its speed is the slope of what it shows', () => {
    const curve = sourceCurve(
      [
        { at: 0, source: 0 },
        { at: 1, source: 0.5 },
        { at: 2, source: 3 },
      ],
      'eased',
    );
    for (const t of [0.2, 0.7, 1.3, 1.9]) expect(curve.speed(t)).toBeCloseTo((curve.source(t + 1e-5) - curve.source(t - 1e-5)) / 2e-5, 4);
  });
});

describe('frames tied to marks', () => {
  test('the tied frame is on the screen at the mark’s frame, exactly; the speed between follows', () => {
    const { m, id } = hung();
    const tied = act(
      m,
      { do: 'tieFrame', id, markId: markAt(m, 1), source: 100 / 30 },
      { do: 'tieFrame', id, markId: markAt(m, 2.5), source: 160 / 30 },
    );
    const frames = shown(tied);
    expect([frames[30], frames[75]]).toEqual([100, 160]);
    // 60 source frames in 45: four thirds; before the first tie and after the last as recorded.
    expect(frames[60]).toBe(140);
    expect(frames[0]).toBe(70);
    expect(frames[90]).toBe(175);
  });

  test('eased, the tied frames stay where they are, whatever the frames between', () => {
    const { m, id } = hung(sampleClip('a', 20, { rate: { num: 25, den: 1 } }));
    const ties: Command[] = [
      { do: 'tieFrame', id, markId: markAt(m, 1), source: 4 },
      { do: 'tieFrame', id, markId: markAt(m, 2), source: 6 },
      { do: 'tieFrame', id, markId: markAt(m, 3), source: 6.4 },
      { do: 'setEase', id, ease: 'eased' },
    ];
    const frames = shown(act(m, ...ties));
    expect([frames[30], frames[60], frames[90]]).toEqual([100, 150, 160]);
    frames.slice(1).forEach((n, i) => expect(n).toBeGreaterThanOrEqual(frames[i]!));
  });

  test('moving the mark moves the hit with it', () => {
    const { m, id } = hung();
    const mark = markAt(m, 1);
    const tied = act(m, { do: 'tieFrame', id, markId: mark, source: 5 }, { do: 'moveMarks', ids: [mark], by: 0.2 });
    expect(shown(tied)[36]).toBe(150);
  });

  test('a tie outside the speed limits is refused with the speed', () => {
    const { m, id } = hung();
    const once = act(m, { do: 'tieFrame', id, markId: markAt(m, 1), source: 1 });
    expect(() => act(once, { do: 'tieFrame', id, markId: markAt(m, 1.5), source: 15 })).toThrow(/at most 800 %/);
    expect(() => act(once, { do: 'tieFrame', id, markId: markAt(m, 6), source: 15 })).toThrow(/not lie in this slot/);
  });

  test('an end of the curve is dragged within the clip; a tie taken off leaves the others', () => {
    const { m, id } = hung();
    let next = act(m, { do: 'tieFrame', id, markId: markAt(m, 1), source: 4 }, { do: 'tieFrame', id, markId: markAt(m, 2), source: 5 });
    next = act(next, { do: 'setSourceOut', id, sourceOut: 9, sourceIn: 2 });
    expect([shown(next)[0], shown(next)[30], shown(next)[60]]).toEqual([60, 120, 150]);
    expect(speedsOf(scoreOf(next).slots[0]!.placed!)).toMatchObject({ slowest: 1, fastest: 2 });
    expect(shown(act(next, { do: 'untieFrame', id, markId: markAt(m, 1) }))[60]).toBe(150);
  });
});

describe('other ways to run', () => {
  test.each([25, 30, 60])(
    'backwards shows the same frames in the opposite order, and twice backwards is forwards (%i frames a second)',
    (fps) => {
      const { m, id } = hung(sampleClip('a', 20, { rate: { num: fps, den: 1 } }));
      const back0 = act(m, { do: 'reverseShot', id });
      expect(shown(back0)).toEqual([...shown(m)].reverse());
      const slipped = act(m, { do: 'slipShot', id, by: 2 });
      const back = act(slipped, { do: 'reverseShot', id });
      expect(shown(back)).toEqual([...shown(slipped)].reverse());
      expect(shown(act(back, { do: 'reverseShot', id }))).toEqual(shown(slipped));
    },
  );

  test('a clip that runs backwards has no more than its start', () => {
    const { m, id } = hung();
    const back = act(m, { do: 'setRate', id, rate: -1 });
    expect(scoreOf(back).slots[0]!.placed!.coveredFrames).toBe(1);
    expect(shown(back).slice(0, 2)).toEqual([0, null]);
  });

  test('a frame stands', () => {
    const { m, id } = hung();
    expect(new Set(shown(act(m, { do: 'freezeShot', id, source: 3.01 })))).toEqual(new Set([90]));
  });

  test('a shot divided in the middle of an eased curve shows what it showed', () => {
    const { m, id } = hung();
    const tied = act(m, { do: 'tieFrame', id, markId: markAt(m, 1), source: 3 }, { do: 'tieFrame', id, markId: markAt(m, 3), source: 8 });
    const divided = act(tied, { do: 'hangPeg', markId: markAt(m, 2) });
    expect([...shown(divided), ...shown(divided, 1)]).toEqual(shown(tied));
  });
});

describe('its sound', () => {
  const sounding = (): { m: Montage; id: string } => {
    const { m, id } = hung(sampleClip('a', 20, { hasSound: true }));
    return { m: act(m, { do: 'setShotSound', ids: [id], level: 1 }), id };
  };
  test('goes with the speed at its own pitch, in stretches between ties', () => {
    const { m, id } = sounding();
    const tied = act(m, { do: 'tieFrame', id, markId: markAt(m, 1), source: 4 }, { do: 'tieFrame', id, markId: markAt(m, 2), source: 5.5 });
    const { clips } = mixPlan(tied);
    expect(clips.map((c) => [c.at, c.length, c.speed])).toEqual([
      [0, 1, 1],
      [1, 1, 1.5],
      [2, 2, 1],
    ]);
    expect(clips.map((c) => [c.fadeIn > 0, c.fadeOut > 0])).toEqual([
      [true, false],
      [false, false],
      [false, true],
    ]);
  });
  test('is silent where it was muted when stretched, backwards, or standing', () => {
    const { m, id } = sounding();
    const slow = act(m, { do: 'setRate', id, rate: 0.8 });
    expect(mixPlan(slow).clips).toMatchObject([{ speed: 0.8 }]);
    expect(mixPlan(act(slow, { do: 'setShotSound', ids: [id], stretched: 'muted' })).clips).toEqual([]);
    expect(mixPlan(act(m, { do: 'setRate', id, rate: -1 })).clips).toEqual([]);
    expect(mixPlan(act(m, { do: 'freezeShot', id })).clips).toEqual([]);
  });
});

test('a clip slowed to fit does not race through a slot that a rule makes shorter', () => {
  let m = carryOut(sampleMontage(8, [sampleClip('a', 2.4), sampleClip('b', 30)]), {
    do: 'hangByRule',
    rule: { kind: 'pulse', unit: 'bar', every: 2 },
  });
  m = carryOut(m, { do: 'fill', options: FILL_DEFAULTS });
  expect(scoreOf(m).slots[0]!.placed!.speed).toBeCloseTo(0.6, 6);
  const shorter = carryOut(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 1 } });
  expect(scoreOf(shorter).slots[0]!.placed!.speed).toBeCloseTo(0.6, 6);
});
