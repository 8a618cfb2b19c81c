import { attackNear } from './attack.ts';
import { downbeatEvidence, findBars } from './bars.ts';
import { beatChance, trackBeats } from './beat-tracking.ts';
import { onsetStrength, type OnsetStrength } from './onset-strength.ts';
import { findDrops, findSections, type Section } from './sections.ts';
import { type Signal, signalLength } from './signal.ts';
import { tempogram } from './tempogram.ts';

/** A detected beat: where, seconds, and how clearly it was heard, 0 to 1. */
export interface DetectedBeat {
  readonly time: number;
  readonly downbeat: boolean;
  readonly confidence: number;
}

/** What was heard in a song. */
export interface Detection {
  /** length of the song, seconds */
  readonly length: number;
  readonly beats: readonly DetectedBeat[];
  /** beats in a bar */
  readonly metre: number;
  /** the middle of the tempo, beats a minute */
  readonly bpm: number;
  readonly sections: readonly Section[];
  /** seconds */
  readonly drops: readonly number[];
  /** a sentence when there is nothing to hold on to, else null */
  readonly verdict: string | null;
}

const { max } = Math;

const SNAP_REACH_S = 0.04;
const SHORTEST_SONG_S = 3;
const FEWEST_BEATS = 4;
const NO_BEAT = 'No beat was found in this song. Tap its beats.';
const LOW_WEIGHT = 2;
const HIGH_WEIGHT = 0.4;
/** Log energy of a tone that only just is one. */
const SILENCE = -6;
/** Below this a song repeats itself hardly more than noise does. */
const STEADY_CLARITY = 0.15;

function tooShort(length: number): Detection {
  return nothing(length, `This song is ${length.toFixed(1)} s long, too short to find a beat in. Tap its beats, or choose a longer one.`);
}

function nothing(length: number, verdict: string): Detection {
  return { length, beats: [], metre: 4, bpm: 0, sections: [], drops: [], verdict };
}

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

/** Median of a list; 0 of an empty one. */
function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}

/**
 * What the pulse is read from: bass counts more than its few bands say, treble less than its many, since drummers mark
 * the beat below and divide it above.
 */
function pulseStrength({ low, mid, high }: OnsetStrength): Float32Array {
  return low.map((v, i) => LOW_WEIGHT * v + mid[i]! + HIGH_WEIGHT * high[i]!);
}

/**
 * Finds the beats, bars, sections and drops of a song.
 * @param signal one channel at ANALYSIS_RATE; others work too, more slowly
 * @param onProgress is told the part done, 0 to 1
 */
export function detect(signal: Signal, onProgress: (part: number) => void = () => undefined): Detection {
  const length = signalLength(signal);
  if (length < SHORTEST_SONG_S) return tooShort(length);
  return detectIn(
    signal,
    onsetStrength(signal, (part) => onProgress(part * 0.6)),
    onProgress,
  );
}

/** The same for a song whose onset strength was taken while it was decoded. */
export function detectIn(signal: Signal, onsets: OnsetStrength, onProgress: (part: number) => void = () => undefined): Detection {
  const length = signalLength(signal);
  if (length < SHORTEST_SONG_S) return tooShort(length);
  const loudest = onsets.energy.reduce((a, b) => max(a, b), -Infinity);
  if (loudest < SILENCE)
    return nothing(length, 'This song is silent, so there are no beats to find. Choose another file, or tap beats by eye.');

  const strength = pulseStrength(onsets);
  const tempo = tempogram(strength, onsets.fps);
  onProgress(0.7);
  const frames = trackBeats(beatChance(strength, onsets.fps), tempo);
  onProgress(0.85);
  if (frames.length < FEWEST_BEATS) return nothing(length, NO_BEAT);

  const evidence = downbeatEvidence(onsets, frames);
  const grid = findBars(evidence);
  const downbeats = new Set(grid.downbeats);
  const refined = refine(
    signal,
    frames.map((f) => f / onsets.fps),
  );
  // Beats tracked into the silence before and after the music are none.
  const audible = (time: number): boolean => {
    const f = Math.round(time * onsets.fps);
    for (let k = f - 8; k <= f + 30; k++) if ((onsets.energy[k] ?? -Infinity) > loudest - 9.2) return true;
    return false;
  };
  let first = 0;
  while (first < refined.length && !audible(refined[first]!.time)) first++;
  let last = refined.length - 1;
  while (last > first && !audible(refined[last]!.time)) last--;
  const beats: DetectedBeat[] = [];
  for (let i = first; i <= last; i++) {
    const { time, confidence } = refined[i]!;
    if (time >= length || (beats.length > 0 && time <= beats.at(-1)!.time + 0.05)) continue;
    beats.push({ time, downbeat: downbeats.has(i), confidence });
  }
  if (beats.length < FEWEST_BEATS) return nothing(length, NO_BEAT);
  onProgress(0.95);
  const gaps = beats.slice(1).map((beat, i) => beat.time - beats[i]!.time);
  const bpm = gaps.length > 0 ? 60 / median(gaps) : 0;
  const barTimes = beats.filter((b) => b.downbeat).map((b) => b.time);
  const sections = findSections(onsets, barTimes, length);
  onProgress(1);
  return {
    length,
    beats,
    metre: grid.metre,
    bpm,
    sections,
    drops: findDrops(sections),
    verdict:
      median([...tempo.clarity]) < STEADY_CLARITY
        ? 'No steady beat was heard here. What is marked is a guess: check it with clicks, or tap.'
        : null,
  };
}
