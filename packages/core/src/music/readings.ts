import { audibleIn } from './audible.ts';
import { countSong } from './counting.ts';
import type { HeardSong } from './heard-song.ts';
import { median } from './median.ts';
import { placeBeats, type DetectedBeat, type Placed } from './placed-beats.ts';
import { sectionLetters } from './section-letters.ts';
import { findDrops, findSections, type HeardSection } from './sections.ts';
import { signalLength } from './signal.ts';
import { tempoCurve, type TempoPoint } from './tempo.ts';

/** One way to read a song: its beats and bars, and what follows from where bars begin. */
export interface Reading {
  /** how likely it is the way in which people count the song, 0 to 1 */
  readonly chance: number;
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
}

/** Fewer beats are none. */
const FEWEST_BEATS = 4;

/** How far a beat may be drawn to its attack, seconds: as far it may lie before the section that it begins. */
const DRAWN_S = 0.06;

/** The ways in which a song that was listened to can be read, the likeliest first; none where there are too few beats. */
export function readSong(heard: HeardSong): Reading[] {
  const { signal, onsets } = heard;
  const length = signalLength(signal);
  const placing = new Map<readonly number[], Placed[]>();
  return countSong(heard, audibleIn(onsets), FEWEST_BEATS).flatMap(({ chance, beats: tracked, sounds, downbeats, metre }) => {
    const placed = placing.get(tracked) ?? placeBeats(heard, tracked);
    placing.set(tracked, placed);
    if (placed.length < FEWEST_BEATS) return [];
    const bars = new Set(downbeats);
    const beats = placed.map(({ time, confidence, index }) => ({ time, downbeat: bars.has(index), confidence }));
    const times = beats.map((b) => b.time);
    const barTimes = beats.filter((b) => b.downbeat).map((b) => b.time);
    const sections = findSections(onsets, barTimes, length, (stretches) =>
      sectionLetters(stretches.map(([from, to]) => sounds.filter((_, i) => tracked[i]! >= from - DRAWN_S && tracked[i]! < to - DRAWN_S))),
    );
    const gaps = times.slice(1).map((time, i) => time - times[i]!);
    const bpm = 60 / (median(gaps) ?? Infinity);
    return [{ chance, beats, metre, bpm, tempo: tempoCurve(times), sections, drops: findDrops(sections) }];
  });
}
