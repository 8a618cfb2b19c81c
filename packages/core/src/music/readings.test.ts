import { describe, expect, test } from '@jest/globals';
import { fMeasure, generateSong, type SongWish } from '../testing/generated-song.ts';
import { detectHeard } from './detect.ts';
import { listen, type HeardSong } from './heard-song.ts';
import { possibleLevels, readLevels } from './levels.ts';
import { onsetStrength } from './onset-strength.ts';
import { readSong } from './readings.ts';

function heardSong(wish: SongWish): { heard: HeardSong; beats: number[]; bars: number[] } {
  const { signal, beats, bars } = generateSong(wish);
  return { heard: listen(signal, onsetStrength(signal)), beats, bars };
}
const timesOf = (beats: readonly { time: number }[]): number[] => beats.map((b) => b.time);

const SONGS = [80, 124, 176].map((bpm) => ({ bpm, song: heardSong({ bpm, seconds: 40 }) }));

describe.each(SONGS)('a song at $bpm a minute', ({ bpm, song }) => {
  test('is heard at a level and at its half or double, whose chances make one', () => {
    const levels = readLevels(song.heard);
    expect(levels).toHaveLength(possibleLevels(song.heard).length);
    expect(levels.reduce((sum, l) => sum + l.chance, 0)).toBeCloseTo(1, 9);
    expect(levels.map((l) => l.chance)).toEqual(levels.map((l) => l.chance).sort((a, b) => b - a));
    const tempi = levels.map(({ beats }) => (60 * (beats.length - 1)) / (beats.at(-1)! - beats[0]!));
    expect(tempi[0]! / bpm).toBeCloseTo(1, 1);
    expect(tempi.some((t) => Math.abs(Math.log2(t / bpm)) > 0.9)).toBe(true);
  });

  test('is read as it is, and otherwise only with less chance', () => {
    const [first, ...others] = readSong(song.heard);
    expect(fMeasure(timesOf(first!.beats), song.beats)).toBeGreaterThan(0.97);
    expect(fMeasure(timesOf(first!.beats.filter((b) => b.downbeat)), song.bars)).toBeGreaterThan(0.9);
    expect(others.length).toBeGreaterThan(0);
    const chances = [first!, ...others].map((r) => r.chance);
    expect(chances.reduce((a, b) => a + b, 0)).toBeLessThanOrEqual(1 + 1e-9);
    expect(chances.slice(1)).toEqual(chances.slice(1).sort((a, b) => b - a));
    expect(Math.max(...chances)).toBe(chances[0]);
  });

  test('has a reading whose beats are the same and whose bars begin elsewhere in the bar, throughout', () => {
    const [first, ...others] = readSong(song.heard);
    const other = others.find((r) => r.beats.length === first!.beats.length)!;
    expect(timesOf(other.beats)).toEqual(timesOf(first!.beats));
    const places = (r: typeof other): number[] => r.beats.flatMap((b, i) => (b.downbeat ? [i % other.metre] : []));
    expect(new Set(places(other)).size).toBe(1);
    expect(places(other)[0]).not.toBe(places(first!)[0]);
    expect(other.beats.filter((b) => b.downbeat).length).toBeGreaterThanOrEqual(first!.beats.filter((b) => b.downbeat).length - 1);
  });
});

test('a song of slow drums is about as well counted twice as fast, and detection says so', () => {
  const { heard } = heardSong({ bpm: 62, seconds: 30 });
  const { agreement, others, bpm } = detectHeard(heard);
  expect(agreement).toBeLessThan(0.9);
  const ways = [{ bpm, chance: agreement }, ...others].filter((r) => r.chance > 0.1).map((r) => Math.round(r.bpm / 62));
  expect(new Set(ways)).toEqual(new Set([1, 2]));
});
