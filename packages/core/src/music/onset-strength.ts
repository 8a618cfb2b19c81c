import { Fft } from './fft.ts';
import type { Signal } from './signal.ts';

// Looked up once: in some hosts every use of a global costs a search.
const { log, sqrt, LOG10E } = Math;

/** Frames of onset strength per second. */
export const ONSET_FPS = 100;
const WINDOW_S = 0.0465;
const BANDS_PER_OCTAVE = 24;
const LOWEST_HZ = 30;
const HIGHEST_HZ = 17000;
const LOW_BELOW_HZ = 180;
const HIGH_ABOVE_HZ = 2500;
/** Harmony moves slowly: every fifth frame is enough to know it by. */
const COLOUR_EVERY = 5;
/** Above this there is little pitch left to tell chords by, Hz. */
const COLOUR_TOP_HZ = 3000;

/** What a song does over time, one value a frame (100 a second). Frame n is centred on n / fps seconds. */
export interface OnsetStrength {
  readonly fps: number;
  /** rise of the log spectrum, all bands, then of the low, middle and high ones */
  readonly all: Float32Array;
  readonly low: Float32Array;
  readonly mid: Float32Array;
  readonly high: Float32Array;
  /** log energy, natural units, of everything and of the low band */
  readonly energy: Float32Array;
  readonly lowEnergy: Float32Array;
  /** log spectrum below 3 kHz, `colourBands` values a frame, `colourFps` frames a second */
  readonly colour: Float32Array;
  readonly colourBands: number;
  readonly colourFps: number;
}

/** Triangular filters laid end to end: filter b covers bins first[b] on, with weights from at[b] to at[b + 1]. */
interface FilterBank {
  readonly count: number;
  readonly first: Uint16Array;
  readonly at: Uint32Array;
  readonly weights: Float32Array;
  readonly hz: readonly number[];
}

/** Log-spaced triangular filters of unit area, where the spectrum is fine enough to tell them apart. */
function logFilters(rate: number, size: number): FilterBank {
  const bins: number[] = [];
  const binHz = rate / size;
  const top = Math.min(HIGHEST_HZ, rate / 2 - binHz);
  for (let k = 0; ; k++) {
    const hz = LOWEST_HZ * 2 ** (k / BANDS_PER_OCTAVE);
    if (hz > top) break;
    const bin = Math.round(hz / binHz);
    if (bin > 0 && bin !== bins.at(-1)) bins.push(bin);
  }
  const first: number[] = [];
  const at = [0];
  const weights: number[] = [];
  const centres: number[] = [];
  for (let i = 0; i + 2 < bins.length; i++) {
    const [a, b, c] = [bins[i]!, bins[i + 1]!, bins[i + 2]!];
    const own: number[] = [];
    for (let bin = a + 1; bin < c; bin++) own.push(bin <= b ? (bin - a) / (b - a) : (c - bin) / (c - b));
    const sum = own.reduce((x, y) => x + y, 0);
    first.push(a + 1);
    weights.push(...own.map((w) => w / sum));
    at.push(weights.length);
    centres.push(b * binHz);
  }
  return {
    count: first.length,
    first: Uint16Array.from(first),
    at: Uint32Array.from(at),
    weights: Float32Array.from(weights),
    hz: centres,
  };
}

/** Hann window of the given size, scaled so that a window's spectrum does not depend on its size. */
function hann(size: number): Float32Array {
  return Float32Array.from({ length: size }, (_, i) => (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size)) * (2048 / size));
}

/**
 * Onset strength by log-filtered spectral flux with a maximum filter over neighbouring bands, so that vibrato does not
 * count as onsets (S. Böck and G. Widmer, "Maximum filter vibrato suppression for onset detection", DAFx 2013).
 * Windows of 46 ms, Hann, 100 frames a second; two frames go through one complex transform.
 * @param onProgress is told the part done, 0 to 1
 */
