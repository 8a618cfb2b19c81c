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

/** What each beat of a song sounds like, from its time (seconds) to the next. */
export function soundOfBeats(onsets: OnsetStrength, times: readonly number[]): BeatSound[] {
  const { colour, colourBands, colourFps, energy, lowEnergy, fps } = onsets;
  const frames = Math.floor(colour.length / colourBands);
  return times.map((time, i) => {
    const to = times[i + 1] ?? time + 0.5;
    const mean = new Float32Array(colourBands);
    const [a, b] = [
      min(frames - 1, Math.round(time * colourFps)),
      min(frames, max(Math.round(time * colourFps) + 1, Math.round(to * colourFps))),
    ];
    for (let f = a, at = a * colourBands; f < b; f++) for (let k = 0; k < colourBands; k++, at++) mean[k]! += colour[at]!;
    for (let k = 0; k < colourBands; k++) mean[k]! /= b - a;
    // Less its outline over an octave, partials stand out from the broad sound of drums.
    const harmony = new Float32Array(colourBands);
    let sum = 0;
    let count = 0;
    let squares = 0;
    for (let k = -HALF_OUTLINE; k < colourBands; k++) {
      const comes = k + HALF_OUTLINE;
      const goes = comes - 2 * HALF_OUTLINE - 1;
      if (comes < colourBands) {
        sum += mean[comes]!;
        count++;
      }
      if (goes >= 0) {
        sum -= mean[goes]!;
        count--;
      }
      if (k < 0) continue;
      const above = max(0, mean[k]! - sum / count);
      harmony[k] = above;
      squares += above * above;
    }
    const size = sqrt(squares) || 1;
    for (let k = 0; k < colourBands; k++) harmony[k]! /= size;
    const level = (curve: Float32Array): number => {
      let sum = 0;
      const [p, q] = [Math.round(time * fps), max(Math.round(time * fps) + 1, Math.round(to * fps))];
      for (let f = p; f < q; f++) sum += curve[min(curve.length - 1, f)]!;
      return sum / (q - p);
    };
    return { harmony, loud: level(energy), bass: level(lowEnergy) };
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
