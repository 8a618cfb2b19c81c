/** The fastest beat looked for: 260 a minute, as quick eighths are counted. Seconds. */
export const SHORTEST_BEAT_S = 60 / 260;
/** The slowest beat looked for: 42 a minute. Seconds. */
export const LONGEST_BEAT_S = 60 / 42;
