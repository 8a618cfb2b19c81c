import { median } from './median.ts';

/** The fastest beat looked for: 260 a minute, as quick eighths are counted. Seconds. */
export const SHORTEST_BEAT_S = 60 / 260;
/** The slowest beat looked for: 42 a minute. Seconds. */
export const LONGEST_BEAT_S = 60 / 42;

/** How long most beats of a song are, seconds; as long as the tapped pulse that people prefer where there are none. */
export const beatLengthOf = (beats: readonly number[]): number => median(beats.slice(1).map((b, i) => b - beats[i]!)) ?? 0.5;
