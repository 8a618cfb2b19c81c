import type { Signal } from './signal.ts';

const { abs, log, max, min, round } = Math;

/** An attack near a beat: where it starts, seconds, and how clear it is, 0 to 1. */
export interface Attack {
  readonly time: number;
  readonly clarity: number;
}

const STEP_S = 0.001;
/** Steps over which energy is averaged. */
const AVERAGE_STEPS = 4;

/** The energy of the differenced signal from a sample to another. */
function energyOf(samples: Float32Array, from: number, to: number): number {
  let sum = 0;
  for (let k = from; k < to; k++) sum += (samples[k]! - samples[k - 1]!) ** 2;
  return sum;
}

/**
 * Short-time log energy of the differenced signal, a value a step, over as many steps as are averaged.
 * @param start where the first of them is centred, seconds; there is silence before and after the signal
 */
function logEnergy({ samples, rate }: Signal, start: number, count: number): Float32Array {
  // What is averaged begins and ends on steps, so each step's energy is added up once.
  const first = start * rate - (AVERAGE_STEPS * STEP_S * rate) / 2;
  const border = (step: number): number => max(1, min(samples.length, round(first + step * STEP_S * rate)));
  const steps = new Float64Array(count + AVERAGE_STEPS - 1);
  let from = border(0);
  for (let i = 0; i < steps.length; i++) {
    const to = border(i + 1);
    steps[i] = energyOf(samples, from, to);
    from = to;
  }
  const level = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    let energy = 0;
    for (let k = i; k < i + AVERAGE_STEPS; k++) energy += steps[k]!;
    level[i] = log(1e-7 + energy / (AVERAGE_STEPS * STEP_S * rate));
  }
  return level;
}

/**
 * The start of the attack nearest to a moment, at a millisecond's detail: the steepest rise of the short-time log
 * energy of the differenced signal (the difference lifts attacks over sustained bass), walked back to where the rise
 * begins (after J. Bello et al., "A tutorial on onset detection in music signals", IEEE TSAP 2005).
 * @param near seconds
 * @param reach how far to look to each side, seconds
 */
export function attackNear(signal: Signal, near: number, reach: number): Attack {
  const points = 2 * round(reach / STEP_S) + 1;
  const lead = round(0.012 / STEP_S);
  const level = logEnergy(signal, near - reach - lead * STEP_S, points + 2 * lead);
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
