import { describe, expect, test } from '@jest/globals';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { layRun } from './lay-run.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { carryOut } from '../commands/carry-out.ts';
import { compareVersions } from '../report/compare-versions.ts';
import { planSettle, SETTLE_DEFAULTS, type SettleOptions } from '../settle/settle.ts';
import { reportCsv } from '../formats/report-csv.ts';
import { scoreOf, shownAt } from '../score/score.ts';
import { syncReport } from '../report/sync-report.ts';
import { varietyOf } from '../settle/variety.ts';
import type { Command } from '../commands/all.ts';
import type { Montage } from '../document/montage.ts';

const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);
/** Slots of a bar, 60 frames, each with the middle of a long clip. */
function bars(): Montage {
  const select = (id: string): { selects: [{ id: string; in: number; out: number; hit: null }] } => ({
    selects: [{ id: `${id}s`, in: 5, out: 25, hit: null }],
  });
  const m = sampleMontage(
    20,
    ['a', 'b', 'c'].map((id) => sampleClip(id, 60, select(id))),
  );
  return act(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }, { do: 'fill', options: FILL_DEFAULTS });
}
const settledBy = (m: Montage, options: SettleOptions): Montage => act(m, { do: 'takeSettle', plan: planSettle(m, options), options });
const markAt = (m: Montage, time: number): string => m.marks.find((x) => Math.abs(x.time - time) < 1e-6)!.id;
const starts = (m: Montage): number[] => scoreOf(m).slots.map((s) => s.start.frame);
const seen = (m: Montage, from: number, to: number): string[] =>
  Array.from({ length: to - from }, (_, i) => shownAt(m, from + i)).map((s) => (s ? `${s.placed.item.assetId}${s.source}` : '-'));

describe('rolling, sliding, slipping', () => {
  test('a rolled cut comes later; the pictures on both sides stay in their time', () => {
    const m = bars();
    const peg = scoreOf(m).slots[1]!.start.id;
    const later = act(m, { do: 'rollCut', id: peg, to: { markId: markAt(m, 2.5) } });
    expect(starts(later).slice(0, 3)).toEqual([0, 75, 120]);
    expect(seen(later, 75, 300)).toEqual(seen(m, 75, 300));
    expect(seen(later, 0, 60)).toEqual(seen(m, 0, 60));
    const earlier = act(m, { do: 'rollCut', id: peg, to: { frame: 50 } });
    expect(seen(earlier, 60, 300)).toEqual(seen(m, 60, 300));
    expect(scoreOf(earlier).slots[1]!.start.mark).toBeNull();
    expect(shownAt(earlier, 50)).toMatchObject({ source: 140 });
  });

  test('a cut cannot pass its neighbour', () => {
    const m = bars();
    expect(() => act(m, { do: 'rollCut', id: scoreOf(m).slots[1]!.start.id, to: { frame: 121 } })).toThrow(/cannot pass/);
    expect(() => act(m, { do: 'rollCut', id: scoreOf(m).slots[1]!.start.id, to: { frame: 0 } })).toThrow();
  });

  test('slid by a beat, the shot shows the same, and its neighbours give and take', () => {
    const m = bars();
    const { shot } = scoreOf(m).slots[2]!.placed!;
    const slid = act(m, { do: 'slideShot', id: shot.id, to: 'before' });
    expect(starts(slid).slice(0, 5)).toEqual([0, 60, 105, 165, 240]);
    expect(seen(slid, 105, 165)).toEqual(seen(m, 120, 180));
    expect(seen(slid, 240, 300)).toEqual(seen(m, 240, 300));
    expect(seen(slid, 0, 105)).toEqual(seen(m, 0, 105));
  });

  test('live trimming: the shot ends here, or the next one starts here with its own first picture', () => {
    const m = bars();
    const ended = act(m, { do: 'endShotAt', frame: 47 });
    expect(starts(ended).slice(0, 3)).toEqual([0, 47, 120]);
    expect(seen(ended, 60, 200)).toEqual(seen(m, 60, 200));
    const next = act(m, { do: 'startNextAt', frame: 47 });
    expect(starts(next)).toEqual(starts(ended));
    expect(shownAt(next, 47)!.source).toBe(shownAt(m, 60)!.source);
    const drawn = act(ended, { do: 'drawPegs', ids: [scoreOf(ended).slots[1]!.start.id] });
    expect(starts(drawn)[1]).toBe(45);
    expect(scoreOf(drawn).slots[1]!.start.mark).not.toBeNull();
  });
});

