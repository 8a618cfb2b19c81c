import { Refusal } from '../refusal/refusal.ts';
import { LOUD_SECTION } from './sections.ts';
import { SHORTEST_ARRANGED_S, type SongPiece } from './arrangement.ts';
import type { HeardSong } from './heard-song.ts';
import type { DetectedBeat } from './placed-beats.ts';
import { CONTEXT_BEATS, joinLikeness, rhythmLikeness, soundOfBeats } from './join-likeness.ts';

/** A place where the song jumps: out of it at one beat and into it at a later one. Seconds. */
export interface Join {
  readonly out: number;
  readonly into: number;
  /** how alike the music before and after is, 0 to 1 */
  readonly likeness: number;
}

/** A way to shorten a song. */
export interface Proposal {
  readonly pieces: readonly SongPiece[];
  readonly joins: readonly Join[];
  /** seconds */
  readonly length: number;
  /** 0 to 1: how well its joins match and how strong its start is */
  readonly rating: number;
  /** what it begins with, in words */
  readonly start: string;
}

/** What is known of the song that is to be shortened. */
export interface SongMap {
  readonly beats: readonly { readonly time: number; readonly bar: boolean }[];
  readonly sections: readonly { readonly from: number; readonly name: string; readonly energy?: number }[];
  readonly drops: readonly number[];
  readonly length: number;
}

/** Raised when a song cannot be shortened as asked; the message says why. */
export class ShorteningError extends Refusal {}

const { abs, max, min } = Math;
const MOST_JOINS = 3;
/** What each join costs, however well it matches: fewer are better. */
const JOIN_COST = 0.16;
/** Between joins there must be some music, beats. */
const SHORTEST_PIECE_BEATS = 8;
/** From each place, so many of the likeliest are looked at more closely. */
const LINKS_EACH = 24;
/** What a join is still worth, of 1, where only its harmony and loudness match. */
const RHYTHM_FLOOR = 0.7;
/** The result may miss the wished length by this part of it. */
const LENGTH_TOLERANCE = 0.06;

/** Marked beats go on across a join as exactly as this, seconds: less than is heard as a stumble. */
const MOST_SHIFT_S = 0.014;
/** Beats on each side from which it is told where one of them should be. */
const FITTED_BEATS = 3;

/**
 * By how much a beat is marked later than the beats around it say, seconds: the rest of a straight line laid through them.
 * A single beat is marked where one player played it; what goes on across a join should be what all of them keep to.
 */
function lateness(beats: SongMap['beats'], at: number): number {
  let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  for (let k = -FITTED_BEATS; k <= FITTED_BEATS; k++) {
    const beat = beats[at + k];
    if (!beat) continue;
    const y = beat.time - beats[at]!.time;
    n++;
    sx += k;
    sy += y;
    sxx += k * k;
    sxy += k * y;
  }
  const slope = (n * sxy - sx * sy) / (n * sxx - sx * sx);
  return -(sy - slope * sx) / n;
}

/** Moments that a shortened song may begin with: bar lines, with what they are and how strong they are, 0 to 1. */
function startsOf(map: SongMap, bars: readonly number[]): { beat: number; what: string; strength: number }[] {
  const starts = [{ beat: 0, what: 'from the start', strength: 0.75 }];
  const barNear = (time: number): number =>
    bars.reduce((best, b) => (abs(map.beats[b]!.time - time) < abs(map.beats[best]!.time - time) ? b : best), bars[0]!);
  for (const [i, section] of map.sections.entries()) {
    if (i === 0) continue;
    const loud = (s: SongMap['sections'][number] | undefined): boolean => (s?.energy ?? 0) >= LOUD_SECTION;
    // Strongest where a loud one begins, or what leads up to it.
    const strength = loud(section) ? 0.9 : loud(map.sections[i + 1]) ? 0.85 : 0.5 + 0.25 * (section.energy ?? 0.5);
    starts.push({
      beat: barNear(section.from),
      what: `${section.name} at ${Math.floor(section.from / 60)}:${String(Math.floor(section.from % 60)).padStart(2, '0')}`,
      strength,
    });
  }
  for (const drop of map.drops) {
    const at = bars.indexOf(barNear(drop));
    if (at >= 4) starts.push({ beat: bars[at - 4]!, what: 'four bars before the drop', strength: 1 });
  }
  const seen = new Set<number>();
  return starts.filter((s) => !seen.has(s.beat) && seen.add(s.beat));
}

