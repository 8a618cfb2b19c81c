import type { Signal } from './signal.ts';

/** Waveform outline in three bands: the largest absolute sample of each stretch, 0 to 1. */
export interface Peaks {
  /** stretches a second */
  readonly perSecond: number;
  readonly all: Float32Array;
  readonly low: Float32Array;
  readonly mid: Float32Array;
  readonly high: Float32Array;
}

const LOW_HZ = 180;
const HIGH_HZ = 2500;

/** Coefficient of a one-pole low-pass at a corner frequency. */
function onePole(hz: number, rate: number): number {
  return 1 - Math.exp((-2 * Math.PI * hz) / rate);
}

/**
 * The outline of a song for drawing, in low (below 180 Hz), mid and high (above 2,500 Hz) bands of 12 dB an octave.
 * @param perSecond values a second
 * @returns largest absolute samples, 0 to 1; one value of 0 in each for a signal without samples
 */
export function peaks(signal: Signal, perSecond = 200): Peaks {
  const { samples, rate } = signal;
  const count = Math.max(1, Math.ceil((samples.length / rate) * perSecond));
  const all = new Float32Array(count);
  const low = new Float32Array(count);
  const mid = new Float32Array(count);
  const high = new Float32Array(count);
  const a = onePole(LOW_HZ, rate);
  const b = onePole(HIGH_HZ, rate);
  let l1 = 0;
  let l2 = 0;
  let h1 = 0;
  let h2 = 0;
  for (let i = 0; i < samples.length; i++) {
    const x = samples[i]!;
    l1 += a * (x - l1);
    l2 += a * (l1 - l2);
    h1 += b * (x - h1);
    h2 += b * (h1 - h2);
    const at = Math.min(count - 1, Math.floor((i / rate) * perSecond));
    const xs = Math.abs(x);
    const ls = Math.abs(l2);
    const ms = Math.abs(h2 - l2);
    const hs = Math.abs(x - h2);
    if (xs > all[at]!) all[at] = xs;
    if (ls > low[at]!) low[at] = ls;
    if (ms > mid[at]!) mid[at] = ms;
    if (hs > high[at]!) high[at] = hs;
  }
  return { perSecond, all, low, mid, high };
}
