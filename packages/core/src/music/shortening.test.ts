import { describe, expect, test } from '@jest/globals';
import { arrangedLength, toMontageTime, type SongPiece } from './arrangement.ts';
import { detectHeard } from './detect.ts';
import { listen } from './heard-song.ts';
import { generateSong } from '../testing/generated-song.ts';
import { onsetStrength } from './onset-strength.ts';
import { mapOf, moveJoin, shorten, ShorteningError } from './shortening.ts';

const song = generateSong({ bpm: 116, seconds: 100 });
const heard = listen(song.signal, onsetStrength(song.signal));
const detection = detectHeard(heard);
// Its bars are those of the song, not those that were found: it is the joins that are tested here.
const bars = new Set(song.bars);
const map = { ...mapOf(detection), beats: song.beats.map((time) => ({ time, bar: bars.has(time) })) };
const barTimes = map.beats.filter((b) => b.bar).map((b) => b.time);

describe('a song made shorter', () => {
  const proposals = shorten(heard, map, 30);

  test('comes to the wished length, keeps its ending, and has few joins', () => {
    expect(proposals.length).toBeGreaterThan(1);
    for (const p of proposals) {
      expect(Math.abs(arrangedLength(p.pieces) - 30)).toBeLessThan(2);
      expect(p.length).toBeCloseTo(arrangedLength(p.pieces), 9);
      expect(p.pieces.at(-1)!.to).toBe(map.length);
      expect(p.joins.length).toBeLessThanOrEqual(3);
      for (let i = 1; i < p.pieces.length; i++) expect(p.pieces[i]!.from).toBeGreaterThan(p.pieces[i - 1]!.to);
    }
  });
  test('goes on in the beat across every join, within 15 ms', () => {
    for (const { pieces } of proposals) {
      const arranged = song.beats.flatMap((t) => toMontageTime(pieces, t) ?? []).sort((a, b) => a - b);
      // A beat on a join may be heard as the last of one piece or the first of the next.
      const beats = arranged.filter((t, i) => i === 0 || t - arranged[i - 1]! > 0.05);
      for (let i = 1; i < beats.length; i++) expect(Math.abs(beats[i]! - beats[i - 1]! - 60 / 116)).toBeLessThan(0.015);
    }
  });
  test.each([2, 3, 5])('goes on in the music where bars are marked 12 ms early, and one in %i as late', (n) => {
    let bar = 0;
    const marked = song.beats.map((time) => {
      if (!bars.has(time)) return { time, bar: false };
      return { time: time + (bar++ % n === 0 ? 0.012 : -0.012), bar: true };
    });
    const inTime = (times: readonly number[], pieces: readonly SongPiece[]): number[] =>
      times.flatMap((t) => toMontageTime(pieces, t) ?? []).sort((a, b) => a - b);
    const loose = shorten(heard, { ...map, beats: marked }, 30);
    const joined = loose.filter((p) => p.joins.length > 0);
    expect(joined.length).toBeGreaterThan(1);
    for (const { pieces, joins } of joined) {
      for (const { out, into } of joins) {
        const late = (time: number): number => song.beats.reduce((best, t) => (Math.abs(time - t) < Math.abs(best) ? time - t : best), 1);
        expect(Math.abs(late(out) - late(into))).toBeLessThan(0.015);
      }
      const beats = inTime(
        marked.map((b) => b.time),
        pieces,
      );
      for (let i = 1; i < beats.length; i++) expect(Math.abs(beats[i]! - beats[i - 1]! - 60 / 116)).toBeLessThan(0.024 + 0.015);
    }
  });
  test('joins bars to bars, and counts on in fours', () => {
    for (const { pieces } of proposals) {
      const bars = song.bars.flatMap((t) => toMontageTime(pieces, t) ?? []).sort((a, b) => a - b);
      const clean = bars.filter((t, i) => i === 0 || t - bars[i - 1]! > 0.05);
      for (let i = 1; i < clean.length; i++) expect(Math.abs(clean[i]! - clean[i - 1]! - (4 * 60) / 116)).toBeLessThan(0.015);
    }
  });
  test('ratings fall from the first to the last, and no two are alike', () => {
    const ratings = proposals.map((p) => p.rating);
    expect(ratings).toEqual([...ratings].sort((a, b) => b - a));
    expect(new Set(proposals.map((p) => JSON.stringify(p.pieces))).size).toBe(proposals.length);
  });
  test('a join moves by whole bars and leaves the length alone', () => {
    const [first] = proposals.filter((p) => p.joins.length > 0);
    const moved = moveJoin(first!.pieces, 0, 1, barTimes)!;
    expect(moved[0]!.to - first!.pieces[0]!.to).toBeCloseTo((4 * 60) / 116, 1);
    expect(arrangedLength(moved)).toBeCloseTo(arrangedLength(first!.pieces), 1);
    expect(moveJoin(first!.pieces, 0, 500, barTimes)).toBeNull();
    expect(moveJoin(first!.pieces, 99, 1, barTimes)).toBeNull();
  });
});

test.each([
  [2, /5 s/],
  [NaN, /5 s/],
  [500, /already/],
])('a wish for %p seconds is refused', (wished, sentence) => {
  expect(() => shorten(heard, map, wished)).toThrow(sentence);
});
test('a song without bars is not joined blindly', () => {
  expect(() => shorten(heard, { ...map, beats: [] }, 30)).toThrow(ShorteningError);
});
