import { Refusal } from '../refusal/refusal.ts';
import { findBars } from './bars.ts';
import { beatLengthOf } from './beat-lengths.ts';
import { median } from './median.ts';
import { downbeatEvidence } from './downbeat-evidence.ts';
import { steadyBeats } from './steady-beats.ts';
import { trackBeats } from './track-beats.ts';
import type { HeardSong } from './heard-song.ts';
import { placedBeats, type DetectedBeat } from './placed-beats.ts';
import { cleanTaps, type Tap } from './taps.ts';

/** What the taps taught: beats of the whole song, and the beats in a bar. */
export interface Lesson {
  readonly beats: readonly DetectedBeat[];
  readonly metre: number;
}

/** Raised when taps say too little; the message tells what is missing. */
export class LessonError extends Refusal {}

const FEWEST_TAPS = 4;
/** How far the song's tempo may be from the taps', as a factor: enough for songs that speed up, too little for half or double. */
const WITHIN = 1.3;
/** A phase smaller than this part of a beat is only lateness. */
const SAME_PHASE = 0.17;

/**
 * The tapped beat's length, seconds: the middle of the gaps, where a gap of two or three beats counts as that many.
 * @throws LessonError where the taps are too few
 */
export function tappedBeat(taps: readonly number[]): number {
  const gaps = taps.slice(1).map((t, i) => t - taps[i]!);
  if (taps.length < FEWEST_TAPS)
    throw new LessonError(`Four beats in a row are needed to teach the tempo; there are ${taps.length}. Tap some more.`);
  const typical = median(gaps)!;
  const single = gaps.map((gap) => gap / Math.max(1, Math.round(gap / typical)));
  return single.reduce((a, b) => a + b, 0) / single.length;
}

/** Where times lie between beats, as the mean direction on a circle: part of a beat from -0.5 to 0.5. */
function phaseOf(times: readonly number[], beats: readonly number[]): number {
  let x = 0;
  let y = 0;
  for (const time of times) {
    const i = beats.findLastIndex((b) => b <= time);
    const from = beats[i] ?? beats[0]! - (beats[1]! - beats[0]!);
    const to = beats[i + 1] ?? from + (beats.at(-1)! - beats.at(-2)!);
    const angle = (2 * Math.PI * (time - from)) / (to - from);
    x += Math.cos(angle);
    y += Math.sin(angle);
  }
  return Math.atan2(y, x) / (2 * Math.PI);
}

/** Beats moved on by a part of the beat that they stand in. */
function shifted(beats: readonly number[], by: number): number[] {
  const moved = beats.map((b, i) => {
    const gap = i + 1 < beats.length ? beats[i + 1]! - b : b - beats[i - 1]!;
    return b + by * gap;
  });
  // Moving on leaves room for one more at the start, moving back for one at the end.
  const gap = beats[1]! - beats[0]!;
  if (by > 0 && moved[0]! - gap >= 0) moved.unshift(moved[0]! - gap);
  return moved.filter((t) => t >= 0);
}

/** Ways that a tapped tempo may stand to the one that was heard: parts of a heard beat, and how many of them make a tapped one. */
const RATIOS: readonly (readonly [parts: number, taken: number])[] = [
  [1, 1],
  [1, 2],
  [2, 1],
  [1, 3],
  [3, 1],
  [1, 4],
  [4, 1],
  [2, 3],
  [3, 2],
];
/** How near the tapped tempo must be to such a ratio, natural logarithm. */
const RATIO_REACH = 0.12;

/**
 * The heard beats brought to the level that was tapped: divided, and taken every so many from where the taps lie. The
 * heard beats hold together over the whole song, so what the taps say at one place holds everywhere.
 * @returns null where the tapped tempo is in no simple ratio to the heard one
 */
