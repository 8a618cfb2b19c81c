import type { OnsetStrength } from './onset-strength.ts';

/** How the beats fall into bars. */
export interface BarGrid {
  /** beats in a bar */
  readonly metre: number;
  /** indices of the beats that are downbeats, rising */
  readonly downbeats: readonly number[];
}

const METRES = [4, 3] as const;
/** What it costs to lose count, in units of downbeat evidence. */
const LOSE_COUNT = 6;

function around(values: Float32Array, centre: number, reach: number): number {
  let max = 0;
  for (let i = Math.max(0, centre - reach); i <= Math.min(values.length - 1, centre + reach); i++) max = Math.max(max, values[i]!);
  return max;
}

/** A number of each beat against its neighbours: so many spreads above or below their mean. */
function againstNeighbours(values: readonly number[], reach = 8): number[] {
  return values.map((v, i) => {
    const near = values.slice(Math.max(0, i - reach), i + reach + 1);
    const mean = near.reduce((a, b) => a + b, 0) / near.length;
    const spread = Math.sqrt(near.reduce((a, b) => a + (b - mean) ** 2, 0) / near.length) + 0.05 * Math.abs(mean) + 1e-6;
    return Math.max(-2.5, Math.min(2.5, (v - mean) / spread));
  });
}

/**
 * The harmony between two frames: the mean log spectrum less its own outline over an octave, which leaves the partials
 * of notes and takes away the broad sound of drums. Unit length.
 */
function harmony(onsets: OnsetStrength, fromFrame: number, toFrame: number): Float32Array {
  const { colour, colourBands: bands } = onsets;
  const scale = onsets.colourFps / onsets.fps;
  const first = Math.max(0, Math.floor(fromFrame * scale));
  const last = Math.max(first + 1, Math.min(Math.floor(colour.length / bands), Math.ceil(toFrame * scale)));
  const mean = new Float32Array(bands);
  for (let f = first; f < last; f++) for (let b = 0; b < bands; b++) mean[b]! += colour[f * bands + b] ?? 0;
  const out = new Float32Array(bands);
  let length = 0;
  for (let b = 0; b < bands; b++) {
    let sum = 0;
    let count = 0;
    for (let k = Math.max(0, b - 8); k <= Math.min(bands - 1, b + 8); k++, count++) sum += mean[k]!;
    const value = Math.max(0, mean[b]! - sum / count);
    out[b] = value;
    length += value * value;
  }
  length = Math.sqrt(length) || 1;
  for (let b = 0; b < bands; b++) out[b]! /= length;
  return out;
}

const likeness = (a: Float32Array, b: Float32Array): number => a.reduce((sum, v, i) => sum + v * b[i]!, 0);

/**
 * How much each beat sounds like the first of a bar: a change of harmony that lasts (over one, two and four beats), and
 * bass rather than treble, since a drummer's backbeat is loud but bright.
 */
export function downbeatEvidence(onsets: OnsetStrength, beatFrames: readonly number[]): number[] {
  const last = beatFrames.length - 1;
  const beat = (i: number): number => beatFrames[Math.max(0, Math.min(last, i))]!;
  const change = beatFrames.map((_, i) => {
    if (i === 0 || i >= last) return 0;
    const over = (beats: number): number =>
      1 - likeness(harmony(onsets, beat(i - beats) + 8, beat(i) - 3), harmony(onsets, beat(i) + 8, beat(i + beats) - 3));
    return 0.5 * over(1) + over(2) + 1.5 * over(4);
  });
  const low = againstNeighbours(beatFrames.map((f) => around(onsets.low, f, 3)));
  const bright = againstNeighbours(beatFrames.map((f) => around(onsets.high, f, 3) + 0.5 * around(onsets.mid, f, 3)));
  const accent = againstNeighbours(
    beatFrames.map((f) => around(onsets.all, f, 3)),
    16,
  );
  return againstNeighbours(change).map((c, i) => 1.5 * c + 0.6 * low[i]! - 0.6 * bright[i]! + 0.5 * Math.max(0, accent[i]! - 1.5));
}

/**
 * Bars by the most likely count along the beats, for each metre in question: evidence on downbeats is won, evidence
 * between them is lost, and losing count costs (a beat-level reduction of the bar-pointer model, Krebs et al. 2015,
 * over beat-synchronous features after M. Davies and M. Plumbley, "A spectral difference approach to downbeat
 * extraction", EUSIPCO 2006).
 */
export function findBars(evidence: readonly number[]): BarGrid {
  let best: { metre: number; score: number; downbeats: number[] } = { metre: 4, score: -Infinity, downbeats: [] };
  for (const metre of METRES) {
    const gain = (i: number, place: number): number => (place === 0 ? evidence[i]! : -evidence[i]! / (metre - 1));
    let scores = Array.from({ length: metre }, (_, place) => gain(0, place));
    const from: number[][] = [Array.from({ length: metre }, () => 0)];
    for (let i = 1; i < evidence.length; i++) {
      const jump = scores.indexOf(Math.max(...scores));
      const back: number[] = [];
      scores = scores.map((_, place) => {
        const straight = (place + metre - 1) % metre;
        const kept = scores[straight]! >= scores[jump]! - LOSE_COUNT;
        back.push(kept ? straight : jump);
        return (kept ? scores[straight]! : scores[jump]! - LOSE_COUNT) + gain(i, place);
      });
      from.push(back);
    }
    const top = Math.max(...scores);
    let place = scores.indexOf(top);
    const downbeats: number[] = [];
    for (let i = evidence.length - 1; i >= 0; i--) {
      if (place === 0) downbeats.push(i);
      place = from[i]![place]!;
    }
    // Evidence is standardised, so a score per bar tells how well the metre fits; four is the likelier guess.
    const score = (top / Math.max(1, downbeats.length)) * (metre === 4 ? 1.1 : 1);
    if (evidence.length > 0 && score > best.score) best = { metre, score, downbeats: downbeats.reverse() };
  }
  return { metre: best.metre, downbeats: best.downbeats };
}
