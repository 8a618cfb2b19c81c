import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { doubtfulMarks } from './doubtful.ts';
import type { Montage } from '../document/montage.ts';
import type { FileMark } from './marking.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { accentFloorOf, marksInUse, pulse } from './in-use.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Command } from '../commands/all.ts';

const times = (m: Montage): number[] => pulse(m).map((b) => Number(b.time.toFixed(6)));
const bars = (m: Montage): number[] => pulse(m).flatMap((b, i) => (b.kind === 'bar' ? [i] : []));
const run = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);
/** Twenty seconds of beats, half a second apart from 0, bars of four. */
const start = (): Montage => run(sampleMontage(), { do: 'takeBeatTimes', times: Array.from({ length: 40 }, (_, i) => i * 0.5), metre: 4 });
const beatAt = (m: Montage, i: number): string => pulse(m)[i]!.id;

describe('grids and holes', () => {
  test('so many beats between two times, in the place of what was there', () => {
    const m = run(start(), { do: 'layGrid', from: 5, to: 8, beats: 9 });
    expect(times(m).filter((t) => t >= 5 && t <= 8)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map((i) => Number((5 + i / 3).toFixed(6))));
    expect(times(m).filter((t) => t < 5)).toHaveLength(10);
  });
  test('one every so many frames', () => {
    const m = run(start(), { do: 'layGrid', from: 2, to: 4, every: 12 / 30 });
    expect(times(m).filter((t) => t > 1.99 && t < 4.01)).toEqual([2, 2.4, 2.8, 3.2, 3.6, 4]);
  });
  test.each([
    [{ do: 'layGrid', from: 5, to: 5, beats: 4 } as const, /two different times/],
    [{ do: 'layGrid', from: 5, to: 6, beats: 400 } as const, /50 ms/],
    [{ do: 'layGrid', from: 5, to: 6, every: 2 } as const, /no room/],
  ])('%p is refused', (command, sentence) => expect(() => run(start(), command)).toThrow(sentence));
  test('a hole is filled at the tempo around it, and bars are counted on through it', () => {
    const full = start();
    const gone = pulse(full)
      .slice(13, 18)
      .map((m) => m.id);
    const holed = run(full, { do: 'removeMarks', ids: gone });
    const m = run(holed, { do: 'fillHoles', from: 0, to: 20 });
    expect(times(m)).toEqual(times(full));
    expect(bars(m)).toEqual(bars(full));
    expect(() => run(m, { do: 'fillHoles', from: 0, to: 20 })).toThrow(/no hole/);
  });
});

describe('counting', () => {
  test('the metre changes from a beat on, and stays before it', () => {
    const m = run(start(), { do: 'setMetreFrom', id: beatAt(start(), 16), metre: 3 });
    expect(bars(m).filter((i) => i < 16)).toEqual([0, 4, 8, 12]);
    expect(
      bars(m)
        .filter((i) => i >= 16)
        .slice(0, 4),
    ).toEqual([16, 19, 22, 25]);
    expect(m.song!.metre).toBe(4);
  });
  test('halving and doubling keep to their range', () => {
    const halved = run(start(), { do: 'halveBeats', from: 4, to: 7.6 });
    expect(times(halved).filter((t) => t >= 4 && t <= 7.6)).toEqual([4, 5, 6, 7]);
    expect(times(halved)).toHaveLength(36);
    const doubled = run(start(), { do: 'doubleBeats', from: 4, to: 5 });
    expect(times(doubled).filter((t) => t >= 4 && t <= 5)).toEqual([4, 4.25, 4.5, 4.75, 5]);
    expect(times(run(start(), { do: 'shiftHalfBeat', from: 4, to: 4.6 })).filter((t) => t >= 4 && t < 5)).toEqual([4.25, 4.75]);
  });
});

