import { LONGEST_BEAT_S, SHORTEST_BEAT_S } from './beat-lengths.ts';

const { floor, log, log2, max, min } = Math;

/** A beat is heard in so many frames, whatever its length: as wide as the network's peaks, so that no tempo is favoured. */
const BEAT_FRAMES = 4;
/** Where in those frames the beat lies. */
const BEAT_CENTRE = 1.5;
/** How much likelier a frame is to be none of a beat's. */
const REST_WEIGHT = 2;
/** People tap nearest to this pulse, seconds (D. Moelants, "Preferred tempo reconsidered", ICMPC 2002). */
const PREFERRED_S = 0.5;
/** What each beat costs that is an octave from it. */
const PREFERENCE = 2;
/** How far before the song's start its first beat may be tracked, frames. */
const EARLY_FRAMES = 3;
/** How unwilling the tempo is to change from beat to beat. */
const TEMPO_STIFFNESS = 90;
/** What one frame more or less costs at the most: fast beats whose length is no whole number of frames have to alternate. */
const MOST_A_STEP = 1.5;

/** Frames a second at which beats are tracked: fine enough for fast ones. */
export const TRACKING_FPS = 100;

/** A hint at the tempo that is to be found. */
export interface TempoHint {
  /** beats a minute */
  readonly bpm: number;
  /** how far from it a tempo may be, as a factor: 1.2 allows a fifth more and less */
  readonly within: number;
}

/** The chances of a slower curve at TRACKING_FPS, by straight lines between its points, kept off certainty. */
function finer(chance: Float32Array, fps: number): Float32Array {
  const frames = Math.round((chance.length / fps) * TRACKING_FPS);
  const fine = new Float32Array(frames);
  for (let i = 0; i < frames; i++) {
    const at = min(chance.length - 1, (i * fps) / TRACKING_FPS);
    const below = floor(at);
    const value = chance[below]! + (at - below) * ((chance[below + 1] ?? chance[below]!) - chance[below]!);
    fine[i] = min(0.98, max(0.002, value));
  }
  return fine;
}

/**
 * Beats by the most likely path through a bar-pointer state space: a state is a beat length and a place within it; the
 * place moves on by a frame at a time and the length may change at each beat (F. Krebs, S. Böck and G. Widmer, "An
 * efficient state-space model for joint tempo and meter tracking", ISMIR 2015).
 * @param beatChance of a beat, 0 to 1, one a frame
 * @param fps frames a second of the chances
 * @returns where the beats are, seconds, rising
 */
export function trackBeats(beatChance: Float32Array, fps: number, hint?: TempoHint): number[] {
  const chance = finer(beatChance, fps);
  const lengths: number[] = [];
  const shortest = hint ? max(SHORTEST_BEAT_S / 2, 60 / hint.bpm / hint.within) : SHORTEST_BEAT_S;
  const longest = hint ? min(2 * LONGEST_BEAT_S, (60 / hint.bpm) * hint.within) : LONGEST_BEAT_S;
  for (let f = max(4, floor(shortest * TRACKING_FPS)); f <= Math.ceil(longest * TRACKING_FPS); f++) lengths.push(f);
  const count = lengths.length;
  const frames = chance.length;
  // score[k] is a ring of places for beat length k; the ring turns, so moving on costs nothing.
  const score = lengths.map((length) => new Float64Array(length).fill(0));
  const cameFrom = new Uint8Array(frames * count);
  // A change of length costs by its logarithm, so the best length to come from is found in one pass up and one down.
  let along = 0;
  const cost = lengths.map((length, k) => (along += k === 0 ? 0 : min(MOST_A_STEP, TEMPO_STIFFNESS * log(length / lengths[k - 1]!))));
  const best = new Float64Array(count);
  const bestFrom = new Uint8Array(count);
  // Where the tempo is hinted at, there is no need to prefer any.
  const preference = lengths.map((length) => (hint ? 0 : PREFERENCE * log2(length / TRACKING_FPS / PREFERRED_S) ** 2));
  const turned = lengths.map(() => 0); // n mod length, for each length

  let shared = 0; // what every state gains, kept apart so that only the beat places are written
  for (let n = 0; n < frames; n++) {
    const c = chance[n]!;
    const offBeat = log((1 - c) / REST_WEIGHT);
    const gain = log(c) - offBeat;
    shared += offBeat;
    let top = -Infinity;
    let from = 0;
    for (let k = 0; k < count; k++) {
      const value = score[k]![turned[k]!]! + cost[k]!;
      if (value > top) {
        top = value;
        from = k;
      }
      best[k] = top - cost[k]!;
      bestFrom[k] = from;
    }
    top = -Infinity;
    for (let k = count - 1; k >= 0; k--) {
      const value = score[k]![turned[k]!]! - cost[k]!;
      if (value > top) {
        top = value;
        from = k;
      }
      if (top + cost[k]! > best[k]!) {
        best[k] = top + cost[k]!;
        bestFrom[k] = from;
      }
    }
    for (let k = 0; k < count; k++) {
      const ring = score[k]!;
      const length = ring.length;
      cameFrom[n * count + k] = bestFrom[k]!;
      // The slot that ended its beat now begins the next one: place p lives at ring[(n - p) mod length].
      let at = turned[k]!;
      ring[at] = best[k]! - preference[k]!;
      turned[k] = at + 1 === length ? 0 : at + 1;
      for (let p = BEAT_FRAMES; p > 0; p--) {
        ring[at]! += gain;
        at = at === 0 ? length - 1 : at - 1;
      }
    }
    if (shared < -1e6) {
      for (const ring of score) for (let i = 0; i < ring.length; i++) ring[i]! += shared;
      shared = 0;
    }
  }

  let highest = -Infinity;
  let k = 0;
  let place = 0;
  for (let j = 0; j < count; j++)
    for (let p = 0; p < lengths[j]!; p++) {
      const value = score[j]![(frames - 1 - p + lengths[j]! * 4) % lengths[j]!]!;
      if (value > highest) {
        highest = value;
        k = j;
        place = p;
      }
    }
  const beats: number[] = [];
  // A song that starts on a beat has it at its very first sample; the path may put it a frame or two before.
  for (let n = frames - 1 - place; n >= -EARLY_FRAMES;) {
    beats.push(max(0, n + BEAT_CENTRE) / TRACKING_FPS);
    if (n < 0) break;
    k = cameFrom[n * count + k]!;
    n -= lengths[k]!;
  }
  return beats.reverse();
}
