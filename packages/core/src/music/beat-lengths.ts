import { median } from './median.ts';

/** The fastest beat looked for: 260 a minute, as quick eighths are counted. Seconds. */
export const SHORTEST_BEAT_S = 60 / 260;
/** The slowest beat looked for: 42 a minute. Seconds. */
export const LONGEST_BEAT_S = 60 / 42;

/** What lies between each beat and the next, seconds; one fewer than beats. */
export const gapsOf = (beats: readonly number[]): number[] => beats.slice(1).map((b, i) => b - beats[i]!);

/** How long most beats of a song are, seconds; as long as the pulse that people prefer to tap where there are none. */
export const beatLengthOf = (beats: readonly number[]): number => median(gapsOf(beats)) ?? 0.5;
