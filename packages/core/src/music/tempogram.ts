import { Fft } from './fft.ts';
import { SHORTEST_BEAT_S, LONGEST_BEAT_S } from './beat-lengths.ts';

/** How likely each beat length is over time. `lengths` in frames, rising; `score[step * lengths.length + k]` from 0 to 1. */
export interface Tempogram {
  readonly lengths: readonly number[];
  readonly stepFrames: number;
  readonly steps: number;
  readonly score: Float32Array;
  /** how strongly each step repeats itself at its best length: about 0 for noise, 1 for a machine */
  readonly clarity: Float32Array;
}

const WINDOW_S = 8;
const STEP_S = 0.5;
/** People tap nearest to this pulse, seconds (D. Moelants, "Preferred tempo reconsidered", ICMPC 2002). */
const PREFERRED_S = 0.5;
const PREFERENCE_OCTAVES = 0.9;

/**
 * Autocorrelation tempogram of an onset strength, each beat length credited by its first four multiples
 * (after P. Grosche and M. Müller, "Extracting predominant local pulse information", IEEE TASLP 2011, and
 * D. Ellis, "Beat tracking by dynamic programming", JNMR 2007, for the preference for middle tempi).
 * @param strength one value a frame
 * @param fps frames a second
 */
export function tempogram(strength: Float32Array, fps: number): Tempogram {
  const lengths: number[] = [];
  for (let f = Math.floor(SHORTEST_BEAT_S * fps); f <= Math.ceil(LONGEST_BEAT_S * fps); f++) lengths.push(f);
  const longest = lengths.at(-1)! * 4 + 2;
  const half = Math.round((WINDOW_S * fps) / 2);
  const stepFrames = Math.round(STEP_S * fps);
  const steps = Math.max(1, Math.ceil(strength.length / stepFrames));
  const score = new Float32Array(steps * lengths.length);
  const clarity = new Float32Array(steps);
  const correlation = new Float32Array(longest + 1);
  const fft = new Fft(2 ** Math.ceil(Math.log2(2 * half + longest + 1)));
  const re = new Float64Array(fft.size);
  const im = new Float64Array(fft.size);

  for (let step = 0; step < steps; step++) {
    const centre = step * stepFrames;
    const from = Math.max(0, Math.min(centre - half, strength.length - 2 * half));
    const to = Math.min(strength.length, Math.max(centre + half, 2 * half));
    const size = to - from;
    let mean = 0;
    for (let i = from; i < to; i++) mean += strength[i]!;
    mean /= Math.max(1, size);
    // The autocorrelation is the transform of the power spectrum (Wiener and Khinchin).
    re.fill(0);
    im.fill(0);
    for (let i = from; i < to; i++) re[i - from] = strength[i]! - mean;
    fft.transform(re, im);
    for (let i = 0; i < fft.size; i++) {
      re[i] = re[i]! * re[i]! + im[i]! * im[i]!;
      im[i] = 0;
    }
    fft.transform(re, im);
    for (let lag = 0; lag <= longest; lag++) correlation[lag] = size > lag ? re[lag]! / fft.size / Math.sqrt(Math.max(1, size - lag)) : 0;
    const peakAt = (lag: number): number => Math.max(correlation[lag - 1] ?? 0, correlation[lag] ?? 0, correlation[lag + 1] ?? 0);
    const zero = Math.max(1e-9, correlation[0]!);
    let best = 1e-9;
    let clearest = 0;
    lengths.forEach((length, k) => {
      const comb = (correlation[length]! + 0.8 * peakAt(2 * length) + 0.6 * peakAt(3 * length) + 0.6 * peakAt(4 * length)) / zero;
      clearest = Math.max(clearest, (correlation[length]! + peakAt(2 * length)) / zero);
      const octaves = Math.log2(length / fps / PREFERRED_S);
      const value = Math.max(0, comb) * Math.exp(-0.5 * (octaves / PREFERENCE_OCTAVES) ** 2);
      score[step * lengths.length + k] = value;
      best = Math.max(best, value);
    });
    clarity[step] = clearest / 2;
    for (let k = 0; k < lengths.length; k++) score[step * lengths.length + k]! /= best;
  }
  return { lengths, stepFrames, steps, score, clarity };
}
