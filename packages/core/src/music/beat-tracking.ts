import type { Tempogram } from './tempogram.ts';

const { floor, log, max, min } = Math;

/** A beat is looked for in the first part of its length, one in so many (Krebs, Böck and Widmer 2015). */
const OBSERVATION_PART = 16;
/** How far before the song's start its first beat may be tracked, frames. */
const EARLY_FRAMES = 3;
/** How unwilling the tempo is to change from beat to beat. */
const TEMPO_STIFFNESS = 90;
/** How much the tempogram says against the onsets. */
const TEMPOGRAM_WEIGHT = 4;

/** Onset strength as the chance of a beat, 0.01 to 0.95: divided by the loudest of the surrounding five seconds. */
export function beatChance(strength: Float32Array, fps: number): Float32Array {
  const n = strength.length;
  const half = Math.round(2.5 * fps);
  const chance = new Float32Array(n);
  const block = max(1, Math.round(0.25 * fps));
  const blockMax: number[] = [];
  for (let i = 0; i < n; i += block) {
    let loudest = 0;
    for (let k = i; k < min(n, i + block); k++) loudest = max(loudest, strength[k]!);
    blockMax.push(loudest);
  }
  const sorted = strength.slice().sort();
  const quietest = max(1e-6, (sorted[floor(n * 0.95)] ?? 0) * 0.25);
  let top = quietest;
  let [from, to] = [-1, -1];
  for (let i = 0; i < n; i++) {
    const a = max(0, floor((i - half) / block));
    const b = min(blockMax.length - 1, floor((i + half) / block));
    if (a !== from || b !== to) {
      const around = blockMax.slice(a, b + 1).sort((x, y) => x - y);
      top = max(quietest, around[floor(around.length * 0.8)]!);
      [from, to] = [a, b];
    }
    chance[i] = min(0.95, max(0.01, strength[i]! / top));
  }
  return chance;
}

/**
 * Beats by the most likely path through a bar-pointer state space: a state is a beat length and a place within it; the
 * place moves on by a frame at a time and the length may change at each beat (F. Krebs, S. Böck and G. Widmer, "An
 * efficient state-space model for joint tempo and meter tracking", ISMIR 2015). Lengths are weighed by a tempogram.
 * @param chance of a beat, 0 to 1, one a frame
 * @returns the frames of the beats, rising
 */
export function trackBeats(chance: Float32Array, tempo: Tempogram): number[] {
  const { lengths } = tempo;
  const count = lengths.length;
  const frames = chance.length;
  // score[k] is a ring of places for beat length k; the ring turns, so moving on costs nothing.
  const score = lengths.map((length) => new Float64Array(length).fill(0));
  const cameFrom = new Uint8Array(frames * count);
  // A change of length costs by its logarithm, so the best length to come from is found in one pass up and one down.
  const cost = lengths.map((length) => TEMPO_STIFFNESS * log(length));
  const best = new Float64Array(count);
  const bestFrom = new Uint8Array(count);
  const likely = Float64Array.from(tempo.score, (value) => TEMPOGRAM_WEIGHT * log(0.02 + value));
  const beatPlaces = lengths.map((length) => max(1, Math.round(length / OBSERVATION_PART)));
  const turned = lengths.map(() => 0); // n mod length, for each length

  let shared = 0; // what every state gains, kept apart so that only the beat places are written
  for (let n = 0; n < frames; n++) {
    const c = chance[n]!;
    const offBeat = log((1 - c) / (OBSERVATION_PART - 1));
    const gain = log(c) - offBeat;
    const step = min(tempo.steps - 1, floor(n / tempo.stepFrames)) * count;
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
      ring[at] = best[k]! + likely[step + k]!;
      turned[k] = at + 1 === length ? 0 : at + 1;
      for (let p = beatPlaces[k]!; p > 0; p--) {
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
    beats.push(max(0, n));
    if (n < 0) break;
    k = cameFrom[n * count + k]!;
    n -= lengths[k]!;
  }
  return beats.reverse();
}