/** From one beat to another: which, and how well the song goes on there. */
interface Link {
  readonly j: number;
  readonly likeness: number;
}

/** One step of the search: at a beat, after so many joins. */
interface Path {
  readonly cost: number;
  readonly joins: readonly (Link & { readonly i: number })[];
}

/**
 * Ways to bring a song to a wished length: each starts on a strong moment, keeps the song's ending, and jumps forward at
 * most three times, always from a beat to one at the same place of its bar where the music before and after is alike in
 * harmony and loudness (after S. Wenger and M. Magnor, "Constrained example-based audio synthesis", ICME 2011).
 * @param wished seconds
 * @throws ShorteningError where the song has no beats or is not longer than wished
 */
export function shorten(heard: HeardSong, map: SongMap, wished: number, most = 5): Proposal[] {
  const { beats } = map;
  if (!(wished >= SHORTEST_ARRANGED_S)) throw new ShorteningError(`The shortest that a song is made is ${SHORTEST_ARRANGED_S} s.`);
  if (wished >= map.length) throw new ShorteningError(`The song is ${map.length.toFixed(1)} s long already. Wish for less.`);
  const bars = beats.flatMap((b, i) => (b.bar ? [i] : []));
  if (bars.length < 8)
    throw new ShorteningError('Shortening joins the song at its bars, and there are too few of them. Mark its bars first.');
  const sounds = soundOfBeats(
    heard.onsets,
    beats.map((b) => b.time),
  );
  const placeInBar = beats.map((_, i) => i - (bars.findLast((b) => b <= i) ?? i));
  // Jumps are looked for on bar lines and in the middle of bars: those are heard least.
  const barBeats = (i: number): number => (bars[bars.findIndex((b) => b > i)] ?? i + 4) - (bars.findLast((b) => b <= i) ?? i);
  const doors = beats.flatMap((_, i) => (i >= CONTEXT_BEATS && placeInBar[i] === 0 ? [i] : []));
  const links = new Map<number, Link[]>();
  for (const i of doors) {
    const list = doors
      .filter((j) => j > i + 1 && placeInBar[j] === placeInBar[i] && barBeats(j) === barBeats(i))
      .map((j) => ({ j, likeness: joinLikeness(sounds, i, j) }))
      .sort((a, b) => b.likeness - a.likeness)
      .slice(0, LINKS_EACH);
    const beat = (beats[i + 1] ?? beats[i]!).time - beats[i]!.time || 0.5;
    links.set(
      i,
      list.flatMap(({ j, likeness }): Link[] => {
        const rhythm = rhythmLikeness(heard.onsets, beats[i]!.time, beats[j]!.time, beat);
        return rhythm === null ? [] : [{ j, likeness: likeness * (RHYTHM_FLOOR + (1 - RHYTHM_FLOOR) * rhythm) }];
      }),
    );
  }
  const proposals: Proposal[] = [];
  for (const start of startsOf(map, bars)) {
    const from = start.beat === 0 ? 0 : beats[start.beat]!.time;
    const excess = map.length - from - wished;
    if (excess < -LENGTH_TOLERANCE * wished) continue;
    for (const path of pathsFrom(start.beat, excess, wished, map, doors, links)) {
      const joins = path.joins.map(({ i, j, likeness }): Join => {
        const late = max(-MOST_SHIFT_S, min(MOST_SHIFT_S, lateness(beats, i) - lateness(beats, j)));
        // Of the two beats that become one, the first is left out and the second stays.
        return { out: beats[i]!.time - max(0, late), into: beats[j]!.time + min(0, late), likeness };
      });
      const pieces = piecesOf(from, joins, map.length);
      const length = pieces.reduce((sum, p) => sum + p.to - p.from, 0);
      const worst = joins.reduce((m, join) => min(m, join.likeness), 1);
      const fits = max(0, 1 - abs(length - wished) / (0.2 * wished));
      const rating = max(0, min(1, 0.55 * worst + 0.25 * start.strength + 0.2 * fits - 0.05 * (joins.length - 1)));
      proposals.push({ pieces, joins, length, rating, start: start.what });
    }
  }
  if (proposals.length === 0)
    throw new ShorteningError('No way was found that can be heard without a break. Wish for another length, or set in and out by hand.');
  return varied(
    proposals.sort((a, b) => b.rating - a.rating),
    most,
  );
}

