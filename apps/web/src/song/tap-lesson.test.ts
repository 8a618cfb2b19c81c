import { describe, expect, test } from '@jest/globals';
import { carryOut, emptyMontage, type Montage } from '@bluster/core';
import { howGood, inWords, LESSON, metOf, offBy, stepNow, type LessonTap } from './tap-lesson.ts';

const song = carryOut(emptyMontage(), { do: 'setSong', assetId: 'song', name: 'gust.ogg', length: 30 });
const montage = Array.from({ length: 24 }, (_, i) => i).reduce<Montage>(
  (m, i) => carryOut(m, { do: 'addMark', kind: i % 4 === 0 ? 'bar' : 'beat', time: 0.5 * (i + 1) }),
  song,
);
const tap = (kind: LessonTap['kind'], time: number): LessonTap => ({ kind, time, off: offBy(montage, kind, time) });

describe('the lesson of tapping', () => {
  test('a tap is held against the nearest mark of its kind; bars are beats too, but not the other way round', () => {
    expect(offBy(montage, 'beat', 1.04)).toBeCloseTo(0.04, 9);
    expect(offBy(montage, 'beat', 0.47)).toBeCloseTo(-0.03, 9);
    expect(offBy(montage, 'bar', 2.52)).toBeCloseTo(0.02, 9);
    expect(offBy(montage, 'bar', 1)).toBeNull();
    expect(offBy(montage, 'accent', 1)).toBeNull();
  });

  test('its steps follow each other: what missed its mark does not count, drops and cues need none', () => {
    expect(stepNow([])).toBe(0);
    const beats = Array.from({ length: 8 }, (_, i) => tap('beat', 0.5 * (i + 1) + 0.05));
    expect(metOf(LESSON[0]!, beats.slice(0, 5))).toBe(5);
    expect(stepNow(beats)).toBe(1);
    expect(stepNow([...beats, ...[1, 1.5, 2, 3].map((t) => tap('bar', t))])).toBe(1);
    const bars = [0.5, 2.5, 4.5, 6.5].map((t) => tap('bar', t));
    expect(stepNow([...beats, ...bars])).toBe(2);
    const rest: LessonTap[] = [1, 2, 3].map((time) => ({ kind: 'accent', time, off: 0 }));
    expect(stepNow([...beats, ...bars, ...rest, tap('drop', 20)])).toBe(4);
    expect(stepNow([...beats, ...bars, ...rest, tap('drop', 20), tap('cue', 21)])).toBe(LESSON.length);
  });

  test('a steady lateness and its spread are measured', () => {
    const late = Array.from({ length: 12 }, (_, i) => tap('beat', 0.5 * (i + 1) + 0.06 + (i % 2 ? 0.01 : -0.01)));
    const good = howGood(montage, late)!;
    expect(good.lateness).toBeCloseTo(0.06, 2);
    expect(good.spread).toBeCloseTo(0.01, 3);
    expect(inWords(good.spread)).toBe('very steady');
    expect(inWords(0.2)).toBe('uneven');
    expect(howGood(montage, late.slice(0, 1))).toBeNull();
  });
});
