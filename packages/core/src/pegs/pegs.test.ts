import { describe, expect, test } from '@jest/globals';
import { sampleClip, sampleMontage } from '../testing/sample-montage.ts';
import { carryOut } from '../commands/carry-out.ts';
import { CommandError } from '../document/command-error.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { layLines } from '../score/lines.ts';
import { pulse } from '../marks/in-use.ts';
import { scoreOf } from '../score/score.ts';
import type { Montage } from '../document/montage.ts';

const frames = (m: Montage): number[] => scoreOf(m).pegs.map((p) => p.frame);
const byRule = (m: Montage, unit: 'beat' | 'bar', every: number): Montage =>
  carryOut(m, { do: 'hangByRule', rule: { kind: 'pulse', unit, every } });

describe('peg rules', () => {
  test.each([
    ['beat', 1, 39],
    ['beat', 2, 19],
    ['bar', 1, 9],
    ['bar', 2, 4],
    ['bar', 4, 2],
  ] as const)('every %s, by %i: %i pegs besides the start', (unit, every, count) => {
    expect(byRule(sampleMontage(), unit, every).pegs).toHaveLength(count);
  });

  test('cuts fall on the nearest frame of their marks', () => {
    const m = carryOut(byRule(sampleMontage(4), 'beat', 1), { do: 'shiftAllMarks', by: 0.01 });
    expect(frames(m)).toEqual([0, 15, 30, 45, 60, 75, 90, 105, 120]);
  });

  test('a cut that stays at its frame keeps its transition, though another rule makes it', () => {
    let m = carryOut(sampleMontage(), { do: 'addMark', kind: 'cue', time: 4 });
    m = byRule(m, 'bar', 1);
    const peg = scoreOf(m).slots[2]!.start.id;
    m = carryOut(m, { do: 'setTransition', pegIds: [peg], transition: { kind: 'wipe', beats: 1, place: 'over', way: 'up' } });
    const cues = carryOut(m, { do: 'hangByRule', rule: { kind: 'cues' } });
    expect(cues.pegs.map((p) => [p.id === peg, p.transition?.kind])).toEqual([[false, 'wipe']]);
    expect(byRule(m, 'bar', 4).pegs.filter((p) => p.transition)).toEqual([]);
  });

  test('a rule keeps pegs made by hand and shots that still have a slot', () => {
    let m = byRule(sampleMontage(), 'bar', 1);
    m = carryOut(m, { do: 'fill', options: FILL_DEFAULTS });
    const beat = pulse(m)[5]!;
    m = carryOut(m, { do: 'hangPeg', markId: beat.id });
    const second = byRule(m, 'bar', 2);
    expect(second.pegs.some((p) => p.markId === beat.id)).toBe(true);
    const kept = new Set(second.shots.map((s) => s.id));
    expect(scoreOf(m).slots.filter((s) => s.placed && kept.has(s.placed.shot.id)).length).toBe(kept.size);
    expect(kept.size).toBeGreaterThan(3);
  });

  test('without marks it says what to do', () => {
    const bare = carryOut(sampleMontage(), { do: 'removeMarks', ids: sampleMontage().marks.map((m) => m.id) });
    expect(() => byRule(bare, 'bar', 1)).toThrow(CommandError);
    expect(() => byRule(bare, 'bar', 1)).toThrow(/detected|tap/);
  });
});