function broughtToLevel(natural: readonly number[], taps: readonly number[], own: number): number[] | null {
  const near = natural.slice(1).flatMap((b, i) => (b > taps[0]! - 2 && natural[i]! < taps.at(-1)! + 2 ? [b - natural[i]!] : []));
  if (near.length < 2) return null;
  const heard = median(near)!;
  const off = ([parts, taken]: readonly [number, number]): number => Math.abs(Math.log((heard * taken) / parts / own));
  const best = RATIOS.reduce((a, b) => (off(b) < off(a) ? b : a));
  if (off(best) > RATIO_REACH) return null;
  const [parts, taken] = best;
  const fine = natural.flatMap((b, i) => {
    const gap = i + 1 < natural.length ? natural[i + 1]! - b : b - natural[i - 1]!;
    return Array.from({ length: parts }, (_, k) => b + (gap * k) / parts);
  });
  const votes = new Array<number>(taken).fill(0);
  for (const tap of taps) votes[nearest(fine, tap) % taken]!++;
  const start = votes.indexOf(Math.max(...votes));
  return fine.filter((_, i) => i % taken === start);
}

const nearest = (times: readonly number[], time: number): number =>
  times.reduce((best, t, i) => (Math.abs(t - time) < Math.abs(times[best]! - time) ? i : best), 0);

/**
 * Lets taps teach detection: they choose the tempo's level, the phase and where bars start; the song itself says where
 * each beat is, over its whole length.
 * @param taps song seconds, lateness taken off; beats and bars count, others do not
 * @throws LessonError where the taps say too little
 */
export function teach(heard: HeardSong, taps: readonly Tap[]): Lesson {
  const counted = cleanTaps(
    taps.filter((t) => t.kind === 'beat' || t.kind === 'bar'),
    (kind) => (kind === 'bar' ? 1 : 0),
  );
  const beatTaps = counted.map((t) => t.time);
  const bars = counted.filter((t) => t.kind === 'bar').map((t) => t.time);
  // Too few beats for a tempo, but the start of a bar: it teaches bars, and the beats within them stay what they were heard as.
  const onlyBars = bars.length > 0 && (bars.length === counted.length || counted.length < FEWEST_TAPS);
  if (counted.length === 0) throw new LessonError('Tap four beats, or the start of a bar, for the song to learn from.');
  const own = onlyBars ? null : tappedBeat(beatTaps);
  const { chances, onsets } = heard;
  const natural = steadyBeats(trackBeats(chances.beat, onsets.pulseFps), chances.beat, onsets.pulseFps);
  const tracked =
    own === null
      ? natural
      : (broughtToLevel(natural, beatTaps, own) ?? trackBeats(chances.beat, onsets.pulseFps, { bpm: 60 / own, within: WITHIN }));
  if (tracked.length < 2) throw new LessonError('Nothing in this song can be brought together with these taps. Take them as tapped.');
  const phase = onlyBars ? 0 : phaseOf(beatTaps, tracked);
  const beats = Math.abs(phase) > SAME_PHASE ? shifted(tracked, phase) : [...tracked];

  const evidence = downbeatEvidence(heard, beats);
  const starts = bars.map((t) => nearest(beats, t));
  const counts = starts.slice(1).map((s, i) => s - starts[i]!);
  const metre = median(counts.filter((c) => c >= 2 && c <= 12));
  const grid = findBars(evidence, beatLengthOf(beats), metre);
  let { downbeats } = grid;
  if (starts.length > 0) {
    // The evidence may lie some beats beside the taught bars; it keeps its count and moves over as a whole.
    const off = starts.map((s) => {
      const near = downbeats.reduce((best, d) => (Math.abs(d - s) < Math.abs(best - s) ? d : best), downbeats[0] ?? s);
      return s - near;
    });
    const by = median(off)!;
    downbeats = downbeats.map((d) => d + by).filter((d) => d >= 0 && d < beats.length);
    for (let d = (downbeats[0] ?? starts[0]!) - grid.metre; d >= 0; d -= grid.metre) downbeats = [d, ...downbeats];
  }
  return { beats: placedBeats(heard, beats, downbeats), metre: grid.metre };
}
