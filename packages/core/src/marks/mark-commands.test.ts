import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import type { Detection } from '../music/detect.ts';
import { LONGEST_LABEL } from './mark-commands.ts';
import { emptyMontage, type Montage } from '../document/montage.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { pulse } from './in-use.ts';
import { carryOut } from '../commands/carry-out.ts';

const times = (montage: Montage): number[] => pulse(montage).map((m) => m.time);
const kinds = (montage: Montage): string =>
  pulse(montage)
    .map((m) => (m.kind === 'bar' ? '|' : '.'))
    .join('');

const found: Detection = {
  length: 20,
  beats: [0.25, 0.75, 1.25, 1.75].map((time, i) => ({ time, downbeat: i === 1, confidence: 0.5 })),
  metre: 3,
  bpm: 120,
  tempo: [],
  sections: [{ from: 0.75, name: 'drop' }],
  accents: [],
  drops: [0.75],
  agreement: 1,
  others: [],
  verdict: null,
};

describe('another reading', () => {
  const other = {
    ...found,
    chance: 0.3,
    metre: 2,
    beats: [0.5, 1.5, 2.5].map((time, i) => ({ time, downbeat: i % 2 === 0, confidence: 1 })),
  };
  const marked = carryOut(sampleMontage(), {
    do: 'takeDetection',
    detection: { ...found, accents: [{ time: 3, band: 'low', strength: 1 }] },
  });
  test('takes the place of beats, bars, metre, sections and detected drops in one step; accents stay', () => {
    const after = carryOut(marked, { do: 'takeReading', reading: { ...other, drops: [2.5], sections: [{ from: 2.5, name: 'rise' }] } });
    expect(times(after)).toEqual([0.5, 1.5, 2.5]);
    expect(kinds(after)).toBe('|.|');
    expect(after.song).toMatchObject({ metre: 2, sections: [{ from: 2.5, name: 'rise' }] });
    expect(after.marks.filter((m) => m.kind === 'drop').map((m) => m.time)).toEqual([2.5]);
    expect(after.marks.filter((m) => m.kind === 'accent').map((m) => m.time)).toEqual([3]);
  });
  test('leaves what is locked, and drops that a person set', () => {
    const [beat] = pulse(marked);
    const kept = [
      { do: 'lockMarks', ids: [beat!.id], locked: true },
      { do: 'addMark', kind: 'drop', time: 9 },
    ] as const;
    const after = carryOut(kept.reduce<Montage>(carryOut, marked), { do: 'takeReading', reading: other });
    expect(times(after)).toEqual([0.25, 0.5, 1.5, 2.5]);
    expect(after.marks.filter((m) => m.kind === 'drop').map((m) => m.time)).toEqual([0.75, 9]);
  });
});

describe('what was detected', () => {
  test('takes the place of beats and bars, with metre and sections', () => {
    const after = carryOut(sampleMontage(), { do: 'takeDetection', detection: found });
    expect(times(after)).toEqual([0.25, 0.75, 1.25, 1.75]);
    expect(kinds(after)).toBe('.|..');
    expect(after.song).toMatchObject({ metre: 3, sections: [{ from: 0.75, name: 'drop' }] });
    expect(after.marks.filter((m) => m.kind === 'drop')).toMatchObject([{ time: 0.75, origin: 'detected' }]);
    expect(after.marks.find((m) => m.kind === 'beat')).toMatchObject({ confidence: 0.5, origin: 'detected' });
  });
  test('leaves drops that a person set, and replaces those of an earlier detection', () => {
    let montage = carryOut(sampleMontage(), { do: 'addMark', kind: 'drop', time: 9 });
    for (let i = 0; i < 2; i++) montage = carryOut(montage, { do: 'takeDetection', detection: found });
    expect(montage.marks.filter((m) => m.kind === 'drop').map((m) => m.time)).toEqual([0.75, 9]);
  });
  test('gives no id twice, however often it is taken', () => {
    let montage = sampleMontage();
    const seen = new Set(montage.marks.map((m) => m.id));
    for (let i = 0; i < 3; i++) {
      montage = carryOut(montage, { do: 'takeDetection', detection: found });
      for (const { id } of montage.marks) {
        expect(seen.has(id)).toBe(false);
        seen.add(id);
      }
    }
  });
});

describe('taps', () => {
  test('beside a mark of their family take its place; a drop lies over a beat without harming it', () => {
    const before = sampleMontage();
    const after = carryOut(before, {
      do: 'takeTaps',
      how: 'add',
      taps: [
        { time: 1.03, kind: 'bar' },
        { time: 2.5, kind: 'drop' },
        { time: 3.25, kind: 'beat' },
      ],
    });
    expect(times(after)).toContain(1.03);
    expect(times(after)).not.toContain(1);
    expect(times(after)).toContain(2.5);
    expect(times(after)).toContain(3.25);
    expect(after.marks).toHaveLength(before.marks.length + 2);
  });
  test('outside the song do not count', () => {
    const before = sampleMontage();
    expect(
      carryOut(before, {
        do: 'takeTaps',
        how: 'add',
        taps: [
          { time: -1, kind: 'beat' },
          { time: 21, kind: 'beat' },
        ],
      }),
    ).toBe(before);
  });
});

