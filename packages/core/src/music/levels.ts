import { LONGEST_BEAT_S, SHORTEST_BEAT_S } from './beat-lengths.ts';
import { likeliestBeats } from './beat-tracking.ts';
import { bandRises, levelCues, type HeardForLevel } from './level-cues.ts';
import { judgeLevel } from './level-judge.ts';
import { median } from './median.ts';
import { steadyBeats } from './steady-beats.ts';
import { trackBeats } from './track-beats.ts';

const { exp, max, min } = Math;

/** Beats of a song at one level of its pulse, and how likely it is the one that people count, 0 to 1. */
export interface Level {
  /** seconds, rising */
  readonly beats: readonly number[];
  readonly chance: number;
}

/** Other levels than the likeliest path's: parts and multiples of its beat. */
const FACTORS = [1 / 4, 1 / 3, 1 / 2, 2 / 3, 3 / 2, 2, 3] as const;
/** How far a beat may be from the middle of its level, as a factor. */
const REACH = 1.25;
/** Fewer beats tell nothing of a level. */
const FEWEST_BEATS = 8;
/** Beats are hardly ever counted faster than this, seconds. */
const FASTEST_LEVEL_S = 60 / 235;

/** Half way between beats. */
const middles = (beats: readonly number[]): number[] => beats.slice(1).map((b, i) => (b + beats[i]!) / 2);

/**
 * The levels at which a song could be counted: as its likeliest path has it, on that path's off-beat, and at parts and
 * multiples of its beat.
 * @returns beats of each, seconds; the likeliest path first
 */
export function possibleLevels({ chances, onsets }: HeardForLevel): (readonly number[])[] {
  const steady = (beats: readonly number[]): readonly number[] => steadyBeats(beats, chances.beat, onsets.pulseFps);
  const path = steady(trackBeats(chances.beat, onsets.pulseFps));
  const length = median(path.slice(1).map((b, i) => b - path[i]!));
  if (path.length < FEWEST_BEATS || length === undefined) return [path];
  const others = FACTORS.flatMap((factor) => {
    const beat = length * factor;
    if (beat < FASTEST_LEVEL_S || beat > LONGEST_BEAT_S) return [];
    const lengths = { shortest: max(SHORTEST_BEAT_S, beat / REACH), longest: min(LONGEST_BEAT_S, beat * REACH), preferred: false };
    const beats = steady(likeliestBeats(chances.beat, onsets.pulseFps, lengths).beats);
    return factor === 2 ? [beats, middles(beats)] : [beats];
  });
  return [path, middles(path), ...others].filter((beats) => beats.length >= FEWEST_BEATS);
}

/** The levels at which a song could be counted, the likeliest first; their chances make one. */
export function readLevels(heard: HeardForLevel): Level[] {
  const possible = possibleLevels(heard);
  if (possible.length === 1) return [{ beats: possible[0]!, chance: 1 }];
  const rises = bandRises(heard.onsets);
  const likelihoods = possible.map((beats, i) => judgeLevel(levelCues(heard, rises, beats, i === 0)));
  const most = max(...likelihoods);
  const whole = likelihoods.reduce((sum, l) => sum + exp(l - most), 0);
  return possible.map((beats, i) => ({ beats, chance: exp(likelihoods[i]! - most) / whole })).sort((a, b) => b.chance - a.chance);
}
