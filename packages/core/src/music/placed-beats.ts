import { attackNear } from './attack.ts';
import type { HeardSong } from './heard-song.ts';
import { highestNear } from './highest-near.ts';
import { type Signal, signalLength } from './signal.ts';

/** A detected beat: where, seconds, and how clearly it was heard, 0 to 1. */
export interface DetectedBeat {
  readonly time: number;
  readonly downbeat: boolean;
  readonly confidence: number;
}

const SNAP_REACH_S = 0.04;

/**
 * Draws tracked beats to the attacks heard next to them. A beat without a clear attack keeps its place between its
 * neighbours, moved by what they were moved by.
 */
function refine(signal: Signal, times: readonly number[]): { time: number; confidence: number }[] {
  const attacks = times.map((time) => attackNear(signal, time, SNAP_REACH_S));
  const shift = attacks.map((attack, i) => ({ by: attack.time - times[i]!, clarity: attack.clarity }));
  return times.map((time, i) => {
    let sum = 0;
    let weight = 1e-6;
    for (let k = Math.max(0, i - 4); k <= Math.min(times.length - 1, i + 4); k++) {
      const w = shift[k]!.clarity ** 2 / (1 + Math.abs(k - i));
      sum += w * shift[k]!.by;
      weight += w;
    }
    const local = sum / weight;
    const own = shift[i]!;
    // An attack far from where the neighbours' attacks are is more likely another note than this beat.
    const trust = own.clarity * Math.exp(-0.5 * ((own.by - local) / 0.015) ** 2);
    return { time: Math.max(0, time + local + trust * (own.by - local)), confidence: own.clarity };
  });
}

/** A tracked beat that was drawn to its attack: where, seconds, how clearly it was heard, 0 to 1, and which it was. */
export interface Placed {
  readonly time: number;
  readonly confidence: number;
  readonly index: number;
}

/** Tracked beats, drawn to their attacks; those that would come to lie on one another or after the end are left out. */
export function placeBeats(heard: HeardSong, tracked: readonly number[]): Placed[] {
  const { signal, onsets, chances } = heard;
  const length = signalLength(signal);
  const beats: Placed[] = [];
  for (const [index, { time, confidence }] of refine(signal, tracked).entries()) {
    if (time >= length || (beats.length > 0 && time <= beats.at(-1)!.time + 0.05)) continue;
    const heardAs = Math.sqrt(highestNear(chances.beat, tracked[index]! * onsets.pulseFps));
    beats.push({ time, index, confidence: Math.min(1, 0.65 * heardAs + 0.35 * confidence) });
  }
  return beats;
}

/** The same with the downbeats among them, which are indices of the tracked ones. */
export function placedBeats(heard: HeardSong, tracked: readonly number[], downbeats: readonly number[]): DetectedBeat[] {
  const bars = new Set(downbeats);
  return placeBeats(heard, tracked).map(({ time, confidence, index }) => ({ time, downbeat: bars.has(index), confidence }));
}
