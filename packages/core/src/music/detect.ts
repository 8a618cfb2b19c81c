import { findAccents, type Accent } from './accents.ts';
import { attackNear } from './attack.ts';
import { findBars } from './bars.ts';
import { beatChances, type BeatChances } from './beat-network.ts';
import { downbeatEvidence } from './downbeat-evidence.ts';
import { trackBeats, type TempoHint } from './track-beats.ts';
import { median } from './median.ts';
import { onsetStrength, type OnsetStrength } from './onset-strength.ts';
import { soundOfBeats } from './join-likeness.ts';
import { sectionLetters } from './section-letters.ts';
import { findDrops, findSections, type HeardSection } from './sections.ts';
import { type Signal, signalLength } from './signal.ts';
import { tempoCurve, type TempoPoint } from './tempo.ts';

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
  /** the tempo from beat to beat */
  readonly tempo: readonly TempoPoint[];
  readonly sections: readonly HeardSection[];
  /** seconds */
  readonly drops: readonly number[];
  /** in the order of time */
  readonly accents: readonly Accent[];
  /** a sentence when there is nothing to hold on to, else null */
  readonly verdict: string | null;
}

const { max } = Math;

const SNAP_REACH_S = 0.04;
const SHORTEST_SONG_S = 3;
const FEWEST_BEATS = 4;
const NO_BEAT = 'No beat was found in this song. Tap its beats.';
/** Forty decibels below the loudest, natural logarithm of energy. */
const QUIET = 9.2;
/** Log energy of a tone that only just is one. */
const SILENCE = -6;
/** The chance that the network gives to the middle one of the beats where there is no steady pulse. */
const STEADY_CLARITY = 0.45;

function tooShort(length: number): Detection {
  return nothing(length, `This song is ${length.toFixed(1)} s long, too short to find a beat in. Tap its beats, or choose a longer one.`);
}

