import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { steadyBeats } from './steady-beats.ts';

const FPS = 50;
const LENGTH_S = 70;

/** Chances of beats that are heard at some times, each as clearly as it is said, 0 to 1. */
function heardAt(...those: readonly (readonly [times: readonly number[], chance: number])[]): Float32Array {
  const chances = new Float32Array(LENGTH_S * FPS).fill(0.02);
  for (const [times, chance] of those)
    for (const t of times) chances[Math.round(t * FPS)] = Math.max(chances[Math.round(t * FPS)]!, chance);
  return chances;
}

/** Times from one to just before another, seconds. */
const every = (beat: number, from: number, to: number): number[] =>
  Array.from({ length: Math.round((to - from) / beat) }, (_, i) => from + i * beat);

const within = (times: readonly number[], from: number, to: number): number[] => times.filter((t) => t >= from && t < to);

/** How far each of some times is from the nearest of others at the most, seconds. */
const farthest = (times: readonly number[], others: readonly number[]): number =>
  Math.max(...times.map((t) => Math.min(...others.map((other) => Math.abs(other - t)))));

describe('a stretch whose off-beats are heard best', () => {
  const beat = 0.5;
  const grid = every(beat, 1, 61);
  const off = grid.map((t) => t + beat / 2);
  const stretch = [21, 36] as const;
  const chances = heardAt(
    [within(grid, 0, 21), 0.9],
    [within(grid, 36, 70), 0.9],
    [within(grid, ...stretch), 0.5],
    [within(off, ...stretch), 0.9],
  );
  // As they are tracked: three quarters of a beat more twice, then back.
  const slipped = [...within(grid, 0, 21), 21.12, 21.74, ...within(off, 22, 35.5), 35.88, 36.5, ...within(grid, 36.9, 70)];

  test('is counted on', () => {
    const steady = steadyBeats(slipped, chances, FPS);
    expect(farthest(steady, grid)).toBeLessThan(0.05);
    expect(farthest(grid, steady)).toBeLessThan(0.05);
  });
  test('is the song where it is most of it', () => {
    const late = heardAt([within(grid, 0, 16), 0.9], [within(grid, 16, 70), 0.5], [within(off, 16, 70), 0.9]);
    const steady = steadyBeats([...within(grid, 0, 16), 16.12, 16.74, ...within(off, 17, 70)], late, FPS);
    expect(farthest(steady, [0.75, ...off])).toBeLessThan(0.05);
  });
});

test('a player who slows down over a bar or two and goes on loses half a beat, and is followed', () => {
  const gaps = [...Array<number>(40).fill(0.5), 0.52, 0.55, 0.58, 0.6, 0.58, 0.55, 0.52, 0.51, ...Array<number>(40).fill(0.5)];
  let at = 1;
  const beats = [at, ...gaps.map((gap) => (at += gap))];
  expect(steadyBeats(beats, heardAt([beats, 0.9]), FPS)).toBe(beats);
});

test('a stretch that is counted three for two is counted on, where its beats are heard nearly as well', () => {
  const grid = every(0.6, 0.4, LENGTH_S);
  const thirds = every(0.4, 25, 37);
  const counted = [...within(grid, 0, 24.9), ...thirds, ...within(grid, 36.9, LENGTH_S)];
  const steady = steadyBeats(counted, heardAt([grid, 0.9], [thirds, 0.6]), FPS);
  expect(farthest(steady, grid)).toBeLessThan(0.05);
  // Where they are not heard at all, the song has changed its tempo.
  const changed = heardAt([within(grid, 0, 25), 0.9], [thirds, 0.9], [within(grid, 37, 70), 0.9]);
  expect(steadyBeats(counted, changed, FPS)).toBe(counted);
});

test('even beats are left as they are, at any tempo', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.24, max: 1.4, noNaN: true }), fc.double({ min: 0.05, max: 0.98, noNaN: true }), (beat, chance) => {
      const beats = every(beat, 0.5, 60);
      expect(steadyBeats(beats, heardAt([beats, chance]), FPS)).toBe(beats);
    }),
  );
});