export function onsetStrength(signal: Signal, onProgress: (part: number) => void = () => undefined): OnsetStrength {
  const { samples, rate } = signal;
  const size = 2 ** Math.round(Math.log2(WINDOW_S * rate));
  const frames = Math.max(1, Math.ceil((samples.length / rate) * ONSET_FPS));
  const hop = rate / ONSET_FPS;
  const bank = logFilters(rate, size);
  const bands = bank.count;
  const { at, first: firstBin, weights } = bank;
  const firstMid = bank.hz.findIndex((hz) => hz >= LOW_BELOW_HZ);
  const firstHigh = bank.hz.findIndex((hz) => hz >= HIGH_ABOVE_HZ);
  const colourBands = bank.hz.filter((hz) => hz < COLOUR_TOP_HZ).length;
  // Flux is taken to the frame at which the two windows overlap by half.
  const lag = Math.max(1, Math.round(size / 4 / hop) + 1);

  const window = hann(size);
  const fft = new Fft(size);
  const re = new Float64Array(size);
  const im = new Float64Array(size);
  const half = size / 2;
  const magnitudes = [new Float32Array(half), new Float32Array(half)] as const;
  const history = Array.from({ length: lag + 1 }, () => new Float32Array(bands));
  const out = (): Float32Array => new Float32Array(frames);
  const result = { all: out(), low: out(), mid: out(), high: out(), energy: out(), lowEnergy: out() };
  const colour = new Float32Array(Math.ceil(frames / COLOUR_EVERY) * colourBands);

  const cut = (n: number, into: Float64Array): void => {
    const start = Math.round(n * hop) - half;
    if (start >= 0 && start + size <= samples.length) for (let i = 0; i < size; i++) into[i] = samples[start + i]! * window[i]!;
    else for (let i = 0; i < size; i++) into[i] = (samples[start + i] ?? 0) * window[i]!;
  };

  const take = (n: number, magnitude: Float32Array): void => {
    const now = history[n % (lag + 1)]!;
    let sum = 0;
    let lowSum = 0;
    for (let b = 0; b < bands; b++) {
      let value = 0;
      const to = at[b + 1]!;
      for (let k = at[b]!, bin = firstBin[b]!; k < to; k++, bin++) value += weights[k]! * magnitude[bin]!;
      now[b] = log(1 + value) * LOG10E;
      sum += value * value;
      if (b < firstMid) lowSum += value * value;
    }
    result.energy[n] = log(1e-3 + sum / bands);
    result.lowEnergy[n] = log(1e-3 + lowSum / Math.max(1, firstMid));
    if (n % COLOUR_EVERY === 0) colour.set(now.subarray(0, colourBands), (n / COLOUR_EVERY) * colourBands);
    if (n < lag) return;
    const before = history[(n - lag) % (lag + 1)]!;
    let low = 0;
    let mid = 0;
    let high = 0;
    for (let b = 0; b < bands; b++) {
      let was = before[b]!;
      if (b > 0 && before[b - 1]! > was) was = before[b - 1]!;
      if (b + 1 < bands && before[b + 1]! > was) was = before[b + 1]!;
      const rise = now[b]! - was;
      if (rise <= 0) continue;
      if (b < firstMid) low += rise;
      else if (b < firstHigh) mid += rise;
      else high += rise;
    }
    result.low[n] = low;
    result.mid[n] = mid;
    result.high[n] = high;
    result.all[n] = low + mid + high;
  };

  for (let n = 0; n < frames; n += 2) {
    cut(n, re);
    cut(n + 1, im);
    fft.transform(re, im);
    // Two real signals went in as one complex one; symmetry takes them apart.
    const [first, second] = magnitudes;
    for (let k = 1; k < half; k++) {
      const a = re[k]!;
      const b = im[k]!;
      const c = re[size - k]!;
      const d = im[size - k]!;
      first[k] = 0.5 * sqrt((a + c) * (a + c) + (b - d) * (b - d));
      second[k] = 0.5 * sqrt((b + d) * (b + d) + (c - a) * (c - a));
    }
    take(n, first);
    if (n + 1 < frames) take(n + 1, second);
    if (n % 512 === 0) onProgress(n / frames);
  }
  onProgress(1);
  return { fps: ONSET_FPS, ...result, colour, colourBands, colourFps: ONSET_FPS / COLOUR_EVERY };
}
