import { describe, expect, test } from '@jest/globals';
import { detect } from './detect.ts';
import { fMeasure, generateSong } from '../testing/generated-song.ts';
import { ANALYSIS_RATE } from './signal.ts';

const times = (beats: readonly { time: number }[]): number[] => beats.map((b) => b.time);

describe('beats of generated songs', () => {
  test.each([
    ['90 bpm', { bpm: 90, seconds: 40 }],
    ['100 bpm', { bpm: 100, seconds: 30 }],
    ['124 bpm, bending', { bpm: 124, seconds: 40, bend: 0.04 }],
    ['150 bpm', { bpm: 150, seconds: 30 }],
    ['a waltz at 108', { bpm: 108, seconds: 40, metre: 3 }],
    ['from the very first sample', { bpm: 120, seconds: 30, pickup: 0 }],
    ['without off-beats', { bpm: 120, seconds: 30, offbeatHats: false, pickup: 0.7 }],
  ])('%s', (_, wish) => {
    const song = generateSong(wish);
    const found = detect(song.signal);
    expect(fMeasure(times(found.beats), song.beats)).toBeGreaterThan(0.97);
    expect(fMeasure(times(found.beats.filter((b) => b.downbeat)), song.bars)).toBeGreaterThan(0.9);
    expect(found.metre).toBe('metre' in wish ? wish.metre : 4);
    expect(found.verdict).toBeNull();
  });

  test('beats lie on the attack: the middle error is under 5 ms', () => {
    const song = generateSong({ bpm: 110, seconds: 30 });
    const found = times(detect(song.signal).beats);
    const errors = song.beats.map((t) => Math.min(...found.map((f) => Math.abs(f - t)))).sort((a, b) => a - b);
    expect(errors[Math.floor(errors.length / 2)]).toBeLessThan(0.005);
  });

  test.each([100, 120, 140])('a metronome at %i is counted as it ticks, though every other tick would do as well', (bpm) => {
    const rate = ANALYSIS_RATE;
    const gap = 60 / bpm;
    const samples = Float32Array.from({ length: rate * 20 }, (_, i) => {
      const t = (i / rate) % gap;
      return 0.8 * Math.sin(2 * Math.PI * 220 * t) * Math.exp(-t / 0.05);
    });
    const found = detect({ samples, rate });
    expect(found.bpm / bpm).toBeCloseTo(1, 1);
  });

  test('progress rises from 0 to 1', () => {
    const parts: number[] = [];
    detect(generateSong({ bpm: 120, seconds: 8 }).signal, (p) => parts.push(p));
    expect(parts.at(-1)).toBe(1);
    expect(parts).toEqual([...parts].sort((a, b) => a - b));
  });
});

describe('where there is nothing to find', () => {
  const rate = ANALYSIS_RATE;
  test('silence has no beats and a sentence says so', () => {
    const found = detect({ samples: new Float32Array(rate * 10), rate });
    expect(found.beats).toEqual([]);
    expect(found.verdict).toMatch(/silent/);
  });
  test('two seconds are too short', () => {
    expect(detect({ samples: new Float32Array(rate * 2).fill(0.1), rate }).verdict).toMatch(/too short/);
  });
  test('noise is called unsteady or leaves no beats', () => {
    let state = 1;
    const samples = Float32Array.from(
      { length: rate * 15 },
      () => ((state = (Math.imul(state, 1103515245) + 12345) | 0) / 2147483648) * 0.3,
    );
    const found = detect({ samples, rate });
    expect(found.verdict).not.toBeNull();
  });
});