describe('drawing free cuts to marks', () => {
  // Beats lie 15 frames apart; those of the bars have pegs, at 60, 120 and so on.
  const freed = (...frames: number[]): Montage => frames.reduce((m, frame) => act(m, { do: 'hangPeg', time: frame / 30 + 1e-4 }), bars());
  const drawn = (m: Montage): number[] => {
    const ids = scoreOf(m)
      .pegs.filter((p) => p.peg && !p.mark)
      .map((p) => p.id);
    return starts(act(m, { do: 'drawPegs', ids })).filter((f) => f < 120);
  };

  test('each goes to the nearest on which none hangs, and two never to the same', () => {
    expect(drawn(freed(13, 49))).toEqual([0, 15, 45, 60]);
    // Both are nearest to 30: the first takes it, the second goes to the next.
    expect(drawn(freed(28, 33))).toEqual([0, 30, 45, 60]);
  });
  test('none passes a neighbour; where there is no room it stays, and where none has room a sentence says so', () => {
    expect(drawn(freed(47, 52, 57))).toEqual([0, 45, 52, 57, 60]);
    expect(() => drawn(freed(46, 59))).not.toThrow();
    const tight = freed(61);
    expect(() => act(tight, { do: 'drawPegs', ids: ['gone'] })).toThrow(/no free mark/);
  });
});