describe('locked marks', () => {
  const locked = (): { m: Montage; id: string } => {
    const m = start();
    const id = beatAt(m, 5);
    return { m: run(m, { do: 'moveMarks', ids: [id], by: 0.031 }, { do: 'lockMarks', ids: [id], locked: true }), id };
  };
  test('are neither moved, nor deleted, nor replaced', () => {
    const { m, id } = locked();
    const at = 2.531;
    const detection = {
      length: 20,
      beats: [2.5, 3].map((time) => ({ time, downbeat: false, confidence: 1 })),
      metre: 4,
      bpm: 120,
      tempo: [],
      sections: [],
      drops: [],
      accents: [],
      agreement: 1,
      others: [],
      verdict: null,
    };
    for (const command of [
      { do: 'shiftAllMarks', by: 0.2 },
      { do: 'shiftHalfBeat' },
      { do: 'halveBeats' },
      { do: 'takeBeats', beats: [{ time: 2.55, downbeat: true, confidence: 1 }], from: 0, to: 10 },
      { do: 'takeDetection', detection },
      { do: 'layGrid', from: 0, to: 10, beats: 13 },
      { do: 'takeTaps', taps: [1, 2.5, 4].map((time) => ({ time, kind: 'beat' as const })), how: 'replace' },
    ] satisfies Command[]) {
      const after = carryOut(m, command);
      expect(after.marks.find((x) => x.id === id)?.time).toBeCloseTo(at, 9);
      // Nothing new came to lie on it either.
      expect(pulse(after).filter((x) => Math.abs(x.time - at) < 0.05)).toHaveLength(1);
    }
    expect(() => run(m, { do: 'moveMarks', ids: [id], by: 0.1 })).toThrow(/locked/);
    expect(() => run(m, { do: 'removeMarks', ids: [id] })).toThrow(/locked/);
    expect(run(m, { do: 'removeMarks', ids: [id, beatAt(m, 6)] }).marks).toHaveLength(m.marks.length - 1);
  });
  test('are free again once unlocked', () => {
    const { m, id } = locked();
    const free = run(m, { do: 'lockMarks', ids: [id], locked: false }, { do: 'moveMarks', ids: [id], by: 0.1 });
    expect(free.marks.find((x) => x.id === id)!.time).toBeCloseTo(2.631, 6);
    expect('locked' in free.marks.find((x) => x.id === id)!).toBe(false);
  });
});

describe('taps in place of what was there', () => {
  test('replace only the stretch that was played', () => {
    const taps = [6.1, 6.7, 7.3].map((time) => ({ time, kind: 'beat' as const }));
    const m = run(start(), { do: 'takeTaps', taps, how: 'replace' });
    expect(times(m).filter((t) => t > 5.9 && t < 7.5)).toEqual([6.1, 6.7, 7.3]);
    expect(times(m).filter((t) => t < 5.9)).toEqual(times(start()).filter((t) => t < 5.9));
    expect(times(m).filter((t) => t > 7.5)).toEqual(times(start()).filter((t) => t > 7.5));
  });
  const kinds = (m: Montage, from: number, to: number): string[] => pulse(m).flatMap((x) => (x.time > from && x.time < to ? [x.kind] : []));
  test('beats that are tapped late in place of bars are the bars', () => {
    const taps = Array.from({ length: 13 }, (_, i) => ({ time: 4 + i / 2 + 0.09, kind: 'beat' as const }));
    const before = sampleMontage();
    for (const how of ['replace', 'add'] as const) {
      const m = run(before, { do: 'takeTaps', taps, how });
      const bars = pulse(m).filter((x) => x.kind === 'bar' && x.time > 3.5 && x.time < 10.5);
      expect(bars.map((x) => x.time)).toEqual([4, 6, 8, 10].map((t) => expect.closeTo(how === 'replace' ? t + 0.09 : t, 9)));
    }
    const half = run(before, { do: 'takeTaps', taps: taps.filter((_, i) => i % 2 === 0), how: 'replace' });
    expect(kinds(half, 3.5, 10.5)).toEqual(['bar', 'beat', 'bar', 'beat', 'bar', 'beat', 'bar']);
  });
  test('a beat tapped on a bar is that bar; where bars are tapped too, all are as they were tapped', () => {
    const one = run(sampleMontage(), { do: 'takeTaps', taps: [{ time: 2.03, kind: 'beat' }], how: 'add' });
    expect(pulse(one).find((x) => x.time === 2.03)?.kind).toBe('bar');
    const own = [4, 4.5, 5, 5.5, 6, 6.5].map((time, i) => ({ time, kind: i === 1 ? ('bar' as const) : ('beat' as const) }));
    const m = run(sampleMontage(), { do: 'takeTaps', taps: own, how: 'replace' });
    expect(kinds(m, 3.9, 6.6)).toEqual(['beat', 'bar', 'beat', 'beat', 'beat', 'beat']);
  });
  test('a second pass over one section never harms another', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 12 }), fc.integer({ min: 2, max: 10 }), (from, count) => {
        const taps = Array.from({ length: count }, (_, i) => ({ time: from + i * 0.47, kind: 'beat' as const }));
        const before = start();
        const after = run(before, { do: 'takeTaps', taps, how: 'replace' });
        const outside = (m: Montage): number[] => times(m).filter((t) => t < from - 0.1 || t > taps.at(-1)!.time + 0.1);
        expect(outside(after)).toEqual(outside(before));
      }),
    );
  });
});

