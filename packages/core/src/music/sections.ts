import type { OnsetStrength } from './onset-strength.ts';

/** A stretch of one character, from its start (seconds) to the next one's. */
export interface HeardSection {
  readonly from: number;
  /** a letter, the same for sections that sound alike; names are the editor's */
  readonly name: string;
  /** how loud and deep it is among the song's sections, 0 to 1; absent where nobody listened */
  readonly energy?: number;
}

/** From here on a section is one of the song's loud ones. */
export const LOUD_SECTION = 0.68;
/** Of songs whose sections hardly differ, each has this energy. */
const EVEN_ENERGY = 0.5;
const LEAST_CONTRAST = 0.5;

const KERNEL_BARS = 4;
const SHORTEST_BARS = 4;

interface BarSound {
  readonly time: number;
  readonly loud: number;
  readonly bass: number;
  readonly features: number[];
}

function mean(values: Float32Array, from: number, to: number): number {
  let sum = 0;
  const a = Math.max(0, from);
  const b = Math.min(values.length, Math.max(to, from + 1));
  for (let i = a; i < b; i++) sum += values[i]!;
  return sum / Math.max(1, b - a);
}

function barSounds(onsets: OnsetStrength, barTimes: readonly number[], end: number): BarSound[] {
  const raw = barTimes.map((time, i) => {
    const from = Math.round(time * onsets.fps);
    const to = Math.round((barTimes[i + 1] ?? end) * onsets.fps);
    const loud = mean(onsets.energy, from, to);
    const bass = mean(onsets.lowEnergy, from, to);
    return {
      time,
      loud,
      bass,
      features: [loud, bass, mean(onsets.high, from, to), mean(onsets.mid, from, to), mean(onsets.low, from, to)],
    };
  });
  const width = raw[0]?.features.length ?? 0;
  for (let f = 0; f < width; f++) {
    const column = raw.map((bar) => bar.features[f]!);
    const centre = column.reduce((a, b) => a + b, 0) / column.length;
    const spread = Math.sqrt(column.reduce((a, b) => a + (b - centre) ** 2, 0) / column.length) || 1;
    raw.forEach((bar) => (bar.features[f] = (bar.features[f]! - centre) / spread));
  }
  return raw;
}

/** How alike two bars sound, 0 to 1. */
function likeness(a: BarSound, b: BarSound): number {
  let squares = 0;
  for (let i = 0; i < a.features.length; i++) squares += (a.features[i]! - b.features[i]!) ** 2;
  return Math.exp(-Math.sqrt(squares) / 2);
}

/** What two bars before and from a border on count in its novelty: more the nearer, and for it where they lie on the same side. */
function checkerboard(i: number, j: number): number {
  return (i < 0 === j < 0 ? 1 : -1) * Math.exp(-((i + 0.5) ** 2 + (j + 0.5) ** 2) / 12);
}

/** Checkerboard novelty along the bars' self-similarity (J. Foote, "Automatic audio segmentation using a measure of audio novelty", ICME 2000). */
function novelty(bars: readonly BarSound[]): number[] {
  // Each bar against those after it that a kernel can reach: all kernels share these.
  const later = bars.map((bar, at) => bars.slice(at, at + 2 * KERNEL_BARS).map((other) => likeness(bar, other)));
  const offsets = Array.from({ length: 2 * KERNEL_BARS }, (_, k) => k - KERNEL_BARS);
  const pairs = offsets.flatMap((i) => offsets.map((j) => ({ i: Math.min(i, j), apart: Math.abs(i - j), counts: checkerboard(i, j) })));
  return bars.map((_, at) => {
    let sum = 0;
    let weight = 0;
    for (const { i, apart, counts } of pairs) {
      const alike = later[at + i]?.[apart];
      if (alike === undefined) continue;
      sum += counts * alike;
      weight += Math.abs(counts);
    }
    return weight > 0 ? sum / weight : 0;
  });
}

/**
 * Sections from bar to bar: where the sound changes, by what music is heard in them, and how much energy they have.
 * @param barTimes downbeats, seconds
 * @param end length of the song, seconds
 * @param lettersOf gives a letter to each stretch, of which it is told the start and the end, seconds
 */
export function findSections(
  onsets: OnsetStrength,
  barTimes: readonly number[],
  end: number,
  lettersOf: (stretches: readonly (readonly [from: number, to: number])[]) => readonly string[],
): HeardSection[] {
  if (barTimes.length < 2 * SHORTEST_BARS) return [];
  const bars = barSounds(onsets, barTimes, end);
  const change = novelty(bars);
  const typical = [...change].sort((a, b) => a - b)[Math.floor(change.length * 0.6)]!;
  const ranked = change
    .map((value, bar) => ({ value, bar }))
    .filter(
      ({ value, bar }) =>
        bar >= 2 &&
        bar <= bars.length - 2 &&
        value > Math.max(0.05, typical) &&
        value >= (change[bar - 1] ?? 0) &&
        value >= (change[bar + 1] ?? 0),
    )
    .sort((a, b) => b.value - a.value);
  const starts = [0];
  for (const { bar } of ranked) if (starts.every((s) => Math.abs(s - bar) >= SHORTEST_BARS)) starts.push(bar);
  starts.sort((a, b) => a - b);

  const loudOf = (from: number, to: number): number =>
    bars.slice(from, to).reduce((a, b) => a + b.features[0]! + b.features[1]!, 0) / Math.max(1, to - from);
  const loudness = starts.map((from, i) => loudOf(from, starts[i + 1] ?? bars.length));
  const [top, bottom] = [Math.max(...loudness), Math.min(...loudness)];
  const energy = loudness.map((loud) => (top - bottom < LEAST_CONTRAST ? EVEN_ENERGY : (loud - bottom) / (top - bottom)));
  const times = starts.map((bar) => bars[bar]!.time);
  const letters = lettersOf(times.map((from, i) => [from, times[i + 1] ?? end]));
  return times.map((from, i) => ({ from, name: letters[i]!, energy: Math.round(100 * energy[i]!) / 100 }));
}

/** Where energy and bass come back at once: the starts of loud sections after something quieter, seconds. */
export function findDrops(sections: readonly HeardSection[]): number[] {
  const isLoud = ({ energy = 0 }: HeardSection): boolean => energy >= LOUD_SECTION;
  return sections.filter((s, i) => i > 0 && isLoud(s) && !isLoud(sections[i - 1]!)).map((s) => s.from);
}
