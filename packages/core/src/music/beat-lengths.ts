/** The fastest beat looked for: 220 a minute. Seconds. */
export const SHORTEST_BEAT_S = 60 / 220;
/** The slowest beat looked for: 50 a minute. Seconds. */
export const LONGEST_BEAT_S = 60 / 50;
