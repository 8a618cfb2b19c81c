import type { Signal } from './signal.ts';

const { abs, log, max, min, round } = Math;

/** An attack near a beat: where it starts, seconds, and how clear it is, 0 to 1. */
export interface Attack {
  readonly time: number;
  readonly clarity: number;
}

const STEP_S = 0.001;
const AVERAGE_S = 0.004;

let scratch = new Float64Array(0);

/** Room for running sums from nought, used again by the next call. */
function runningSums(length: number): Float64Array {
  if (scratch.length < length) scratch = new Float64Array(length);
  scratch[0] = 0;
  return scratch;
}

/**
 * The start of the attack nearest to a moment, at a millisecond's detail: the steepest rise of the short-time log
 * energy of the differenced signal (the difference lifts attacks over sustained bass), walked back to where the rise
 * begins (after J. Bello et al., "A tutorial on onset detection in music signals", IEEE TSAP 2005).
 * @param near seconds
 * @param reach how far to look to each side, seconds
 */
export function attackNear(signal: Signal, near: number, reach: number): Attack {
  const { samples, rate } = signal;
  const half = (AVERAGE_S * rate) / 2;
  const points = 2 * round(reach / STEP_S) + 1;
  const lead = round(0.012 / STEP_S);
  const level = new Float32Array(points + 2 * lead);
  // Energies of overlapping stretches are differences of a running sum.
  const first = max(1, round((near - reach - lead * STEP_S) * rate - half));
  const last = min(samples.length, round((near - reach + (level.length - 1 - lead) * STEP_S) * rate + half));
  const sums = runningSums(max(0, last - first) + 1);
  let sum = 0;
  let was = samples[first - 1]!;
  for (let k = first, at = 1; k < last; k++, at++) {
    const now = samples[k]!;
    sum += (now - was) * (now - was);
    sums[at] = sum;
    was = now;
  }
  for (let i = 0; i < level.length; i++) {
    const centre = (near - reach + (i - lead) * STEP_S) * rate;
    const to = round(centre + half);
    const from = round(centre - half);
    const energy = last > first ? sums[max(0, min(last, to) - first)]! - sums[max(0, min(last, from) - first)]! : 0;
    level[i] = log(1e-7 + max(0, energy) / (2 * half));
  }
  let best = 0;
  let bestAt = -1;
  for (let i = lead; i < lead + points; i++) {
    const distance = abs((i - lead) * STEP_S - reach) / reach;
    // The rise over 6 ms: what follows against what went before.
    const after = max(level[i + 2]!, level[i + 4]!, level[i + 6]!);
    const before = (level[i - 2]! + level[i - 4]! + level[i - 6]!) / 3;
    const value = (after - before) * (1 - 0.35 * distance * distance);
    if (value > best) {
      best = value;
      bestAt = i;
    }
  }
  if (bestAt < 0) return { time: near, clarity: 0 };
  const floor = (level[bestAt - 4]! + level[bestAt - 6]!) / 2;
  const top = max(level[bestAt + 4]!, level[bestAt + 6]!);
  let start = min(level.length - 1, bestAt + 4);
  while (start > bestAt - 4 && level[start]! > floor + 0.35 * (top - floor)) start--;
  return { time: near - reach + (start - lead + 0.5) * STEP_S, clarity: min(1, best / 4) };
}
