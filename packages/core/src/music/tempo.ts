import { median } from './median.ts';

/** The tempo at a beat: seconds, beats a minute. */
export interface TempoPoint {
  readonly time: number;
  readonly bpm: number;
}

/** Beats to each side over which the tempo is taken. */
const AROUND = 4;

/**
 * The tempo of most of a song, beats a minute: by the middle one of the distances from beat to beat. Null under three beats.
 * @param beats seconds, rising
 */
export function middleTempo(beats: readonly number[]): number | null {
  if (beats.length < 3) return null;
  return 60 / median(beats.slice(1).map((b, i) => b - beats[i]!))!;
}

/**
 * The tempo of a song from beat to beat: at each beat the middle one of the distances around it, so that a beat that is
 * out of place does not count.
 * @param beats seconds, rising
 * @returns a value for each beat but the first, beats a minute; none under two beats
 */
export function tempoCurve(beats: readonly number[]): TempoPoint[] {
  const gaps = beats.slice(1).map((b, i) => b - beats[i]!);
  return gaps.map((_, i) => {
    const middle = median(gaps.slice(Math.max(0, i - AROUND), i + AROUND + 1))!;
    return { time: beats[i + 1]!, bpm: 60 / Math.max(1e-3, middle) };
  });
}
