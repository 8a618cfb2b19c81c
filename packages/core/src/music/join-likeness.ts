import type { OnsetStrength } from './onset-strength.ts';

const { abs, exp, max, min, sqrt } = Math;
/** Beats that are compared on each side of a join. */
export const CONTEXT_BEATS = 4;

/** What a beat sounds like: harmony, tone colour and loudness. */
export interface BeatSound {
  readonly harmony: Float32Array;
  readonly loud: number;
  readonly bass: number;
}

/** Bands to each side over which the outline of a spectrum is taken. */
const HALF_OUTLINE = 8;

/**
 * What is above the outline of a spectrum over an octave, of size 1: partials stand out from the broad sound of drums.
 * @param spectrum log spectrum, one value a band
 */
function partials(spectrum: Float32Array): Float32Array {
  const bands = spectrum.length;
  const harmony = new Float32Array(bands);
  let sum = 0;
  let count = 0;
  let squares = 0;
  for (let k = -HALF_OUTLINE; k < bands; k++) {
    const comes = k + HALF_OUTLINE;
    const goes = comes - 2 * HALF_OUTLINE - 1;
    if (comes < bands) {
      sum += spectrum[comes]!;
      count++;
    }
    if (goes >= 0) {
      sum -= spectrum[goes]!;
      count--;
    }
    if (k < 0) continue;
    const above = max(0, spectrum[k]! - sum / count);
    harmony[k] = above;
    squares += above * above;
  }
  const size = sqrt(squares) || 1;
  for (let k = 0; k < bands; k++) harmony[k]! /= size;
  return harmony;
}

/** The mean of a curve from a frame to another, of one frame at least; after its end it stays as it is there. */
function meanFrom(curve: Float32Array, from: number, to: number): number {
  const last = curve.length - 1;
  let sum = 0;
  for (let f = from; f < to; f++) sum += curve[min(last, f)]!;
  return sum / (to - from);
}

/** What each beat of a song sounds like, from its time (seconds) to the next. */
export function soundOfBeats(onsets: OnsetStrength, times: readonly number[]): BeatSound[] {
  const { colour, colourBands, colourFps, energy, lowEnergy, fps } = onsets;
  const frames = Math.floor(colour.length / colourBands);
  const mean = new Float32Array(colourBands);
  return times.map((time, i) => {
    const to = times[i + 1] ?? time + 0.5;
    const start = Math.round(time * colourFps);
    const first = min(frames - 1, start);
    const end = min(frames, max(start + 1, Math.round(to * colourFps)));
    mean.fill(0);
    for (let f = first, at = first * colourBands; f < end; f++) for (let k = 0; k < colourBands; k++, at++) mean[k]! += colour[at]!;
    for (let k = 0; k < colourBands; k++) mean[k]! /= end - first;
    const from = Math.round(time * fps);
    const until = max(from + 1, Math.round(to * fps));
    return { harmony: partials(mean), loud: meanFrom(energy, from, until), bass: meanFrom(lowEnergy, from, until) };
  });
}

function alike(a: BeatSound, b: BeatSound): number {
  let dot = 0;
  for (let i = 0; i < a.harmony.length; i++) dot += a.harmony[i]! * b.harmony[i]!;
  return (0.25 + 0.75 * max(0, dot)) * exp(-abs(a.loud - b.loud) / 2.5) * exp(-abs(a.bass - b.bass) / 5);
}

/**
 * How well the song goes on at beat j when it was heard up to beat i: what was expected at i should be what comes at j,
 * and what led to j should be what led to i.
 */
export function joinLikeness(sounds: readonly BeatSound[], i: number, j: number): number {
  let sum = 0;
  let weight = 0;
  for (let k = -CONTEXT_BEATS; k < CONTEXT_BEATS; k++) {
    const [a, b] = [sounds[i + k], sounds[j + k]];
    if (!a || !b) continue;
    const w = k === 0 || k === -1 ? 2 : 1;
    sum += w * alike(a, b);
    weight += w;
  }
  return weight === 0 ? 0 : sum / weight;
}

/** How far a beat may lie from where the onsets say that the song goes on, seconds. */
const MOST_LAG_S = 0.04;
/** Only where another place is clearly more alike is the beat thought wrong: music repeats within a bar as well. */
const CLEARLY_ELSEWHERE = 0.85;
/** Onsets are compared over so many beats on each side of a join. */
const ALIGNED_BEATS = 2;

/**
 * How alike the onsets around two beats are, 0 to 1, or null where they are more alike when one of them is moved: beats
 * may be marked half a beat wrong in one part of a song, and a join into it would stumble.
 * @param beat seconds of a beat there
 */
export function rhythmLikeness(onsets: OnsetStrength, out: number, into: number, beat: number): number | null {
  const { fps } = onsets;
  const half = Math.round(ALIGNED_BEATS * beat * fps);
  const [a, b] = [Math.round(out * fps), Math.round(into * fps)];
  const reach = Math.round(0.5 * beat * fps);
  let [best, bestLag, here] = [0, 0, 0];
  for (let lag = -reach; lag <= reach; lag++) {
    let [ab, aa, bb] = [0, 0, 0];
    for (const band of [onsets.low, onsets.mid, onsets.high])
      for (let k = -half; k <= half; k++) {
        const [x, y] = [band[a + k] ?? 0, band[b + k + lag] ?? 0];
        ab += x * y;
        aa += x * x;
        bb += y * y;
      }
    const alike = aa * bb === 0 ? 0 : ab / sqrt(aa * bb);
    if (alike > best) [best, bestLag] = [alike, lag];
    if (abs(lag) <= MOST_LAG_S * fps) here = max(here, alike);
  }
  return abs(bestLag) / fps > MOST_LAG_S && here < CLEARLY_ELSEWHERE * best ? null : here;
}
