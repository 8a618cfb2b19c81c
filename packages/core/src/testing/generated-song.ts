import { ANALYSIS_RATE, type Signal } from '../music/signal.ts';

const { exp, imul, min, PI, sin } = Math;

/** How a test song is to be made. Only tests use this; the demo's songs are composed in lab/demo. */
export interface SongWish {
  readonly bpm: number;
  readonly seconds: number;
  readonly metre?: number;
  /** part of a beat by which tempo swings to and fro over 20 s */
  readonly bend?: number;
  /** seconds before the first beat */
  readonly pickup?: number;
  readonly offbeatHats?: boolean;
}

/** A song of drums, bass and chords with known beats and bars, at the analysis rate. */
export function generateSong(wish: SongWish): { signal: Signal; beats: number[]; bars: number[] } {
  const { bpm, seconds, metre = 4, bend = 0, pickup = 0.2, offbeatHats = true } = wish;
  const rate = ANALYSIS_RATE;
  const samples = new Float32Array(Math.round(seconds * rate));
  const beats: number[] = [];
  for (let t = pickup; t < seconds - 0.3; t += (60 / bpm) * (1 + bend * sin((2 * PI * t) / 20))) beats.push(t);
  let noise = 12345;
  const hiss = (): number => (noise = (imul(noise, 1664525) + 1013904223) | 0) / 2147483648;
  const add = (at: number, length: number, wave: (t: number) => number): void => {
    const from = Math.round(at * rate);
    for (let i = 0; i < length * rate && from + i < samples.length; i++) samples[from + i]! += wave(i / rate);
  };
  const roots = [110, 146.83, 98, 130.81];
  beats.forEach((at, i) => {
    const place = i % metre;
    const bar = Math.floor(i / metre);
    const root = roots[bar % roots.length]!;
    const length = (beats[i + 1] ?? at + 60 / bpm) - at;
    if (place === 0 || (metre === 4 && place === 2))
      add(at, 0.15, (t) => 0.6 * sin(2 * PI * (50 * t + 2 * (1 - exp(-t * 40)))) * exp(-t / 0.05));
    else add(at, 0.1, (t) => 0.25 * hiss() * exp(-t / 0.03));
    if (offbeatHats) for (const half of [0, 0.5]) add(at + half * length, 0.03, (t) => 0.08 * hiss() * exp(-t / 0.01));
    if (place === 0)
      for (const [k, ratio] of [1, 1.26, 1.5, 2].entries())
        add(at, metre * length * 0.95, (t) => (0.12 / (k + 1)) * sin(2 * PI * root * ratio * t) * min(1, t * 200) * exp(-t / 2));
  });
  return { signal: { samples, rate }, beats, bars: beats.filter((_, i) => i % metre === 0) };
}

/**
 * F-measure of found times against true ones within a window, each true time matched once (the beat measure of
 * M. Davies, N. Degara and M. Plumbley, "Evaluation methods for musical audio beat tracking algorithms", 2009).
 */
export function fMeasure(found: readonly number[], truth: readonly number[], window = 0.07): number {
  let hits = 0;
  let from = 0;
  for (const t of truth) {
    while (from < found.length && found[from]! < t - window) from++;
    if (from < found.length && found[from]! <= t + window) {
      hits++;
      from++;
    }
  }
  return found.length + truth.length === 0 ? 0 : (2 * hits) / (found.length + truth.length);
}
