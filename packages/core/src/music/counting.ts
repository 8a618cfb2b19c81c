import { findBars } from './bars.ts';
import { beatLengthOf } from './beat-lengths.ts';
import { downbeatEvidence, type HeardForBars } from './downbeat-evidence.ts';
import { soundOfBeats, type BeatSound } from './join-likeness.ts';
import { readLevels } from './levels.ts';

/** One way to count a song: its beats, which of them are downbeats, and how likely it is the one that people count, 0 to 1. */
export interface Count {
  readonly chance: number;
  /** seconds, rising; where they were tracked, not drawn to their attacks */
  readonly beats: readonly number[];
  /** what each of them sounds like */
  readonly sounds: readonly BeatSound[];
  /** indices of beats */
  readonly downbeats: readonly number[];
  /** beats in a bar */
  readonly metre: number;
}

const { exp, max } = Math;

/** A song that is hardly counted like this need not be told of it. */
const LEAST_CHANCE = 0.05;
/** Evidence a bar at which the next best beat would be as likely to begin it: by how often it did in 138 pieces whose beats were given. */
const EVEN = -0.3;

/** Another beat of the bar that may be its first: by how many beats later, and how likely that is against the grid, 0 to 1. */
function rivalStart(evidence: readonly number[], downbeats: readonly number[], metre: number): { later: number; chance: number } {
  const stands = (later: number): number => {
    const there = downbeats.map((d) => evidence[d + later]).filter((e) => e !== undefined);
    return there.reduce((a, b) => a + b, 0) / max(1, there.length);
  };
  let later = 1;
  for (let k = 2; k < metre; k++) if (stands(k) > stands(later)) later = k;
  return { later, chance: 1 / (1 + exp(stands(0) - stands(later) - EVEN)) };
}

/**
 * The ways to count a song that come into question, the likeliest first: the best one, the same beats with bars from another
 * beat on, and the best one at another level of the pulse.
 * @param audible leaves out beats that were tracked into the silence around the music
 * @param least beats of a way to count
 */
export function countSong(heard: HeardForBars, audible: (times: readonly number[]) => readonly number[], least: number): Count[] {
  const levels = readLevels(heard)
    .map(({ beats, chance }) => ({ beats: audible(beats), chance }))
    .filter(({ beats, chance }, i) => beats.length >= least && (i === 0 || chance >= LEAST_CHANCE));
  const [first, second] = levels;
  const barred = (beats: readonly number[], chance: number): Count[] => {
    const sounds = soundOfBeats(heard.onsets, beats);
    const evidence = downbeatEvidence(heard, beats, sounds);
    const { metre, downbeats } = findBars(evidence, beatLengthOf(beats));
    if (metre < 2 || downbeats.length < 2) return [{ chance, beats, sounds, downbeats, metre }];
    const rival = rivalStart(evidence, downbeats, metre);
    const moved = downbeats.map((d) => d + rival.later).filter((d) => d < beats.length);
    const before = downbeats[0]! + rival.later - metre;
    return [
      { chance: chance * (1 - rival.chance), beats, sounds, downbeats, metre },
      { chance: chance * rival.chance, beats, sounds, downbeats: before >= 0 ? [before, ...moved] : moved, metre },
    ];
  };
  // A level whose bars stand out is the likelier for it.
  const counts = [first, second].flatMap((level) => (level ? barred(level.beats, level.chance) : []));
  counts.sort((a, b) => b.chance - a.chance);
  const [best, ...others] = counts;
  const sameLevel = others.find((count) => count.beats === best?.beats);
  const otherLevel = others.find((count) => count.beats !== best?.beats);
  return counts.filter((count) => count === best || count === sameLevel || count === otherLevel);
}
