/** Two taps closer than this are one, seconds. */
export const DOUBLE_TAP_S = 0.06;

export type TapKind = 'beat' | 'bar' | 'drop';

/** One tap: when it was heard, song seconds. */
export interface Tap {
  readonly time: number;
  readonly kind: TapKind;
}

/**
 * The song time that was heard at the moment of a tap.
 * The audio context's output time stamp says which context time left the speakers at which page time; the event's own
 * time stamp says when the key went down, however late its handler ran.
 * @param eventMs the event's timeStamp, page milliseconds
 * @param output contextTime in seconds heard at performanceTime in page milliseconds
 * @param startedAt context time at which the song's second `songFrom` was started
 * @param rate of playback, 1 for normal
 * @param lateness of this person at this computer, seconds, taken off
 */
export function tapTime(
  eventMs: number,
  output: { contextTime: number; performanceTime: number },
  startedAt: number,
  songFrom: number,
  rate = 1,
  lateness = 0,
): number {
  const heard = output.contextTime + (eventMs - output.performanceTime) / 1000;
  return songFrom + (heard - startedAt - lateness) * rate;
}

/** Taps in order, with double taps made one: the first stays, and the higher kind of the two. */
export function cleanTaps(taps: readonly Tap[]): Tap[] {
  const rank: Record<TapKind, number> = { beat: 0, bar: 1, drop: 2 };
  const clean: Tap[] = [];
  for (const tap of [...taps].sort((a, b) => a.time - b.time)) {
    const last = clean.at(-1);
    if (last && tap.time - last.time < DOUBLE_TAP_S)
      clean[clean.length - 1] = { time: last.time, kind: rank[tap.kind] > rank[last.kind] ? tap.kind : last.kind };
    else clean.push(tap);
  }
  return clean;
}
