import { MARKS, type MarkKind } from './kinds/all.ts';
import { byId } from '../lists/by-id.ts';
import { CommandError } from '../document/command-error.ts';
import type { Mark, Montage, Span } from '../document/montage.ts';
import { firstFrom } from '../lists/first-from.ts';
import type { Range } from '../time/range.ts';

/** Marks of a kind closer than this are the same one, seconds. */
export const SAME_MARK_S = 0.06;
/** How far a peg looks for a new mark when its own is replaced, seconds. */
const PEG_REACH_S = 0.12;

/** What names a mark, and where it was. */
interface Moment {
  readonly markId: string | null;
  readonly time: number;
}

export type FreshMark = Omit<Mark, 'id'>;

const timeOf = (mark: Mark): number => mark.time;

/** The marks in order of time; the list itself where it is in order, as it is after most edits. */
function inOrder(marks: readonly Mark[]): readonly Mark[] {
  for (let i = 1; i < marks.length; i++) if (marks[i - 1]!.time > marks[i]!.time) return [...marks].sort((a, b) => a.time - b.time);
  return marks;
}

/**
 * The montage with other marks. Pegs and all that dresses the montage whose mark is gone move to the nearest of the new ones; where none
 * is near they stay where they were, at a time, so no cut is lost.
 */
export function withMarks(montage: Montage, marks: readonly Mark[], lastId = montage.lastId): Montage {
  const sorted = inOrder(marks);
  const there = byId(sorted, (m) => m.id);
  const old = byId(montage.marks, (m) => m.id);
  const taken = new Set<string>();
  for (const { markId } of montage.pegs) if (markId !== null && there.has(markId)) taken.add(markId);
  const kept = ({ markId }: Moment): boolean => markId === null || there.has(markId);
  /** The moment that takes the place of one whose mark is gone. */
  const heir = (moment: Moment, free: (mark: Mark) => boolean): Moment => {
    const gone = old.get(moment.markId!);
    const time = gone?.time ?? moment.time;
    // A cut on a beat is meant for a beat, not for the accent beside it.
    const kind = gone?.kind ?? 'beat';
    let nearest: Mark | null = null;
    for (let i = firstFrom(sorted, timeOf, time - PEG_REACH_S); i < sorted.length && sorted[i]!.time <= time + PEG_REACH_S; i++) {
      const m = sorted[i]!;
      if (!free(m) || !sameFamily(m.kind, kind)) continue;
      if (!nearest || Math.abs(m.time - time) < Math.abs(nearest.time - time)) nearest = m;
    }
    return { markId: nearest?.id ?? null, time: nearest?.time ?? time };
  };
  const pegs = montage.pegs.map((peg) => {
    if (kept(peg)) return peg;
    const place = heir(peg, (m) => !taken.has(m.id));
    if (place.markId !== null) taken.add(place.markId);
    return { ...peg, ...place };
  });
  const effects = montage.effects.map((e) =>
    e.on.kind !== 'moment' || kept(e.on) ? e : { ...e, on: { ...e.on, ...heir(e.on, () => true) } },
  );
  const stays = (moment: Moment): Moment => (kept(moment) ? moment : heir(moment, () => true));
  const stay = <T extends { readonly from: Moment | null; readonly to: Moment | null }>(ends: T): T => {
    const [from, to] = [ends.from && stays(ends.from), ends.to && stays(ends.to)];
    return from === ends.from && to === ends.to ? ends : { ...ends, from, to };
  };
  const titles = montage.titles.map((t) => {
    const { from, until } = t;
    const ends = until === undefined || until === 'cut' || kept(until);
    if (kept(from) && ends) return t;
    return { ...t, from: stays(from), ...(ends ? {} : { until: stays(until) }) };
  });
  const spanned = <T extends { readonly span?: Span | undefined }>(things: readonly T[]): readonly T[] =>
    things.map((thing) => {
      const span = thing.span && stay(thing.span);
      return span === thing.span ? thing : { ...thing, span };
    });
  const shots = montage.shots.map((s) => (s.moves ? { ...s, moves: s.moves.map(stay) } : s));
  return {
    ...montage,
    marks: sorted,
    pegs,
    effects,
    titles,
    shots,
    looks: spanned(montage.looks),
    fades: spanned(montage.fades),
    letterboxes: spanned(montage.letterboxes),
    levels: montage.levels.map((level) => (kept(level.at) ? level : { ...level, at: stays(level.at) })),
    lastId,
  };
}

/** Gives ids to new marks, following on from the montage's last. */
export function named(montage: Montage, fresh: readonly FreshMark[]): { marks: Mark[]; lastId: number } {
  let lastId = montage.lastId;
  return { marks: fresh.map((m) => ({ ...m, id: `m${++lastId}` })), lastId };
}

/** The song's length, seconds; a sentence where there is no song. */
export function songLength(montage: Montage): number {
  if (!montage.song) throw new CommandError('There is no song to mark. Choose one first.');
  return montage.song.length;
}

export const isPulse = (m: { kind: MarkKind }): boolean => MARKS[m.kind].counts;

/** Whether two kinds stand for the same thing: a bar is a beat too. */
export function sameFamily(a: MarkKind, b: MarkKind): boolean {
  return a === b || (isPulse({ kind: a }) && isPulse({ kind: b }));
}

export const inside = (range: Partial<Range>, time: number): boolean =>
  time >= (range.from ?? -Infinity) - 1e-6 && time <= (range.to ?? Infinity) + 1e-6;

/** Replaces the beats and bars of a range. Locked ones stay, and nothing new comes to lie on them. */
export function replacePulse(montage: Montage, fresh: readonly FreshMark[], range: Partial<Range> = {}): Montage {
  const kept = montage.marks.filter((m) => !isPulse(m) || m.locked || !inside(range, m.time));
  return addFresh(montage, kept, fresh);
}

/** Adds marks to those that are kept, except where one of the same family lies already. */
export function addFresh(montage: Montage, kept: readonly Mark[], fresh: readonly FreshMark[]): Montage {
  const there = inOrder(kept.filter((m) => m.kind !== 'accent'));
  const liesOn = (f: FreshMark): boolean => {
    for (let i = firstFrom(there, timeOf, f.time - SAME_MARK_S); i < there.length && there[i]!.time < f.time + SAME_MARK_S; i++)
      if (sameFamily(there[i]!.kind, f.kind) && Math.abs(there[i]!.time - f.time) < SAME_MARK_S) return true;
    return false;
  };
  const free = fresh.filter((f) => f.kind === 'accent' || !liesOn(f));
  const { marks, lastId } = named(montage, free);
  return withMarks(montage, [...kept, ...marks], lastId);
}

/** The mark of an id; a sentence where it is gone. */
export function markOf(montage: Montage, id: string): Mark {
  const found = byId(montage.marks, (m) => m.id).get(id);
  if (!found) throw new CommandError('That mark is no longer there.');
  return found;
}

/** The marks of some ids that may be changed. */
export function changeable(montage: Montage, ids: readonly string[]): Set<string> {
  const wanted = new Set(ids);
  const found = montage.marks.filter((m) => wanted.has(m.id));
  const free = found.filter((m) => !m.locked);
  if (found.length > 0 && free.length === 0)
    throw new CommandError(found.length === 1 ? 'This mark is locked. Unlock it first.' : 'These marks are locked. Unlock them first.');
  return new Set(free.map((m) => m.id));
}
