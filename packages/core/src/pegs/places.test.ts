import { describe, expect, test } from '@jest/globals';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { carryOut } from '../commands/carry-out.ts';
import { pegChanges } from './commands.ts';
import { sectionStretches } from '../song/sections.ts';
import { placesByRule, ruleFor } from './places.ts';
import { scoreOf } from '../score/score.ts';
import type { Montage, PegRule } from '../document/montage.ts';

const times = (m: Montage, rule: PegRule, from?: number, to?: number): number[] => placesByRule(m, rule, from, to).map((p) => p.time);
const sectioned = (): Montage => {
  const m = sampleMontage(20);
  return {
    ...m,
    song: {
      ...m.song!,
      sections: [
        { id: 'A', from: 0, name: 'intro' },
        { id: 'B', from: 8, name: 'build' },
        { id: 'C', from: 14, name: 'drop' },
      ],
    },
  };
};

describe('rules for a song of 2 s bars', () => {
  test('a pattern of eight steps over a bar hangs on beats and half beats', () => {
    const steps = [true, false, false, true, false, true, false, false];
    expect(times(sampleMontage(8), { kind: 'pattern', bars: 1, steps })).toEqual([0.75, 1.25, 2, 2.75, 3.25, 4, 4.75, 5.25, 6, 6.75, 7.25]);
  });

  test('the same steps over two bars lie twice as far apart', () => {
    const steps = [true, false, false, true, false, true, false, false];
    expect(times(sampleMontage(9), { kind: 'pattern', bars: 2, steps })).toEqual([1.5, 2.5, 4, 5.5, 6.5, 8]);
  });

  test('faster and faster: bars, then beats, then half beats', () => {
    const found = times(sampleMontage(20), { kind: 'faster' }, 8, 14);
    expect(found).toEqual([8, 10, 10.5, 11, 11.5, 12, 12.25, 12.5, 12.75, 13, 13.25, 13.5, 13.75]);
  });

  test('accents of a band from a strength on', () => {
    let m = sampleMontage(8);
    m = {
      ...m,
      marks: [
        ...m.marks,
        ...[0.9, 0.4, 0.7].map((strength, i) => ({
          id: `a${i}`,
          kind: 'accent' as const,
          time: 1.1 + i,
          origin: 'detected' as const,
          band: 'low' as const,
          strength,
        })),
      ],
    };
    expect(times(m, { kind: 'accents', band: 'low', least: 0.6 })).toEqual([1.1, 3.1]);
    expect(times(m, { kind: 'accents', band: 'high', least: 0 })).toEqual([]);
  });

  test('even spacing in frames needs no music', () => {
    const bare = carryOut(sampleMontage(4), { do: 'removeMarks', ids: sampleMontage(4).marks.map((x) => x.id) });
    const m = carryOut(bare, { do: 'hangByRule', rule: { kind: 'even', frames: 25 } });
    expect(scoreOf(m).pegs.map((p) => p.frame)).toEqual([0, 25, 50, 75, 100, 120]);
  });

  test('half beats move with the beats', () => {
    let m = carryOut(sampleMontage(8), {
      do: 'hangByRule',
      rule: { kind: 'pattern', bars: 1, steps: [false, true, false, false, false, false, false, false] },
    });
    expect(scoreOf(m).pegs.map((p) => p.frame)).toEqual([0, 8, 68, 128, 188, 240]);
    m = carryOut(m, { do: 'shiftAllMarks', by: 0.1 });
    expect(scoreOf(m).pegs.map((p) => p.frame)).toEqual([0, 11, 71, 131, 191, 240]);
  });
});

describe('rules for sections', () => {
  test('a section has a rule of its own, the others keep the one for all', () => {
    let m = carryOut(sectioned(), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 2 } });
    m = carryOut(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 1 }, section: 'C' });
    expect(sectionStretches(m).map((s) => ruleFor(m, s))).toMatchObject([{ every: 2 }, { every: 2 }, { unit: 'beat' }]);
    const at = scoreOf(m).pegs.map((p) => p.time);
    expect(at.filter((t) => t > 0 && t < 14)).toEqual([4, 8, 12]);
    expect(at.filter((t) => t >= 14 && t < 16)).toEqual([14, 14.5, 15, 15.5]);
    const all = carryOut(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    expect(all.sectionRules).toEqual([]);
    const without = carryOut(m, { do: 'hangByRule', rule: null, section: 'C' });
    expect(
      scoreOf(without)
        .pegs.map((p) => p.time)
        .filter((t) => t >= 14),
    ).toEqual([16, 20]);
  });

  test('what changed is known: pegs hung and taken, hand-made ones kept, shots that lost their slot', () => {
    let m = carryOut(sectioned(), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    m = carryOut(m, { do: 'hangPeg', time: 3.21 });
    m = carryOut(m, { do: 'fill', options: FILL_DEFAULTS });
    const next = carryOut(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 2 } });
    expect(pegChanges(m, next)).toEqual({ hung: 0, taken: 5, handMade: 1, shotsLost: 5, shotsKept: 6 });
    expect(scoreOf(next).pegs.some((p) => Math.abs(p.time - 3.21) < 0.02)).toBe(true);
  });

  test('a rule that finds nothing says what to do', () => {
    expect(() => carryOut(sectioned(), { do: 'hangByRule', rule: { kind: 'drops' } })).toThrow(/no drops.*Song/);
    expect(() => carryOut(sectioned(), { do: 'hangByRule', rule: { kind: 'cues' } })).toThrow(/no cues/);
    expect(() => carryOut(sectioned(), { do: 'hangByRule', rule: { kind: 'accents', band: 'voice', least: 0.5 } })).toThrow(/voice/);
  });
});

describe('dividing and joining slots', () => {
  const bars = (): Montage =>
    carryOut(carryOut(sampleMontage(8), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }), {
      do: 'fill',
      options: FILL_DEFAULTS,
    });
  const starts = (m: Montage): number[] => scoreOf(m).slots.map((s) => s.start.frame);

  test('by beats, in half, and by steps; the clip goes on', () => {
    const second = scoreOf(bars()).slots[1]!.start.id;
    expect(starts(carryOut(bars(), { do: 'divideSlot', startPeg: second, by: 'beats' }))).toEqual([0, 60, 75, 90, 105, 120, 180]);
    const half = carryOut(bars(), { do: 'divideSlot', startPeg: second, by: 'half' });
    expect(starts(half)).toEqual([0, 60, 90, 120, 180]);
    expect(scoreOf(half).slots[2]!.placed!.shot.sourceIn).toBeCloseTo(1, 6);
    expect(scoreOf(half).slots[2]!.start.mark).not.toBeNull();
    const steps = carryOut(bars(), { do: 'divideSlot', startPeg: second, by: [true, false, false, true, false, false, true, false] });
    expect(starts(steps)).toEqual([0, 60, 83, 105, 120, 180].sort((a, b) => a - b));
  });

  test('joined with the next, the first shot covers both', () => {
    const m = carryOut(bars(), { do: 'joinSlots', startPeg: scoreOf(bars()).slots[1]!.start.id });
    expect(starts(m)).toEqual([0, 60, 180]);
    expect(() => carryOut(m, { do: 'joinSlots', startPeg: scoreOf(m).slots.at(-1)!.start.id })).toThrow(/no slot after/);
  });
});
