import { describe, expect, test } from '@jest/globals';
import { detectHeard, detectRange } from './detect.ts';
import { listen, type HeardSong } from './heard-song.ts';
import { fMeasure, generateSong, type SongWish } from '../testing/generated-song.ts';
import { onsetStrength } from './onset-strength.ts';
import { LessonError, tappedBeat, teach } from './teaching.ts';
import type { Tap } from './taps.ts';

function heardSong(wish: SongWish): { heard: HeardSong; beats: number[]; bars: number[] } {
  const { signal, beats, bars } = generateSong(wish);
  return { heard: listen(signal, onsetStrength(signal)), beats, bars };
}

/** Taps as people make them: up to 30 ms beside the beat. */
const tapped = (times: readonly number[], kind: Tap['kind'] = 'beat'): Tap[] =>
  times.map((t, i) => ({ time: t + 0.03 * Math.sin(i * 2.3), kind }));
const timesOf = (beats: readonly { time: number }[]): number[] => beats.map((b) => b.time);

describe('taps teach', () => {
  const song = heardSong({ bpm: 110, seconds: 40 });
  const from = song.beats.findIndex((b) => b > 10);

  test('half the tempo over the whole song, on the beats that were tapped', () => {
    const every = song.beats.slice(from).filter((_, i) => i % 2 === 0);
    const { beats } = teach(song.heard, tapped(every.slice(0, 8)));
    const half = song.beats.filter((_, i) => (i - from) % 2 === 0);
    expect(fMeasure(timesOf(beats), half)).toBeGreaterThan(0.95);
  });
  test('the other beats, where those were tapped', () => {
    const every = song.beats.slice(from).filter((_, i) => i % 2 === 1);
    const { beats } = teach(song.heard, tapped(every.slice(0, 8)));
    expect(
      fMeasure(
        timesOf(beats),
        song.beats.filter((_, i) => Math.abs(i - from) % 2 === 1),
      ),
    ).toBeGreaterThan(0.95);
  });
  test('twice the tempo', () => {
    const gap = 60 / 110 / 2;
    const twice = song.beats.flatMap((b) => [b, b + gap]);
    const { beats } = teach(song.heard, tapped(twice.slice(20, 28)));
    expect(fMeasure(timesOf(beats), twice)).toBeGreaterThan(0.93);
  });
  test('the off-beat, if that is what is wanted', () => {
    const off = song.beats.map((b) => b + 60 / 110 / 2);
    const { beats } = teach(song.heard, tapped(off.slice(16, 24)));
    expect(fMeasure(timesOf(beats), off)).toBeGreaterThan(0.93);
  });
  test('where bars start, and how many beats they have', () => {
    const shifted = song.beats.filter((_, i) => i % 4 === 2);
    const taps = [...tapped(song.beats.slice(18, 27))].map((t, i): Tap => ({ ...t, kind: i % 4 === 0 ? 'bar' : 'beat' }));
    const lesson = teach(song.heard, taps);
    expect(lesson.metre).toBe(4);
    expect(fMeasure(timesOf(lesson.beats.filter((b) => b.downbeat)), shifted)).toBeGreaterThan(0.9);
  });
  test('beats lie on the attacks, more closely than the taps did', () => {
    const { beats } = teach(song.heard, tapped(song.beats.slice(10, 18)));
    const errors = song.beats.map((t) => Math.min(...beats.map((b) => Math.abs(b.time - t)))).sort((a, b) => a - b);
    expect(errors[errors.length >> 1]).toBeLessThan(0.006);
  });
  test('too few taps are told so', () => {
    expect(() => teach(song.heard, tapped(song.beats.slice(0, 3)))).toThrow(LessonError);
    expect(() => teach(song.heard, [{ time: 1, kind: 'accent' }])).toThrow(/start of a bar/);
  });
  test.each([1, 2, 3])('one bar, tapped %i beats beside the heard ones, moves all bars there', (beside) => {
    const heard = teach(song.heard, tapped([song.bars[3]!], 'bar'));
    const at = song.beats.indexOf(song.bars[3]!) + beside;
    const moved = teach(song.heard, [{ time: song.beats[at]! + 0.04, kind: 'bar' }]);
    expect(timesOf(moved.beats)).toEqual(timesOf(heard.beats));
    expect(
      fMeasure(
        timesOf(moved.beats.filter((b) => b.downbeat)),
        song.beats.filter((_, i) => (i - at) % 4 === 0),
      ),
    ).toBeGreaterThan(0.95);
  });
  test('the first four beats are enough where the level was heard otherwise', () => {
    const every = song.beats.filter((_, i) => i % 2 === 0);
    expect(fMeasure(timesOf(teach(song.heard, tapped(every.slice(0, 4))).beats), every)).toBeGreaterThan(0.95);
  });
  test('a range is found anew at a hinted tempo', () => {
    const gap = 60 / 110;
    const beats = detectRange(song.heard, 10, 30, { bpm: 55, within: 1.15 });
    const gaps = beats.slice(1).map((b, i) => b.time - beats[i]!.time);
    expect(Math.min(...timesOf(beats))).toBeGreaterThanOrEqual(10);
    expect(Math.max(...timesOf(beats))).toBeLessThanOrEqual(30);
    for (const g of gaps) expect(Math.abs(g - 2 * gap)).toBeLessThan(0.1);
  });
});

test('a missed tap does not change the tapped tempo', () => {
  expect(tappedBeat([0, 0.5, 1, 2, 2.5, 3])).toBeCloseTo(0.5, 6);
});

test('detection after teaching is what it was before: teaching leaves the song as it is', () => {
  const song = heardSong({ bpm: 100, seconds: 20 });
  const before = detectHeard(song.heard);
  teach(song.heard, tapped(song.beats.filter((_, i) => i % 2 === 0).slice(2, 10)));
  expect(detectHeard(song.heard)).toEqual(before);
});
