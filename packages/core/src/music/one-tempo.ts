import { gapsOf } from './beat-lengths.ts';
import { likeliestBeats } from './beat-tracking.ts';
import { oddsOf } from './heard-odds.ts';
import { highestNear } from './highest-near.ts';
import { median } from './median.ts';

const { abs, ceil, floor, log } = Math;

/** The longest gap of one tempo is so many times the shortest. */
const ONE_TEMPO = 1.13;
/** The part of a song that is counted at its tempo, at the least. */
const LEAST_SHARE = 0.7;
/** What a stretch may be counted at in place of it: two for three, three for two, three for four, four for three. */
const FALSE_TEMPI = [2 / 3, 3 / 2, 3 / 4, 4 / 3].map(log);
const NEAR_FALSE = 0.05;
/** Beats on end that make a stretch, and beats in all of them that make it worth while. */
const STRETCH = 3;
const FEWEST = 5;
/** What is heard less clearly than this on both ends of a gap, a chance, is silence. */
const HEARD = 0.15;
/** How much longer and shorter than those of the song beats may be when they are tracked once more, seconds. */
const LEEWAY_S = 0.01;
/** How much less clearly the beats of one tempo may be heard, natural logarithm of odds a beat: else the song does change. */
const LESS_CLEAR = 0.35;

/** The gaps that are as long as most are; sorted. */
function commonGaps(gaps: readonly number[]): number[] {
  const sorted = [...gaps].sort((a, b) => a - b);
  let [from, to] = [0, 0];
  for (let first = 0, next = 0; first < sorted.length; first++) {
    while (next < sorted.length && sorted[next]! < sorted[first]! * ONE_TEMPO) next++;
    if (next - first > to - from) [from, to] = [first, next];
  }
  return sorted.slice(from, to);
}

const total = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);

/** How many beats are in stretches that are counted at a false tempo, of those gaps that are heard. */
function falselyCounted(gaps: readonly number[], usual: number, heard: (i: number) => boolean): number {
  let [all, stretch] = [0, 0];
  for (const [i, gap] of [...gaps, usual].entries()) {
    if (FALSE_TEMPI.some((tempo) => abs(log(gap / usual) - tempo) < NEAR_FALSE) && heard(i)) stretch++;
    else {
      if (stretch >= STRETCH) all += stretch;
      stretch = 0;
    }
  }
  return all;
}

/**
 * Beats of a song at one tempo, where the likeliest ones count a stretch of it two for three or three for four: music hardly ever
 * changes by just that and back, and where the beats at its tempo are heard hardly less clearly there, they are meant.
 * @param beats seconds, rising; a way to count the song
 * @param chance of a beat, 0 to 1, one a frame
 * @param fps frames a second of the chances
 * @returns the same beats where no stretch is counted so, or where the song does change its tempo
 */
export function atOneTempo(beats: readonly number[], chance: Float32Array, fps: number): readonly number[] {
  const gaps = gapsOf(beats);
  const common = commonGaps(gaps);
  const usual = median(common);
  const heard = (i: number): boolean => [i, i + 1].some((k) => highestNear(chance, beats[k]! * fps) >= HEARD);
  if (usual === undefined || total(common) < LEAST_SHARE * total(gaps) || falselyCounted(gaps, usual, heard) < FEWEST) return beats;
  const [shortest, longest] = [common[floor(common.length * 0.05)]!, common[ceil(common.length * 0.95) - 1]!];
  const lengths = { shortest: shortest - LEEWAY_S, longest: longest + LEEWAY_S, preferred: false };
  const steady = likeliestBeats(chance, fps, lengths).beats;
  const clearness = (times: readonly number[]): number => oddsOf(chance, fps)(times) / times.length;
  return clearness(steady) > clearness(beats) - LESS_CLEAR ? steady : beats;
}
