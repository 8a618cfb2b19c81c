import { LEVEL_CUES } from './level-cues.ts';
import { LEVEL_WEIGHTS } from './level-weights.ts';

const { max, min, tanh } = Math;

/** Standard deviations beyond which a cue says no more. */
const MOST = 4;

/**
 * What an octave from the pulse that people tap costs (D. Moelants, "Preferred tempo reconsidered", ICMPC 2002): where nothing
 * else tells, as with a metronome.
 */
const PREFERENCE = 0.3;
const OCTAVES_SQUARED = LEVEL_CUES.indexOf('tempo squared');

/**
 * How likely a level is to be the one that people count, as a natural logarithm that compares between levels of one song: a
 * conditional logit (D. McFadden, "Conditional logit analysis of qualitative choice behavior", 1974), linear in the cues and in
 * some bent sums of them, fitted to composed pieces and to scores by lab/training/judge-levels.py.
 * @param cues see levelCues
 */
export function judgeLevel(cues: readonly number[]): number {
  const { mean, spread, straight, inner, bias, outer } = LEVEL_WEIGHTS;
  const x = cues.map((cue, i) => min(MOST, max(-MOST, (cue - mean[i]!) / spread[i]!)));
  const dot = (weights: readonly number[]): number => x.reduce((sum, value, i) => sum + value * weights[i]!, 0);
  const bent = inner.reduce((sum, weights, k) => sum + outer[k]! * tanh(dot(weights) + bias[k]!), dot(straight));
  return bent - PREFERENCE * cues[OCTAVES_SQUARED]!;
}