describe('pegs by hand', () => {
  test('a peg divides a shot, and the clip goes on in the second half', () => {
    let m = byRule(sampleMontage(), 'bar', 1);
    m = carryOut(m, { do: 'fill', options: FILL_DEFAULTS });
    const before = scoreOf(m).slots[0]!;
    m = carryOut(m, { do: 'hangPeg', markId: pulse(m)[2]!.id });
    const [first, second] = scoreOf(m).slots;
    expect(first!.frames + second!.frames).toBe(before.frames);
    expect(second!.placed!.item.assetId).toBe(before.placed!.item.assetId);
    expect(second!.placed!.shot.sourceIn).toBeCloseTo(1, 6);
  });

  test('taken away, two slots become one and the first shot covers both', () => {
    let m = byRule(sampleMontage(), 'bar', 1);
    m = carryOut(m, { do: 'fill', options: FILL_DEFAULTS });
    const [first, second, third] = scoreOf(m).slots;
    m = carryOut(m, { do: 'removePeg', id: second!.start.id });
    const merged = scoreOf(m).slots[0]!;
    expect(merged.placed!.shot.id).toBe(first!.placed!.shot.id);
    expect(merged.end.frame).toBe(second!.end.frame);
    expect(scoreOf(m).slots[1]!.placed!.shot.id).toBe(third!.placed!.shot.id);
  });

  test('a moved mark takes its peg and cut along', () => {
    let m = byRule(sampleMontage(), 'bar', 1);
    const peg = scoreOf(m).pegs[3]!;
    m = carryOut(m, { do: 'moveMarks', ids: [peg.mark!.id], by: 0.2 });
    expect(scoreOf(m).pegs[3]!.frame).toBe(peg.frame + 6);
  });

  test('a deleted mark leaves its peg where it was, free', () => {
    let m = byRule(sampleMontage(), 'bar', 1);
    const peg = scoreOf(m).pegs[3]!;
    m = carryOut(m, { do: 'removeMarks', ids: [peg.mark!.id] });
    const after = scoreOf(m).pegs.find((p) => p.id === peg.id)!;
    expect(after.frame).toBe(peg.frame);
    expect(after.mark).toBeNull();
  });

  test('new marks take over the pegs of the old ones next to them', () => {
    let m = byRule(sampleMontage(), 'bar', 1);
    const ids = m.pegs.map((p) => p.id);
    m = carryOut(m, { do: 'takeBeatTimes', times: Array.from({ length: 40 }, (_, i) => i * 0.5 + 0.03), metre: 4 });
    expect(m.pegs.map((p) => p.id)).toEqual(ids);
    expect(
      scoreOf(m)
        .pegs.filter((p) => p.peg)
        .every((p) => p.mark !== null),
    ).toBe(true);
  });

  test('two pegs never share a frame', () => {
    const m = byRule(sampleMontage(), 'beat', 1);
    expect(() => carryOut(m, { do: 'hangPeg', time: m.pegs[0]!.time + 0.001 })).toThrow(/very frame/);
  });

  test('a peg whose mark is cut out of the song sleeps, and wakes again', () => {
    const m = byRule(sampleMontage(), 'bar', 1);
    const short = carryOut(m, { do: 'setSongRange', pieces: [{ from: 0, to: 7 }] });
    expect(frames(short)).toEqual([0, 60, 120, 180, 210]);
    expect(frames(carryOut(short, { do: 'setSongRange', pieces: [{ from: 0, to: 20 }] }))).toEqual(frames(m));
  });
});

describe('marks', () => {
  test('bar 1 and the metre are counted from any beat, both ways', () => {
    const m = sampleMontage(6);
    const next = carryOut(m, { do: 'setBarOne', id: pulse(m)[4]!.id, metre: 3 });
    expect(pulse(next).map((x) => (x.kind === 'bar' ? 1 : 0))).toEqual([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]);
  });
  test('double then halve gives the beats back', () => {
    const m = sampleMontage(6);
    const back = carryOut(carryOut(m, { do: 'doubleBeats' }), { do: 'halveBeats' });
    expect(pulse(back).map((x) => [x.time, x.kind])).toEqual(pulse(m).map((x) => [x.time, x.kind]));
  });
  test('taps that replace leave what lies outside them alone', () => {
    const m = sampleMontage(10);
    const taps = [4, 4.6, 5.2].map((time) => ({ time, kind: 'beat' as const }));
    const next = carryOut(m, { do: 'takeTaps', taps, how: 'replace' });
    expect(pulse(next).filter((x) => x.time < 3.8).length).toBe(pulse(m).filter((x) => x.time < 3.8).length);
    expect(
      pulse(next)
        .filter((x) => x.time > 3.8 && x.time < 5.4)
        .map((x) => x.time),
    ).toEqual([4, 4.6, 5.2]);
  });
});

test('lines of the score cover the song without a hole', () => {
  const m = sampleMontage(41, [sampleClip('a', 3)]);
  for (const bars of [1, 2, 4, 8, 16] as const) {
    const lines = layLines(m, m.song!.pieces, bars);
    expect(lines[0]!.from).toBe(0);
    expect(lines.at(-1)!.to).toBe(41);
    lines.slice(1).forEach((l, i) => expect(l.from).toBe(lines[i]!.to));
    for (const l of lines) expect(l.span).toBeGreaterThanOrEqual(l.to - l.from - 1e-9);
  }
});
