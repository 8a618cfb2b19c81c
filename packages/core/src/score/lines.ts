import { toMontageTime, type SongPiece } from '../music/arrangement.ts';
import { median } from '../music/median.ts';
import type { Mark, Montage } from '../document/montage.ts';
import { marksInUse, pulse } from '../marks/in-use.ts';

/** How many bars a line of the score may hold. */
export const BARS_A_LINE = [1, 2, 4, 8, 16] as const;
export type BarsALine = (typeof BARS_A_LINE)[number];

/** One row of the score. Times are those of the pieces it was laid out for. */
export interface Line {
  readonly index: number;
  readonly from: number;
  readonly to: number;
  /** seconds that the whole width stands for; the last line may be shorter than that */
  readonly span: number;
  /** number of its first bar, counted from 1; 0 where there are no bars */
  readonly bar: number;
}

/** A line that would be shorter than this belongs to the one before: a song often ends a hair after its last bar, seconds. */
const SHORTEST_LINE_S = 0.1;
/** Without bars a line holds so many seconds a bar. */
const SECONDS_A_BAR = 2;

/**
 * Breaks a song into lines of so many bars. What lies before the first bar belongs to the first line when it is short,
 * else to a line of its own.
 * @param pieces the stretches of the song that are laid out, one after the other
 * @returns none where no stretch is laid out; seconds of those stretches, one after the other
 * @example
 * layLines(montage, montage.song.pieces, 4).map((line) => line.from) // [0, 8, 16]
 */
export function layLines(montage: Montage, pieces: readonly SongPiece[], barsALine: BarsALine): Line[] {
  const length = pieces.reduce((sum, p) => sum + p.to - p.from, 0);
  if (length <= 0) return [];
  const bars = pulse(montage)
    .filter((m) => m.kind === 'bar')
    .flatMap((m) => toMontageTime(pieces, m.time) ?? []);
  const starts: { time: number; bar: number }[] = [];
  if (bars.length < 2) {
    const span = SECONDS_A_BAR * barsALine;
    for (let t = 0; t < length - 1e-6; t += span) starts.push({ time: t, bar: 0 });
  } else {
    const typical = (bars.at(-1)! - bars[0]!) / (bars.length - 1);
    if (bars[0]! > 0.6 * typical) starts.push({ time: 0, bar: 0 });
    for (let i = 0; i < bars.length; i += barsALine)
      if (starts.length === 0) starts.push({ time: 0, bar: 1 });
      else if (length - bars[i]! > SHORTEST_LINE_S) starts.push({ time: bars[i]!, bar: i + 1 });
  }
  const spans = starts.map((s, i) => (starts[i + 1]?.time ?? length) - s.time);
  const middle = median(spans)!;
  return starts.map((s, i) => {
    const to = starts[i + 1]?.time ?? length;
    const short = i === starts.length - 1 || (i === 0 && s.bar === 0);
    return { index: i, from: s.time, to, span: short ? Math.max(to - s.time, middle) : to - s.time, bar: s.bar };
  });
}

/**
 * Bar and beat at a time of the song, counted from 1, or null before the first bar.
 * @param songTime seconds
 */
export function barAndBeat(montage: Montage, songTime: number): { bar: number; beat: number } | null {
  let bar = 0;
  let beat = 0;
  for (const m of pulse(montage)) {
    if (m.time > songTime + 1e-4) break;
    if (m.kind === 'bar') {
      bar++;
      beat = 1;
    } else if (bar > 0) beat++;
  }
  return bar > 0 ? { bar, beat } : null;
}

/**
 * The mark nearest to a song time among those wanted, within a reach in seconds.
 * @returns null where none lies within reach
 * @example
 * nearestMark(montage, 2.1, 0.2).time // 2
 */
export function nearestMark(montage: Montage, songTime: number, reach: number, wanted: (mark: Mark) => boolean = () => true): Mark | null {
  let best: Mark | null = null;
  for (const m of marksInUse(montage)) {
    const distance = Math.abs(m.time - songTime);
    if (distance <= reach && wanted(m) && (!best || distance < Math.abs(best.time - songTime))) best = m;
  }
  return best;
}