/** The cheapest ways from a start to the song's end that leave out about so much. */
function pathsFrom(
  startBeat: number,
  excess: number,
  wished: number,
  map: SongMap,
  doors: readonly number[],
  links: ReadonlyMap<number, readonly Link[]>,
): Path[] {
  const { beats } = map;
  const tolerance = LENGTH_TOLERANCE * wished;
  if (abs(excess) <= tolerance) return [{ cost: 0, joins: [] }];
  const skip = (i: number, j: number): number => beats[j]!.time - beats[i]!.time;
  const found: Path[] = [];
  const search = (at: number, left: number, joins: Path['joins'], cost: number): void => {
    for (const i of doors) {
      if (i < at + SHORTEST_PIECE_BEATS) continue;
      for (const { j, likeness } of links.get(i) ?? []) {
        const rest = left - skip(i, j);
        const now = cost + JOIN_COST + (1 - likeness);
        if (found.length > 0 && now > found[0]!.cost + 0.5) continue;
        if (abs(rest) <= tolerance) {
          found.push({ cost: now + abs(rest) / wished, joins: [...joins, { i, j, likeness }] });
          found.sort((a, b) => a.cost - b.cost);
          found.length = min(found.length, 4);
        } else if (rest > tolerance && joins.length + 1 < MOST_JOINS && likeness > 0.55 && beats.length - j > SHORTEST_PIECE_BEATS)
          search(j, rest, [...joins, { i, j, likeness }], now);
      }
    }
  };
  search(startBeat, excess, [], 0);
  return found.slice(0, 2);
}

function piecesOf(from: number, joins: readonly Join[], end: number): SongPiece[] {
  const starts = [from, ...joins.map((j) => j.into)];
  const ends = [...joins.map((j) => j.out), end];
  return starts.map((s, i) => ({ from: s, to: ends[i]! }));
}

/** The best of those that differ from one another by more than a second somewhere. */
function varied(sorted: readonly Proposal[], most: number): Proposal[] {
  const kept: Proposal[] = [];
  for (const p of sorted) {
    const same = kept.some(
      (k) =>
        k.pieces.length === p.pieces.length &&
        k.pieces.every((piece, i) => abs(piece.from - p.pieces[i]!.from) < 1 && abs(piece.to - p.pieces[i]!.to) < 1),
    );
    if (!same) kept.push(p);
    if (kept.length === most) break;
  }
  return kept;
}

/** What is known of a song that was just detected. */
export function mapOf(detection: {
  readonly beats: readonly DetectedBeat[];
  readonly sections: SongMap['sections'];
  readonly drops: readonly number[];
  readonly length: number;
}): SongMap {
  return { ...detection, beats: detection.beats.map((b) => ({ time: b.time, bar: b.downbeat })) };
}

/**
 * A join moved by whole bars: its outs and ins move together, so that what is left out stays as long and the grid goes on.
 * @param bars how many bars later, negative earlier
 * @returns the moved pieces, or null where the song has no such bars
 * @param barTimes where bars start, song seconds, rising
 */
export function moveJoin(pieces: readonly SongPiece[], join: number, bars: number, barTimes: readonly number[]): SongPiece[] | null {
  const [before, after] = [pieces[join], pieces[join + 1]];
  if (!before || !after) return null;
  const moved = (time: number): number | undefined => {
    const at = barTimes.reduce((best, t, i) => (abs(t - time) < abs(barTimes[best]! - time) ? i : best), 0);
    return barTimes[at + bars];
  };
  const [to, from] = [moved(before.to), moved(after.from)];
  if (to === undefined || from === undefined || to <= before.from + 0.5 || from >= after.to - 0.5 || from < to) return null;
  return pieces.map((p, i) => (i === join ? { ...p, to } : i === join + 1 ? { ...p, from } : p));
}
