/** Steps in which a level is drawn, and those where it turns quickly, seconds. */
const LEVEL_STEP_S = 0.02;
const JOIN_STEP_S = 0.002;

/**
 * Draws a level on a gain between two times, wherever it is another than before: in steps of a fiftieth of a second, and finer where
 * sounds are joined.
 * @param when the moment of the audio clock at which a time is heard
 */
export function followLevel(
  gain: GainNode,
  from: number,
  to: number,
  when: (time: number) => number,
  level: (time: number) => number,
  joins: readonly (readonly [from: number, to: number])[] = [],
): void {
  const times = [from];
  for (let t = from + LEVEL_STEP_S; t < to; t += LEVEL_STEP_S) times.push(t);
  for (const [start, end] of joins) {
    for (let t = Math.max(from, start); t < Math.min(to, end); t += JOIN_STEP_S) times.push(t);
    if (end > from && end < to) times.push(end);
  }
  times.sort((a, b) => a - b);
  let last: number | null = null;
  for (const time of times) {
    const now = level(time);
    if (now !== last) gain.gain.setValueAtTime(now, when(time));
    last = now;
  }
}
