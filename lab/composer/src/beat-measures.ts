/** Beats before this are not judged, seconds: listeners need a while too. */
const JUDGED_FROM_S = 5;
const WINDOW_S = 0.07;
/** How far a beat may be from the true one, and its length from the true one's, as parts of a beat. */
const TOLERANCE = 0.175;

/** How well found beats agree with true ones, all from 0 to 1. */
export interface BeatMeasures {
  /** F-measure at 70 ms */
  readonly f: number;
  /** part of the beats that are right at the right metrical level, continuity not asked for */
  readonly cmlt: number;
  /** the same where half, double and off-beat count as right */
  readonly amlt: number;
  /** median distance of the matched beats from the true ones, signed, seconds; NaN where none match */
  readonly offset: number;
}

const judged = (times: readonly number[]): number[] => times.filter((t) => t >= JUDGED_FROM_S);

/** Pairs of found and true times within the window, the most that can be (both rise, so taking them in turn is best). */
function matched(found: readonly number[], truth: readonly number[]): [number, number][] {
  const pairs: [number, number][] = [];
  let i = 0;
  for (const t of truth) {
    while (i < found.length && found[i]! < t - WINDOW_S) i++;
    if (i < found.length && found[i]! <= t + WINDOW_S) pairs.push([found[i++]!, t]);
  }
  return pairs;
}

/** F-measure of found times against true ones within 70 ms, from 5 s on. */
export function fMeasure(found: readonly number[], truth: readonly number[]): number {
  const [a, b] = [judged(found), judged(truth)];
  return a.length + b.length === 0 ? 0 : (2 * matched(a, b).length) / (a.length + b.length);
}

/** The part of found beats whose place and length fit the true beats. */
function fitting(found: readonly number[], truth: readonly number[]): number {
  if (found.length < 2 || truth.length < 2) return 0;
  const used = new Set<number>();
  const count = Math.max(found.length, truth.length);
  found.forEach((time, m) => {
    let near = 0;
    for (let i = 1; i < truth.length; i++) if (Math.abs(truth[i]! - time) < Math.abs(truth[near]! - time)) near = i;
    if (used.has(near)) return;
    const first = m === 0 || near === 0;
    const ahead = near + 1 < truth.length ? truth[near + 1]! - truth[near]! : truth[near]! - truth[near - 1]!;
    const trueLength = first ? ahead : truth[near]! - truth[near - 1]!;
    const length = first ? (m + 1 < found.length ? found[m + 1]! - time : time - found[m - 1]!) : time - found[m - 1]!;
    if (Math.abs(time - truth[near]!) / trueLength < TOLERANCE && Math.abs(1 - length / trueLength) < TOLERANCE) used.add(near);
  });
  return used.size / count;
}

/** Twice as many beats: one more in the middle of each two. */
function doubled(times: readonly number[]): number[] {
  return times.flatMap((t, i) => (i + 1 < times.length ? [t, (t + times[i + 1]!) / 2] : [t]));
}

/**
 * The measures by which beat trackers are compared (M. Davies, N. Degara and M. Plumbley, "Evaluation methods for
 * musical audio beat tracking algorithms", 2009), with their customary settings.
 * @param found seconds, rising
 * @param truth seconds, rising
 */
export function beatMeasures(found: readonly number[], truth: readonly number[]): BeatMeasures {
  const [a, b] = [judged(found), judged(truth)];
  const twice = doubled(b);
  const levels = [b, twice.filter((_, i) => i % 2 === 1), twice, b.filter((_, i) => i % 2 === 0), b.filter((_, i) => i % 2 === 1)];
  const fits = levels.map((level) => fitting(a, level));
  const offsets = matched(a, b)
    .map(([x, y]) => x - y)
    .sort((x, y) => x - y);
  return { f: fMeasure(found, truth), cmlt: fits[0]!, amlt: Math.max(...fits), offset: offsets[Math.floor(offsets.length / 2)] ?? NaN };
}
