import { atOneTempo } from './one-tempo.ts';
import { withoutSlips } from './without-slips.ts';

/**
 * Beats of a song as people count it who know all of it: a stretch in which something else is heard best is counted on.
 * @param beats seconds, rising; a way to count the song
 * @param chance of a beat, 0 to 1, one a frame
 * @param fps frames a second of the chances
 * @returns the same beats where there is no such stretch
 */
export const steadyBeats = (beats: readonly number[], chance: Float32Array, fps: number): readonly number[] =>
  withoutSlips(atOneTempo(beats, chance, fps), chance, fps);