describe('settling a cut that was there before the music', () => {
  const film = sampleClip('film', 60, {
    selects: [0, 1.9, 4.2, 5.7, 8.1, 10.3].map((from, i, all) => ({ id: `f${i}`, in: from, out: all[i + 1] ?? 12.2, hit: null })),
  });
  const run = film.selects.map((s) => ({ assetId: 'film', in: s.in, out: s.out }));
  const laid = (): Montage => act(sampleMontage(20, [film, sampleClip('b', 60)]), { do: 'layRun', run, at: 0 });
  const settle = (m: Montage, more: Partial<SettleOptions>): Montage => settledBy(m, { ...SETTLE_DEFAULTS, ...more });
  const onBeats = (m: Montage): boolean =>
    scoreOf(m)
      .slots.slice(1, 6)
      .every((s) => s.start.mark !== null);

  test('laid out it is as it was, frame by frame, on free pegs', () => {
    const m = laid();
    expect(starts(m)).toEqual([0, 57, 126, 171, 243, 309, 366]);
    expect(seen(m, 0, 366)).toEqual(Array.from({ length: 366 }, (_, n) => `film${n}`));
    expect(layRun(sampleMontage(5, [film]), run, 0).left).toBe(4);
  });

  test('a rule holds on while pegs of it are left, and no longer', () => {
    const ruled = act(sampleMontage(20, [film]), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    expect(act(ruled, { do: 'layRun', run, at: 0 }).pegRule).toEqual(ruled.pegRule);
    const short = act(sampleMontage(12.2, [film]), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    expect(act(short, { do: 'layRun', run, at: 0 }).pegRule).toBeNull();
  });

  test('retimed nothing is lost: each shot shows all it showed, on the beat', () => {
    const m = settle(laid(), { way: 'retime' });
    expect(starts(m)).toEqual([0, 60, 120, 165, 240, 315, 360]);
    expect(onBeats(m)).toBe(true);
    run.slice(0, 5).forEach((r, i) => {
      const { placed } = scoreOf(m).slots[i]!;
      expect(placed!.shot.sourceIn).toBeCloseTo(r.in, 6);
      expect(placed!.curve.source(scoreOf(m).slots[i]!.length)).toBeCloseTo(r.out, 6);
    });
  });

  test('eased, speed goes over from shot to shot without a step', () => {
    const m = settle(laid(), { way: 'retime', ease: 'eased' });
    const placed = scoreOf(m).slots.slice(0, 5);
    placed
      .slice(1)
      .forEach((slot, i) => expect(slot.placed!.curve.speed(0)).toBeCloseTo(placed[i]!.placed!.curve.speed(placed[i]!.length - 1e-9), 3));
    expect(placed[2]!.placed!.curve.source(placed[2]!.length)).toBeCloseTo(5.7, 6);
  });

  test('rippled, each is trimmed to a mark and the rest follows; no shot is longer than it was by more than its limits', () => {
    const m = settle(laid(), { way: 'ripple' });
    expect(onBeats(m)).toBe(true);
    const lengths = scoreOf(m)
      .slots.slice(0, 6)
      .map((s) => s.frames);
    [57, 69, 45, 72, 66, 57].forEach((old, i) => expect(lengths[i]! <= old / 0.5 && lengths[i]! % 15 === 0).toBe(true));
    expect(scoreOf(m).slots[1]!.placed!.shot.sourceIn).toBeCloseTo(1.9, 6);
  });

  test('a long run rippled: every cut on a beat of its own, each shot changed by no more than its reach', () => {
    const clips = ['a', 'b', 'c'].map((id) => sampleClip(id, 60));
    const lengths = Array.from({ length: 300 }, (_, i) => 1 + 0.4 * Math.sin(i * 1.7));
    const long = act(sampleMontage(330, clips), {
      do: 'layRun',
      at: 0,
      run: lengths.map((length, i) => ({ assetId: 'abc'[i % 3]!, in: 10, out: 10 + length })),
    });
    const { cuts, settled } = planSettle(long, { ...SETTLE_DEFAULTS, way: 'ripple' });
    expect(settled).toBe(300);
    expect(new Set(cuts.map((c) => c.markId)).size).toBe(300);
    const change = cuts.map((c, i) => c.toFrame - (cuts[i - 1]?.toFrame ?? 0) - (c.fromFrame - (cuts[i - 1]?.fromFrame ?? 0)));
    expect(Math.max(...change.map(Math.abs))).toBeLessThanOrEqual(SETTLE_DEFAULTS.reach * 30);
  });

  test('rolled, the length stays and pictures stay in their time where a clip has handles', () => {
    const loose = act(sampleMontage(20, [sampleClip('a', 60), sampleClip('b', 60)]), {
      do: 'layRun',
      at: 0,
      run: [3, 2.1, 1.8, 2.6].map((length, i) => ({ assetId: i % 2 ? 'b' : 'a', in: 10, out: 10 + length })),
    });
    const m = settle(loose, { way: 'roll' });
    expect(starts(m)).toEqual([0, 90, 150, 210, 285]);
    expect(seen(m, 100, 150)).toEqual(seen(loose, 100, 150));
    expect(
      scoreOf(m)
        .slots.slice(0, 4)
        .every((s) => Math.abs(s.placed!.speed - 1) < 1e-9),
    ).toBe(true);
  });

  test('a choice for one cut is kept, and the others are solved around it; impossible limits are said', () => {
    const m = laid();
    const second = scoreOf(m).slots[1]!.start.id;
    const plan = planSettle(m, { ...SETTLE_DEFAULTS, way: 'retime', choices: { [second]: markAt(m, 1.5) } });
    expect(plan.cuts[0]).toMatchObject({ pegId: second, fromFrame: 57, toFrame: 45 });
    const stays = planSettle(m, { ...SETTLE_DEFAULTS, way: 'retime', choices: { [second]: null } });
    expect(stays.cuts[0]).toMatchObject({ toFrame: 57, markId: null });
    expect(() => planSettle(m, { ...SETTLE_DEFAULTS, way: 'retime', slowest: 1.4, fastest: 1.5 })).toThrow(/Allow more speed/);
    expect(() => planSettle(bars(), SETTLE_DEFAULTS)).toThrow(/already/);
  });
});

describe('variety', () => {
  test('the same length over and over is wholly predictable; loosened it is less so, by seed, and undone by one step', () => {
    const m = act(bars(), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    expect(varietyOf(m)).toMatchObject({ predictable: 1, histogram: [{ beats: 4, count: 10 }] });
    const loose = act(m, { do: 'loosenCuts', seed: 3, share: 0.6 });
    expect(varietyOf(loose).predictable).toBeLessThan(0.8);
    expect(act(m, { do: 'loosenCuts', seed: 3, share: 0.6 })).toEqual(loose);
    expect(loose.shots).toHaveLength(m.shots.length);
    expect(
      scoreOf(loose)
        .slots.slice(1)
        .every((s) => s.start.mark),
    ).toBe(true);
  });
});

describe('the sync report', () => {
  test('names what deserves a second look', () => {
    const small = { ...sampleClip('small', 30), width: 320, height: 180 };
    let m = sampleMontage(8, [small, samplePhoto('p'), sampleClip('b', 30)]);
    m = act(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }, { do: 'fill', options: FILL_DEFAULTS });
    const ids = scoreOf(m).slots.map((s) => s.placed!.shot.id);
    m = act(
      m,
      { do: 'setFraming', ids: [ids[1]!], framing: 'fit' },
      { do: 'setRate', id: ids[2]!, rate: 3 },
      { do: 'takeDownShot', id: ids[3]! },
    );
    m = act(m, { do: 'hangPeg', time: 7.13 });
    const { slots, freeCuts, emptySlots } = syncReport(m);
    expect(slots.map((s) => s.warnings)).toEqual([
      ['low resolution'],
      ['black at the edges'],
      ['fast'],
      ['gap'],
      ['gap', 'off mark on purpose'],
    ]);
    expect([freeCuts, emptySlots]).toEqual([1, 2]);
    expect(slots[2]).toMatchObject({ sourceFrames: [0, 177], handles: [0, 24], speed: 3 });
  });

  test('as a table it has a row for each slot', () => {
    const lines = reportCsv(syncReport(bars())).trim().split('\r\n');
    expect(lines).toHaveLength(11);
    expect(lines[0]).toMatch(/^slot,first frame,last frame,time,mark/);
    expect(lines[2]).toMatch(/^2,60,119,2\.0000,bar,2\.0000,0\.000,0\.000,b\.mp4,150,209,100\.0,5\.000,/);
  });

  test('two versions are compared line by line', () => {
    const a = bars();
    const b = act(
      a,
      { do: 'rollCut', id: scoreOf(a).slots[1]!.start.id, to: { markId: markAt(a, 2.5) } },
      { do: 'hangShot', startPeg: scoreOf(a).slots[5]!.start.id, assetId: 'a' },
    );
    const { lines, same, overAll } = compareVersions(a, b);
    expect(overAll).toEqual([]);
    expect(lines.map((l) => l.change)).toEqual([
      'length',
      'only first',
      'only second',
      'same',
      'same',
      'same',
      'clip',
      'same',
      'same',
      'same',
      'same',
    ]);
    expect(same).toBe(7);
    const dressed = act(
      a,
      { do: 'setMoves', ids: [scoreOf(a).slots[2]!.placed!.shot.id], moves: [{ kind: 'drift', strength: 0.4, ease: 'even' }] },
      { do: 'setTransition', pegIds: [scoreOf(a).slots[4]!.start.id], transition: { kind: 'push', beats: 1, place: 'over' } },
      { do: 'addLook', kind: 'vignette', strength: 0.4 },
    );
    const otherwise = compareVersions(a, dressed);
    expect(otherwise.lines.flatMap((l, i) => (l.change === 'same' ? [] : [[i, l.change]]))).toEqual([
      [2, 'dress'],
      [4, 'dress'],
    ]);
    expect(otherwise.overAll).toEqual(['looks of all']);
  });
});
