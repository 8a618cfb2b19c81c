import { POINT_SIZE, SpectrumKernel, type FilterBank } from './spectrum-kernel.ts';
import type { Signal } from './signal.ts';

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
/** The beat network hears two frames as one. */
const PULSE_EVERY = 2;
/** Pooled are two frames of two bands' levels, and of four bands' rises, of which few rise at once. */
const POOLED = 4;
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
  /** what the beat network hears: `pulseWidth` values a frame, levels and then `pulseRises` rises, `pulseFps` frames a second */
  readonly pulse: Float32Array;
  readonly pulseWidth: number;
  readonly pulseRises: number;
  readonly pulseFps: number;
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
    first: Uint32Array.from(first),
    at: Uint32Array.from(at),
    weights: Float32Array.from(weights),
    hz: centres,
  };
}

/** Hann window of the given size, scaled so that a window's spectrum does not depend on its size. */
function hann(size: number): Float32Array {
  return Float32Array.from({ length: size }, (_, i) => (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size)) * (2048 / size));
}

/** Takes samples as they come, in one stretch of memory that grows. */
class SampleStore {
  private held: Float32Array;
  length = 0;

  constructor(expected: number) {
    this.held = new Float32Array(expected);
  }

  push(chunk: Float32Array): void {
    if (this.length + chunk.length > this.held.length) {
      const larger = new Float32Array(Math.max(this.held.length * 2, this.length + chunk.length));
      larger.set(this.held.subarray(0, this.length));
      this.held = larger;
    }
    this.held.set(chunk, this.length);
    this.length += chunk.length;
  }

  /** What is there so far; holds until the next push. */
  get samples(): Float32Array {
    return this.held.subarray(0, this.length);
  }
}

/**
 * Onset strength by log-filtered spectral flux with a maximum filter over neighbouring bands, so that vibrato does not
 * count as onsets (S. Böck and G. Widmer, "Maximum filter vibrato suppression for onset detection", DAFx 2013).
 * Windows of 46 ms, Hann, 100 frames a second; two frames go through one complex transform.
 * Samples are pushed as they are decoded, so that hearing and decoding go on side by side.
 */
export class OnsetMeter {
  private readonly store: SampleStore;
  private readonly colour: SampleStore;
  private readonly pulse: SampleStore;
  /** frame after frame, what the kernel says of each */
  private readonly curves: SampleStore;
  private readonly kernel: SpectrumKernel;
  private readonly size: number;
  private readonly hop: number;
  /** Flux is taken to the frame at which the two windows overlap by half. */
  private readonly lag: number;
  private readonly colourBands: number;
  private frames = 0;

  /**
   * @param rate of the samples, Hz
   * @param expected length, seconds; longer songs work too, with more copying
   */
  constructor(
    readonly rate: number,
    expected = 360,
  ) {
    this.size = 2 ** Math.round(Math.log2(WINDOW_S * rate));
    this.hop = rate / ONSET_FPS;
    this.lag = Math.max(1, Math.round(this.size / 4 / this.hop) + 1);
    const bank = logFilters(rate, this.size);
    const from = (hz: number): number => bank.hz.findIndex((middle) => middle >= hz);
    this.colourBands = bank.hz.filter((hz) => hz < COLOUR_TOP_HZ).length;
    const frames = Math.ceil(expected * ONSET_FPS) + 2;
    this.store = new SampleStore(Math.ceil(expected * rate));
    this.curves = new SampleStore(frames * POINT_SIZE);
    this.colour = new SampleStore(Math.ceil(frames / COLOUR_EVERY) * this.colourBands);
    this.kernel = new SpectrumKernel(hann(this.size), bank, from(LOW_BELOW_HZ), from(HIGH_ABOVE_HZ), this.lag + 1);
    this.pulse = new SampleStore(Math.ceil(frames / PULSE_EVERY) * this.kernel.pooled.length);
  }

  /** Takes more of the song, and hears as much of it as has arrived whole. */
  push(chunk: Float32Array): void {
    this.store.push(chunk);
    const { samples } = this.store;
    const reach = this.size / 2 + this.hop;
    while (Math.round((this.frames + 1) * this.hop) + reach <= samples.length) this.hearTwo(samples, 2);
  }

  /** Ends the song. */
  finish(): { readonly signal: Signal; readonly onsets: OnsetStrength } {
    const { samples } = this.store;
    const total = Math.max(1, Math.ceil((samples.length / this.rate) * ONSET_FPS));
    while (this.frames < total) this.hearTwo(samples, total - this.frames);
    const [low, mid, high, energy, lowEnergy] = apart(this.curves.samples, total);
    return {
      signal: { samples, rate: this.rate },
      onsets: {
        fps: ONSET_FPS,
        all: low.map((v, i) => v + mid[i]! + high[i]!),
        low,
        mid,
        high,
        energy,
        lowEnergy,
        colour: this.colour.samples,
        colourBands: this.colourBands,
        colourFps: ONSET_FPS / COLOUR_EVERY,
        pulse: this.pulse.samples,
        pulseWidth: this.kernel.pooled.length,
        pulseRises: this.kernel.pools[1],
        pulseFps: ONSET_FPS / PULSE_EVERY,
      },
    };
  }

  /** Frame n's window of samples; silence beyond the song's ends. */
  private cut(samples: Float32Array, n: number, into: Float32Array): void {
    const start = Math.round(n * this.hop) - this.size / 2;
    const from = Math.max(0, start);
    const there = samples.subarray(Math.min(from, samples.length), Math.max(from, start + this.size));
    if (there.length < this.size) into.fill(0);
    into.set(there, from - start);
  }

  /** Two frames at once, or the last one alone. */
  private hearTwo(samples: Float32Array, left: number): void {
    const { kernel } = this;
    this.cut(samples, this.frames, kernel.inputs[0]);
    this.cut(samples, this.frames + 1, kernel.inputs[1]);
    kernel.transform();
    for (const which of [0, 1] as const) {
      if (which === 1 && left < 2) break;
      const n = this.frames++;
      this.curves.push(kernel.hear(which, n, this.lag));
      if (n % COLOUR_EVERY === 0) this.colour.push(kernel.levels(n, this.colourBands));
    }
    const pool = kernel.pooled;
    for (let i = 0; i < pool.length; i++) pool[i]! /= POOLED;
    this.pulse.push(pool);
    pool.fill(0);
  }
}

/** Takes the kernel's points apart into one curve for each of their values. */
function apart(points: Float32Array, frames: number): [Float32Array, Float32Array, Float32Array, Float32Array, Float32Array] {
  const curve = (which: number): Float32Array => {
    const values = new Float32Array(frames);
    for (let n = 0; n < frames; n++) values[n] = points[POINT_SIZE * n + which]!;
    return values;
  };
  return [curve(0), curve(1), curve(2), curve(3), curve(4)];
}

/**
 * The onset strength of a whole signal.
 * @param onProgress told parts done, 0 to 1
 * @returns curves of no values for a signal without samples
 */
export function onsetStrength(signal: Signal, onProgress: (part: number) => void = () => undefined): OnsetStrength {
  const { samples } = signal;
  const meter = new OnsetMeter(signal.rate, samples.length / signal.rate + 1);
  const stretch = Math.ceil(signal.rate * 2);
  for (let at = 0; at < samples.length; at += stretch) {
    meter.push(samples.subarray(at, at + stretch));
    onProgress(Math.min(1, (at + stretch) / samples.length));
  }
  return meter.finish().onsets;
}
