import { LEVEL_WEIGHTS } from './level-weights.ts';

/** Standard deviations beyond which a cue says no more. */
const MOST = 4;

/**
 * How likely a level is to be the one that people count, as a natural logarithm that compares between levels of one song: a
 * conditional logit (D. McFadden, "Conditional logit analysis of qualitative choice behavior", 1974), fitted to composed
 * pieces and to scores by lab/training/judge-levels.py.
 * @param cues see levelCues
 */
export const judgeLevel = (cues: readonly number[]): number =>
  cues.reduce((sum, cue, i) => {
    const [mean, spread, weight] = LEVEL_WEIGHTS[i]!;
    return sum + weight * Math.min(MOST, Math.max(-MOST, (cue - mean) / spread));
  }, 0);