describe('putting marks right', () => {
  test('a mark moves by what it was moved, is held inside the song, and counts as set by hand', () => {
    const montage = sampleMontage();
    const [first, second] = montage.marks;
    const alone = carryOut(montage, { do: 'moveMarks', ids: [first!.id], by: -0.2 });
    expect(alone.marks[0]).toMatchObject({ time: 0, origin: 'hand' });
    const after = carryOut(montage, { do: 'moveMarks', ids: [first!.id, second!.id], by: 0.2 });
    expect(after.marks.slice(0, 2)).toMatchObject([
      { time: 0.2, origin: 'hand' },
      { time: 0.7, origin: 'hand' },
    ]);
    expect(after.marks.slice(2)).toEqual(montage.marks.slice(2));
  });
  test('several that would be pushed together at an end of the song are not moved, and it is said how many', () => {
    const montage = sampleMontage();
    const ids = montage.marks.slice(0, 3).map((m) => m.id);
    expect(() => carryOut(montage, { do: 'moveMarks', ids, by: -0.7 })).toThrow('2 of 3 marks would lie before the song begins');
    expect(() => carryOut(montage, { do: 'shiftAllMarks', by: -5 })).toThrow('10 of 40 marks would lie before the song begins');
    expect(() => carryOut(montage, { do: 'shiftAllMarks', by: 1 })).toThrow('1 of 40 marks would lie after the song ends');
  });
  test('all shift, keep their origin and their places among each other, and come back', () => {
    const montage = sampleMontage();
    const after = carryOut(montage, { do: 'shiftAllMarks', by: 0.046 });
    expect(times(after)[1]).toBeCloseTo(0.546, 9);
    expect(after.marks.every((m) => m.origin === 'file')).toBe(true);
    times(carryOut(after, { do: 'shiftAllMarks', by: -0.046 })).forEach((time, i) => expect(time).toBeCloseTo(times(montage)[i]!, 9));
  });
  test('a word of a cue is as long as it may be, however it comes', () => {
    const label = 'kite '.repeat(60);
    const after = carryOut(sampleMontage(), { do: 'addMark', kind: 'cue', time: 1.23, label });
    expect(after.marks.find((m) => m.kind === 'cue')!.label).toHaveLength(LONGEST_LABEL);
  });
  test('half a beat on, then half a beat on again, is one beat on', () => {
    let montage = sampleMontage();
    for (let i = 0; i < 2; i++) montage = carryOut(montage, { do: 'shiftHalfBeat' });
    expect(times(montage)[0]).toBeCloseTo(0.5, 9);
    expect(kinds(montage).startsWith('|...|')).toBe(true);
  });
  test('halving keeps the first bar a bar and counts bars anew', () => {
    expect(kinds(carryOut(sampleMontage(), { do: 'halveBeats' })).startsWith('|...|...|')).toBe(true);
    expect(times(carryOut(sampleMontage(), { do: 'halveBeats' })).slice(0, 3)).toEqual([0, 1, 2]);
  });
  test('a kind is changed without moving anything', () => {
    const montage = sampleMontage();
    const after = carryOut(montage, { do: 'setMarkKind', id: montage.marks[1]!.id, kind: 'drop' });
    expect(after.marks.map((m) => m.time)).toEqual(montage.marks.map((m) => m.time));
    expect(after.marks[1]!.kind).toBe('drop');
  });
  test('marks stay in order of time after any move', () => {
    const montage = sampleMontage();
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: montage.marks.length - 1 }), fc.double({ min: -30, max: 30, noNaN: true })), {
          maxLength: 12,
        }),
        (moves) => {
          let now = montage;
          for (const [i, by] of moves) now = carryOut(now, { do: 'moveMarks', ids: [montage.marks[i]!.id], by });
          const all = now.marks.map((m) => m.time);
          expect(all).toEqual([...all].sort((a, b) => a - b));
          expect(all.every((t) => t >= 0 && t <= 20)).toBe(true);
        },
      ),
    );
  });
});

describe('what cannot be done is said', () => {
  test.each([
    ['a mark without a song', emptyMontage(), { do: 'addMark', kind: 'beat', time: 1 } as const, /no song/],
    ['a mark after the end', sampleMontage(), { do: 'addMark', kind: 'beat', time: 21 } as const, /inside the song/],
    ['a kind for a mark that is gone', sampleMontage(), { do: 'setMarkKind', id: 'm999', kind: 'bar' } as const, /no longer there/],
    ['bar 1 on a drop', carryOut(sampleMontage(), { do: 'addMark', kind: 'drop', time: 3.2 }), null, /Bar 1 starts on a beat/],
  ])('%s', (_, montage, command, sentence) => {
    const ask = command ?? ({ do: 'setBarOne', id: montage.marks.find((m) => m.kind === 'drop')!.id, metre: 4 } as const);
    expect(() => carryOut(montage, ask)).toThrow(sentence);
  });
});
