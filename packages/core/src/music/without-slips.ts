import { gapsOf } from './beat-lengths.ts';
import { oddsOf } from './heard-odds.ts';
import { median } from './median.ts';

const { abs, log, max, sqrt } = Math;

/** Beats on each side of a slip by which the song is found to be steady there. */
const SIDE = 12;
/** A slip is over within so many beats: a player who slows down and goes on takes longer. */
const SLIP_BEATS = 4;
/** What counts as a slip. */
interface Strictness {
  /** how much of a beat is gained or lost, as far from a half at the most */
  readonly half: number;
  /** the gaps just before and after are as long as the others, up to this part */
  readonly flank: number;
  /** how far the beats on each side lie from where they would be if all were equal, root of the mean square, as a part of a beat */
  readonly steady: number;
}
const CLEAR: Strictness = { half: 0.12, flank: 0.045, steady: 0.022 };
/** In a song that slips once, what looks much like it is another. */
const LIKELY: Strictness = { half: 0.16, flank: 0.08, steady: 0.04 };
/** A gap that is so much longer or shorter than those around it is none of theirs. */
const OTHER_GAP = 0.035;
/** How far from each other the tempi on both sides of a slip may be, natural logarithm. */
const SAME_TEMPO = 0.06;

/** How unequal the beats of a stretch are, as a part of a beat: how far they lie from a straight line. */
function unevenness(beats: readonly number[]): number {
  const middle = (beats.length - 1) / 2;
  const mean = beats.reduce((a, b) => a + b, 0) / beats.length;
  let [moment, squares] = [0, 0];
  for (const [i, beat] of beats.entries()) {
    moment += (i - middle) * (beat - mean);
    squares += (i - middle) ** 2;
  }
  const length = moment / squares;
  return sqrt(beats.reduce((sum, beat, i) => sum + (beat - mean - length * (i - middle)) ** 2, 0) / beats.length) / length;
}

/** The beats of a song, the gaps between them, and how long the gaps from each one on are in the middle. */
interface Counted {
  readonly beats: readonly number[];
  readonly gaps: readonly number[];
  readonly usualFrom: readonly number[];
}

function counted(beats: readonly number[]): Counted {
  const gaps = gapsOf(beats);
  return { beats, gaps, usualFrom: gaps.map((gap, i) => median(gaps.slice(i, i + SIDE)) ?? gap) };
}

/** Whether half a beat is gained or lost within the few gaps from one on, in the middle of music that is steady before and after. */
function slips({ beats, gaps, usualFrom }: Counted, at: number, { half, flank, steady }: Strictness): boolean {
  const [before, after] = [usualFrom[at - SIDE]!, usualFrom[at + SLIP_BEATS]!];
  if (abs(log(after / before)) > SAME_TEMPO) return false;
  const usual = sqrt(before * after);
  const within = gaps.slice(at, at + SLIP_BEATS).map((gap) => gap / usual - 1);
  if (abs(within[0]!) < OTHER_GAP) return false;
  if ([gaps[at - 1]!, gaps[at + SLIP_BEATS]!].some((gap) => abs(gap / usual - 1) > flank)) return false;
  const gained = abs(within.reduce((sum, part) => sum + part, 0)) % 1;
  if (abs(gained - 0.5) > half) return false;
  return (
    unevenness(beats.slice(at - SIDE, at + 1)) < steady && unevenness(beats.slice(at + SLIP_BEATS, at + SLIP_BEATS + SIDE + 1)) < steady
  );
}

/** Where beats slip: indices of the last beat before each. */
function slipsOf(song: Counted, how: Strictness): number[] {
  const found: number[] = [];
  for (let i = SIDE; i + SLIP_BEATS + SIDE <= song.gaps.length; i++)
    if (slips(song, i, how)) {
      found.push(i);
      i += SLIP_BEATS + SIDE - 1;
    }
  return found;
}

/** The off-beats of a stretch in place of its beats, from the first beat on to just before the last. */
const offBeats = (beats: readonly number[]): number[] => gapsOf(beats).map((gap, i) => beats[i]! + gap / 2);

/**
 * Beats of a song without slips onto the off-beat. Music that is steady does not lose half a beat from one bar to the next; where the
 * likeliest beats do, what changed is whether beats or off-beats are heard best. Of the two ways to count on without a slip, that one is
 * meant which is heard best over the whole song.
 * @param beats seconds, rising; a way to count the song
 * @param chance of a beat, 0 to 1, one a frame
 * @param fps frames a second of the chances
 * @returns the same beats where none slips
 */
export function withoutSlips(beats: readonly number[], chance: Float32Array, fps: number): readonly number[] {
  const song = counted(beats);
  if (slipsOf(song, CLEAR).length === 0) return beats;
  const found = slipsOf(song, LIKELY);
  const heard = oddsOf(chance, fps);
  const edges = [0, ...found, beats.length - 1];
  const stretches = edges.slice(1).map((to, i) => beats.slice(edges[i] === 0 ? 0 : edges[i]! + SLIP_BEATS, to + 1));
  const ways = [0, 1].map((first) => stretches.map((stretch, i) => (i % 2 === first ? stretch : offBeats(stretch))));
  const [kept, moved] = ways.map((way) => heard(way.flat()));
  return joined(ways[kept! >= moved! ? 0 : 1]!);
}

/** Stretches one after another, with the beats between them that are missing. */
function joined(stretches: readonly (readonly number[])[]): number[] {
  return stretches.reduce<number[]>((all, stretch) => {
    const [last, next] = [all.at(-1), stretch[0]];
    if (last === undefined || next === undefined) return [...all, ...stretch];
    const usual = (last - all.at(-1 - SLIP_BEATS)! + (stretch[SLIP_BEATS]! - next)) / (2 * SLIP_BEATS);
    const missing = Math.round((next - last) / usual) - 1;
    const between = Array.from({ length: max(0, missing) }, (_, i) => last + ((i + 1) * (next - last)) / (missing + 1));
    return [...all, ...between, ...stretch];
  }, []);
}