function nothing(length: number, verdict: string): Detection {
  return { length, beats: [], metre: 4, bpm: 0, tempo: [], sections: [], drops: [], accents: [], verdict };
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

/** The largest value within a reach of a place, in frames. */
function around(values: Float32Array, centre: number, reach: number): number {
  let top = 0;
  for (let i = max(0, Math.floor(centre - reach)); i <= Math.min(values.length - 1, Math.ceil(centre + reach)); i++)
    top = max(top, values[i]!);
  return top;
}

/** A song that was listened to: what detection, teaching and shortening work on. */
export interface HeardSong {
  readonly signal: Signal;
  readonly onsets: OnsetStrength;
  readonly chances: BeatChances;
}

/**
 * Listens to a song: the part of detection that takes the time, done once for all that is asked of it.
 * @param onsets of the same signal, see onsetStrength
 */
export function listen(signal: Signal, onsets: OnsetStrength): HeardSong {
  return { signal, onsets, chances: beatChances(onsets.pulse, onsets.pulseWidth) };
}

/** Beats with their downbeats, drawn to their attacks; `tracked` are their rough times, `downbeats` indices of them. */
export function placeBeats(heard: HeardSong, tracked: readonly number[], downbeats: ReadonlySet<number>): DetectedBeat[] {
  const { signal, onsets, chances } = heard;
  const length = signalLength(signal);
  const beats: DetectedBeat[] = [];
  for (const [i, { time, confidence }] of refine(signal, tracked).entries()) {
    if (time >= length || (beats.length > 0 && time <= beats.at(-1)!.time + 0.05)) continue;
    const heardAs = Math.sqrt(around(chances.beat, tracked[i]! * onsets.pulseFps, 1));
    beats.push({ time, downbeat: downbeats.has(i), confidence: Math.min(1, 0.65 * heardAs + 0.35 * confidence) });
  }
  return beats;
}

/**
 * Beats and bars between two times, at a tempo near the hinted one.
 * @param from, to song seconds
 * @returns beats in the order of time, song seconds; none where too little is heard there
 */
export function detectRange(heard: HeardSong, from: number, to: number, hint?: TempoHint): DetectedBeat[] {
  const { chances, onsets } = heard;
  const first = Math.max(0, Math.floor(from * onsets.pulseFps));
  const last = Math.min(chances.beat.length, Math.ceil(to * onsets.pulseFps));
  const start = first / onsets.pulseFps;
  const tracked = trackBeats(chances.beat.subarray(first, last), onsets.pulseFps, hint).map((t) => t + start);
  const { downbeats } = findBars(downbeatEvidence(heard, tracked));
  return placeBeats(heard, tracked, new Set(downbeats)).filter((b) => b.time >= from && b.time <= to);
}

/**
 * Finds the beats, bars, sections, drops and accents of a song.
 * @param signal one channel at ANALYSIS_RATE; others are heard wrongly by the beat network
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

/**
 * The same for a song whose onset strength was taken while it was decoded.
 * @param onProgress told parts done, 0 to 1
 * @returns no beats, with the reason as its problem, for what is too short or has no steady beat
 */
export function detectIn(signal: Signal, onsets: OnsetStrength, onProgress: (part: number) => void = () => undefined): Detection {
  if (signalLength(signal) < SHORTEST_SONG_S) return tooShort(signalLength(signal));
  const heard = listen(signal, onsets);
  onProgress(0.7);
  return detectHeard(heard, onProgress);
}

/**
 * The same for a song that was listened to.
 * @param onProgress told parts done, 0 to 1
 * @returns no beats, with the reason as its problem, where there is no steady beat
 */
export function detectHeard(heard: HeardSong, onProgress: (part: number) => void = () => undefined): Detection {
  const { signal, onsets, chances } = heard;
  const length = signalLength(signal);
  const loudest = onsets.energy.reduce((a, b) => max(a, b), -Infinity);
  if (loudest < SILENCE)
    return nothing(length, 'This song is silent, so there are no beats to find. Choose another file, or tap beats by eye.');
  const accents = findAccents(onsets, signal);
  const tracked = trackBeats(chances.beat, onsets.pulseFps).filter(audibleIn(onsets, loudest));
  onProgress(0.85);
  if (tracked.length < FEWEST_BEATS) return { ...nothing(length, NO_BEAT), accents };
  const grid = findBars(downbeatEvidence(heard, tracked));
  const beats = placeBeats(heard, tracked, new Set(grid.downbeats));
  if (beats.length < FEWEST_BEATS) return { ...nothing(length, NO_BEAT), accents };
  onProgress(0.95);
  const gaps = beats.slice(1).map((beat, i) => beat.time - beats[i]!.time);
  const barTimes = beats.filter((b) => b.downbeat).map((b) => b.time);
  const times = beats.map((b) => b.time);
  const sounds = soundOfBeats(onsets, times);
  const sections = findSections(onsets, barTimes, length, (stretches) =>
    sectionLetters(stretches.map(([from, to]) => sounds.filter((_, i) => times[i]! >= from - 1e-6 && times[i]! < to - 1e-6))),
  );
  const clarity = median(tracked.map((time) => around(chances.beat, time * onsets.pulseFps, 1))) ?? 0;
  onProgress(1);
  return {
    length,
    beats,
    metre: grid.metre,
    bpm: 60 / (median(gaps) ?? Infinity),
    tempo: tempoCurve(beats.map((b) => b.time)),
    sections,
    drops: findDrops(sections),
    accents,
    verdict: clarity < STEADY_CLARITY ? 'No steady beat was heard here. What is marked is a guess: check it with clicks, or tap.' : null,
  };
}

/** Whether anything is heard near a time: beats tracked into the silence before and after the music are none. */
function audibleIn(onsets: OnsetStrength, loudest: number): (time: number, i: number, all: readonly number[]) => boolean {
  const audible = (time: number): boolean => {
    const f = Math.round(time * onsets.fps);
    for (let k = f - 8; k <= f + 30; k++) if ((onsets.energy[k] ?? -Infinity) > loudest - QUIET) return true;
    return false;
  };
  let edges: [number, number] | null = null;
  return (time, _, all) => {
    edges ??= [all.find(audible) ?? Infinity, all.findLast(audible) ?? -Infinity];
    return time >= edges[0] && time <= edges[1];
  };
}