describe('accents and cues', () => {
  const accent = (time: number, strength: number): FileMark => ({ kind: 'accent', time, band: 'low', strength });
  const marking = { marks: [accent(1, 0.2), accent(2, 0.7), accent(3, 0.95)], sections: [] };
  test('accents count from a strength on', () => {
    const m = run(start(), { do: 'takeMarking', marking });
    const left = (floor: number): number => {
      const thinned = run(m, { do: 'setAccentFloor', floor: { ...accentFloorOf(m), low: floor } });
      return marksInUse(thinned).filter((x) => x.kind === 'accent').length;
    };
    expect([0, 0.5, 0.9, 1].map(left)).toEqual([3, 2, 1, 0]);
    expect(m.marks.filter((x) => x.kind === 'accent')).toHaveLength(3);
  });
  test('cues from a file take the place of cues only, and their words can be changed', () => {
    let m = run(start(), { do: 'addMark', kind: 'cue', time: 4, label: 'up' });
    m = run(m, { do: 'takeMarking', marking: { marks: [{ kind: 'cue', time: 7, label: 'higher' }], sections: [] } });
    const cues = m.marks.filter((x) => x.kind === 'cue');
    expect(cues.map((c) => c.label)).toEqual(['higher']);
    expect(pulse(m)).toHaveLength(40);
    expect(run(m, { do: 'setLabel', id: cues[0]!.id, label: ' down ' }).marks.find((x) => x.kind === 'cue')!.label).toBe('down');
    expect(() => run(m, { do: 'setLabel', id: beatAt(m, 0), label: 'x' })).toThrow(/Only cues/);
  });
  test('marks that all lie after the song are refused', () => {
    expect(() => run(start(), { do: 'takeMarking', marking: { marks: [{ kind: 'beat', time: 9000 }], sections: [] } })).toThrow(
      /after the end/,
    );
  });
});

describe('doubtful beats', () => {
  test('are those beside their place, those after a hole, and those hardly heard; locked ones are trusted', () => {
    let m = run(start(), { do: 'moveMarks', ids: [beatAt(start(), 9)], by: 0.08 });
    m = run(m, { do: 'removeMarks', ids: [beatAt(m, 20)] });
    const beats = pulse(m).map((b, i) => ({ time: b.time, downbeat: b.kind === 'bar', confidence: i === 30 ? 0.05 : 0.9 }));
    m = run(m, { do: 'takeBeats', beats, from: 0, to: 20 });
    expect(doubtfulMarks(m).map((d) => [pulse(m).indexOf(d.mark), d.why])).toEqual([
      [9, '80 ms late?'],
      [20, '1 missing before?'],
      [30, 'hardly heard'],
    ]);
    const trusted = run(m, { do: 'lockMarks', ids: [beatAt(m, 9)], locked: true });
    expect(doubtfulMarks(trusted)).toHaveLength(2);
  });
  test('beats on end that are hardly heard have one note for all of them', () => {
    const beats = pulse(start()).map((b, i) => ({ time: b.time, downbeat: b.kind === 'bar', confidence: i < 12 || i === 30 ? 0.05 : 0.9 }));
    const m = run(start(), { do: 'takeBeats', beats, from: 0, to: 20 });
    expect(doubtfulMarks(m)).toHaveLength(13);
    expect(doubtfulMarks(m).flatMap((d) => (d.first ? [d.why] : []))).toEqual(['12 beats hardly heard', 'hardly heard']);
  });
  test('an even grid has none', () => expect(doubtfulMarks(start())).toEqual([]));
});
