/** Two taps closer than this are one, seconds. */
export const DOUBLE_TAP_S = 0.06;

/** One tap: when it was heard, song seconds, and what was meant by it. */
export interface Tap<Kind extends string = string> {
  readonly time: number;
  readonly kind: Kind;
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
 * @returns song seconds
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

/** Taps in order, with double taps made one: the first stays, and the kind of the higher rank of the two. */
export function cleanTaps<Kind extends string>(taps: readonly Tap<Kind>[], rankOf: (kind: Kind) => number): Tap<Kind>[] {
  const clean: Tap<Kind>[] = [];
  for (const tap of [...taps].sort((a, b) => a.time - b.time)) {
    const last = clean.at(-1);
    if (last && tap.time - last.time < DOUBLE_TAP_S)
      clean[clean.length - 1] = { time: last.time, kind: rankOf(tap.kind) > rankOf(last.kind) ? tap.kind : last.kind };
    else clean.push(tap);
  }
  return clean;
}

/** How somebody taps: how late on average and how unsteadily, seconds. */
export interface Tapping {
  readonly lateness: number;
  /** half of the taps are within this of the lateness */
  readonly spread: number;
  /** how many taps say so */
  readonly taps: number;
}

const FEWEST_TAPS = 6;
/** Taps farther than this from what they are meant for were meant for something else, seconds. */
const FARTHEST_S = 0.25;
/** Lateness that is worth speaking of, and how steady it must be. Seconds. */
const NOTICED_S = 0.015;
const STEADY_S = 0.035;

function middle(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

/**
 * How taps lie to the times that they are meant for; medians, so that a slip does not count.
 * @param taps seconds
 * @param meant clicks or onsets, seconds, rising
 * @param reach how far a tap may be from its own, seconds
 * @returns null where too few taps have one
 */
export function tappingOf(taps: readonly number[], meant: readonly number[], reach = FARTHEST_S): Tapping | null {
  const off = taps.flatMap((tap) => {
    let best = Infinity;
    for (const time of meant) if (Math.abs(tap - time) < Math.abs(best)) best = tap - time;
    return Math.abs(best) <= reach ? [best] : [];
  });
  if (off.length < FEWEST_TAPS || off.length < taps.length / 2) return null;
  const lateness = middle(off);
  return { lateness, spread: middle(off.map((o) => Math.abs(o - lateness))), taps: off.length };
}

/**
 * A steady lateness in taps against the strong onsets near them, worth telling; null where there is none.
 * Positive is late. Half the taps' own distance bounds what can be told from the beat before.
 * @param taps seconds, in the order of time
 * @param strongOnsets seconds, rising
 */
export function steadyLateness(taps: readonly number[], strongOnsets: readonly number[]): Tapping | null {
  const gaps = taps.slice(1).map((t, i) => t - taps[i]!);
  const reach = Math.min(0.15, gaps.length > 0 ? middle(gaps) / 3 : 0.15);
  const tapping = tappingOf(taps, strongOnsets, reach);
  return tapping && Math.abs(tapping.lateness) >= NOTICED_S && tapping.spread <= STEADY_S ? tapping : null;
}

/**
 * Taps drawn to the strongest onset within a window, strength weighed against distance; others stay.
 * @param onsets seconds; strengths of any scale
 * @param window seconds to either side
 * @returns as many taps, in the order in which they came
 */
export function drawnToOnsets<Kind extends string>(
  taps: readonly Tap<Kind>[],
  onsets: readonly { readonly time: number; readonly strength: number }[],
  window: number,
): Tap<Kind>[] {
  return taps.map((tap) => {
    let best = 0;
    let time = tap.time;
    for (const onset of onsets) {
      const part = Math.abs(onset.time - tap.time) / window;
      const worth = onset.strength * (1 - 0.7 * part);
      if (part <= 1 && worth > best) [best, time] = [worth, onset.time];
    }
    return { ...tap, time };
  });
}
