import { LONGEST_BEAT_S, SHORTEST_BEAT_S } from './beat-lengths.ts';
import { likeliestBeats, type BeatPath } from './beat-tracking.ts';
import { median } from './median.ts';

/** A hint at the tempo that is to be found. */
export interface TempoHint {
  /** beats a minute */
  readonly bpm: number;
  /** how far from it a tempo may be, as a factor: 1.2 allows a fifth more and less */
  readonly within: number;
}

const { max, min, round } = Math;

/** Beats on each side whose lengths tell the tempo there. */
const AROUND = 2;
/** Where two beats on end are hardly heard, as after the end of the music, they say nothing about the tempo. */
const HEARD = 0.15;
/** Lengths within this factor are of one tempo. */
const ONE_TEMPO = 1.2;
/** How near to twice or half a tempo another one is taken for the same at another level. */
const NEAR_OCTAVE = 1.15;
/** The share of a song that has to be counted at another level to be noticed. */
const LEAST_SHARE = 0.03;
/** How far the tempo may go from the middle of its level, as a factor: half way to twice as long a beat. */
const LEVEL_REACH = 1.5;
/** Steps in which the song's tempo is looked for. */
const TEMPO_STEP = 1.04;

/** How much of a tracked song is counted at which beat length. */
class CountedAt {
  private readonly gaps: readonly { readonly length: number; readonly weight: number }[];
  private readonly whole: number;

  constructor(beats: readonly number[], chance: Float32Array, fps: number) {
    const clear = beats.map((t) => {
      const f = round(t * fps);
      return max(chance[f - 1] ?? 0, chance[f] ?? 0, chance[f + 1] ?? 0) >= HEARD;
    });
    const lengths = beats.slice(1).map((t, i) => t - beats[i]!);
    this.gaps = lengths.map((own, i) => {
      const length = median(lengths.slice(max(0, i - AROUND), i + AROUND + 1)) ?? own;
      return { length, weight: clear[i] || clear[i + 1] ? own : 0 };
    });
    this.whole = this.gaps.reduce((sum, g) => sum + g.weight, 0);
  }

  /** How long the beats are that are as long as `length` up to a factor, seconds in all and in the middle. */
  private like(length: number, factor: number): { readonly sum: number; readonly mean: number } {
    let [sum, moment] = [0, 0];
    for (const g of this.gaps) {
      if (g.length < length / factor || g.length > length * factor) continue;
      sum += g.weight;
      moment += g.weight * g.length;
    }
    return { sum, mean: sum > 0 ? moment / sum : length };
  }

  /** The share of the song, 0 to 1, whose beats are as long as `length` up to a factor. */
  share(length: number, factor: number): number {
    return this.whole > 0 ? this.like(length, factor).sum / this.whole : 0;
  }

  /** The beat length at which most of the song is counted, seconds. */
  most(): number {
    let best = { sum: -1, mean: SHORTEST_BEAT_S };
    for (let length = SHORTEST_BEAT_S; length <= LONGEST_BEAT_S; length *= TEMPO_STEP) {
      const there = this.like(length, ONE_TEMPO);
      if (there.sum > best.sum) best = there;
    }
    return best.mean;
  }
}

/**
 * The beats of a song. Music hardly ever becomes just twice as fast; where the likeliest beats do, what changed is which
 * level of its pulse is heard best. The song is then counted at one level throughout, the likelier one.
 * @param chance of a beat, 0 to 1, one a frame
 * @param fps frames a second of the chances
 * @returns where the beats are, seconds, rising
 */
export function trackBeats(chance: Float32Array, fps: number, hint?: TempoHint): readonly number[] {
  if (hint) {
    const shortest = max(SHORTEST_BEAT_S / 2, 60 / hint.bpm / hint.within);
    const longest = min(2 * LONGEST_BEAT_S, (60 / hint.bpm) * hint.within);
    return likeliestBeats(chance, fps, { shortest, longest, preferred: false }).beats;
  }
  const free = likeliestBeats(chance, fps, { shortest: SHORTEST_BEAT_S, longest: LONGEST_BEAT_S, preferred: true });
  const counted = new CountedAt(free.beats, chance, fps);
  const most = counted.most();
  const others = [most / 2, most * 2].filter((length) => counted.share(length, NEAR_OCTAVE) > LEAST_SHARE);
  if (others.length === 0) return free.beats;
  const level = (length: number): BeatPath => {
    const limits = { shortest: max(SHORTEST_BEAT_S, length / LEVEL_REACH), longest: min(LONGEST_BEAT_S, length * LEVEL_REACH) };
    return likeliestBeats(chance, fps, { ...limits, preferred: true });
  };
  return [most, ...others].map(level).reduce((a, b) => (b.likelihood > a.likelihood ? b : a)).beats;
}
