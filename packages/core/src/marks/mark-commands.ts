import { median } from '../music/median.ts';
import { MARKS, type MarkKind } from './kinds/all.ts';
import { cleanTaps, type Tap } from '../music/taps.ts';
import { CommandError } from '../document/command-error.ts';
import type { AccentFloor, Mark, Montage } from '../document/montage.ts';
import {
  addFresh,
  changeable,
  isPulse,
  markOf,
  named,
  SAME_MARK_S,
  sameFamily,
  songLength,
  withMarks,
  type FreshMark,
} from './mark-list.ts';
import { withSections } from '../song/sections.ts';
import { command } from '../document/command.ts';
import type { Detection } from '../music/detect.ts';
import type { Reading } from '../music/readings.ts';
import type { Marking } from './marking.ts';

/** A tap that becomes a mark. */
export type MarkTap = Tap<MarkKind>;

/** How far from a bar that is replaced the beat may be tapped that goes on being it: of the tapped beats' spacing, and of one alone, seconds. */
const BAR_REACH = 0.45;
const BAR_REACH_ALONE_S = 0.12;

/**
 * The tapped beats that become bars, since they take the place of bars: whoever taps beats counts on in the bars that are
 * there. None where bars were tapped as well.
 */
function barsTakenOver(montage: Montage, kept: readonly Mark[], tapped: readonly MarkTap[]): Set<MarkTap> {
  if (tapped.some((t) => t.kind === 'bar')) return new Set();
  const stays = new Set(kept);
  const gone = montage.marks.filter((m) => m.kind === 'bar' && !stays.has(m));
  const spacing = median(tapped.slice(1).map((t, i) => t.time - tapped[i]!.time));
  const reach = spacing === undefined ? BAR_REACH_ALONE_S : BAR_REACH * spacing;
  return new Set(
    gone.flatMap((bar) => {
      const far = (t: MarkTap): number => Math.abs(t.time - bar.time);
      const nearest = tapped.reduce((a, b) => (far(b) < far(a) ? b : a));
      return far(nearest) <= reach ? [nearest] : [];
    }),
  );
}

/** Cues have words of so many letters. */
export const LONGEST_LABEL = 200;

/** Marks that are moved together keep their distances: none may come to lie outside the song, where it would have to be pushed back. */
function refuseOutside(marks: readonly Mark[], by: number, length: number): void {
  const outside = marks.filter((m) => m.time + by < 0 || m.time + by > length).length;
  if (outside === 0) return;
  const which = by < 0 ? 'before the song begins' : 'after the song ends';
  throw new CommandError(
    `${outside} of ${marks.length} marks would lie ${which}. Move them by less, or delete ${outside === 1 ? 'that one' : 'those'} first.`,
  );
}

/** The marks of a reading: its beats and bars, and the drops that its sections make. */
const marksOf = ({ beats, drops }: Pick<Reading, 'beats' | 'drops'>): FreshMark[] => [
  ...beats.map((b): FreshMark => ({ kind: b.downbeat ? 'bar' : 'beat', time: b.time, origin: 'detected', confidence: b.confidence })),
  ...drops.map((time): FreshMark => ({ kind: 'drop', time, origin: 'detected' })),
];

/** Fresh marks of a reading beside those that are kept, with its metre and sections. */
function asRead(montage: Montage, kept: readonly Mark[], fresh: readonly FreshMark[], { metre, sections }: Reading | Detection): Montage {
  const next = addFresh(montage, kept, fresh);
  return withSections({ ...next, song: { ...next.song!, metre } }, sections);
}

export const markCommands = {
  takeDetection: command<{ detection: Detection }>('Mark the detected beats', (montage, { detection }) => {
    songLength(montage);
    const fresh: FreshMark[] = [
      ...marksOf(detection),
      ...detection.accents.map(({ time, band, strength }): FreshMark => ({ kind: 'accent', time, origin: 'detected', band, strength })),
    ];
    // What was locked, and what was tapped or set by hand for other ends than counting time, stays.
    const kept = montage.marks.filter((m) => m.locked || (!isPulse(m) && m.origin !== 'detected'));
    return asRead(montage, kept, fresh, detection);
  }),

  /** another reading of the song in the place of the one that is marked: beats, bars, sections and the drops that were detected */
  takeReading: command<{ reading: Reading }>('Count the song otherwise', (montage, { reading }) => {
    songLength(montage);
    const kept = montage.marks.filter((m) => m.locked || (!isPulse(m) && !(m.kind === 'drop' && m.origin === 'detected')));
    return asRead(montage, kept, marksOf(reading), reading);
  }),

  takeTaps: command<{ taps: readonly MarkTap[]; how: 'add' | 'replace' }>('Take the taps', (montage, { taps, how }) => {
    const length = songLength(montage);
    const clean = cleanTaps(
      taps.filter((t) => t.time >= 0 && t.time <= length),
      (kind) => MARKS[kind].rank,
    );
    if (clean.length === 0) return montage;
    const counting = clean.filter((t) => isPulse(t));
    const [first, last] = [counting[0]?.time ?? Infinity, counting.at(-1)?.time ?? -Infinity];
    const kept = montage.marks.filter((m) => {
      if (m.locked) return true;
      if (how === 'replace' && isPulse(m) && m.time >= first - 0.1 && m.time <= last + 0.1) return false;
      return !clean.some((t) => sameFamily(m.kind, t.kind) && m.kind !== 'accent' && Math.abs(t.time - m.time) < SAME_MARK_S);
    });
    const bars = barsTakenOver(montage, kept, counting);
    const fresh = clean.map((t): FreshMark => ({
      kind: bars.has(t) ? 'bar' : t.kind,
      time: t.time,
      origin: 'tapped',
      ...(t.kind === 'cue' ? { label: '' } : {}),
    }));
    return addFresh(montage, kept, fresh);
  }),

  /** marks from a file: each kind that it holds takes the place of that kind */
  takeMarking: command<{ marking: Marking }>('Read marks', (montage, { marking }) => {
    const length = songLength(montage);
    const fresh = marking.marks
      .filter((m) => m.time <= length)
      .map(({ kind, time, label, band, strength, confidence }): FreshMark => ({
        kind,
        time,
        origin: 'file',
        ...(kind === 'cue' ? { label: (label ?? '').slice(0, LONGEST_LABEL) } : {}),
        ...(band ? { band } : {}),
        ...(strength === undefined ? {} : { strength }),
        ...(confidence === undefined ? {} : { confidence }),
      }));
    if (fresh.length + marking.sections.length === 0) throw new CommandError('All marks of this file lie after the end of the song.');
    const brought = new Set(fresh.map((m) => (isPulse(m) ? 'beat' : m.kind)));
    const kept = montage.marks.filter((m) => m.locked || !brought.has(isPulse(m) ? 'beat' : m.kind));
    const next = addFresh(montage, kept, fresh);
    const sections = marking.sections.filter((s) => s.from <= length);
    const bars = fresh.filter(isPulse).flatMap((m, i) => (m.kind === 'bar' ? [i] : []));
    const counts = bars.slice(1).map((b, i) => b - bars[i]!);
    const metre = median(counts) ?? next.song!.metre;
    const counted = { ...next, song: { ...next.song!, metre: Math.min(16, Math.max(1, metre)) } };
    return sections.length > 0 ? withSections(counted, sections) : counted;
  }),

  addMark: command<{ kind: MarkKind; time: number; label?: string }>('Add a mark', (montage, { kind, time, label }) => {
    const length = songLength(montage);
    if (time < 0 || time > length) throw new CommandError('A mark must lie inside the song.');
    if (montage.marks.some((m) => sameFamily(m.kind, kind) && Math.abs(m.time - time) < 0.001)) return montage;
    const { marks, lastId } = named(montage, [
      { kind, time, origin: 'hand', ...(kind === 'cue' ? { label: (label ?? '').slice(0, LONGEST_LABEL) } : {}) },
    ]);
    return withMarks(montage, [...montage.marks, ...marks], lastId);
  }),

  moveMarks: command<{ ids: readonly string[]; by: number }>('Move marks', (montage, { ids, by }) => {
    const length = songLength(montage);
    if (by === 0) return montage;
    const moving = changeable(montage, ids);
    // One that is dragged stops at the song's end; of several, those at the end would be pushed together.
    if (moving.size > 1)
      refuseOutside(
        montage.marks.filter((m) => moving.has(m.id)),
        by,
        length,
      );
    return withMarks(
      montage,
      montage.marks.map((m) =>
        moving.has(m.id) ? { ...m, time: Math.min(length, Math.max(0, m.time + by)), origin: 'hand' as const } : m,
      ),
    );
  }),

  /** marks to times of their own */
  placeMarks: command<{ places: readonly { readonly id: string; readonly time: number }[] }>(
    'Draw marks to onsets',
    (montage, { places }) => {
      const length = songLength(montage);
      const moving = changeable(
        montage,
        places.map((p) => p.id),
      );
      const times = new Map(places.map((p) => [p.id, Math.min(length, Math.max(0, p.time))]));
      return withMarks(
        montage,
        montage.marks.map((m) => (moving.has(m.id) ? { ...m, time: times.get(m.id)!, origin: 'hand' as const } : m)),
      );
    },
  ),

  lockMarks: command<{ ids: readonly string[]; locked: boolean }>('Lock marks', (montage, { ids, locked }) => {
    const meant = new Set(ids);
    return {
      ...montage,
      marks: montage.marks.map((m) => {
        if (!meant.has(m.id)) return m;
        const { locked: _, ...rest } = m;
        return locked ? { ...rest, locked } : rest;
      }),
    };
  }),

  shiftAllMarks: command<{ by: number }>('Shift all marks', (montage, { by }) => {
    if (by === 0) return montage;
    refuseOutside(
      montage.marks.filter((m) => !m.locked),
      by,
      songLength(montage),
    );
    return withMarks(
      montage,
      montage.marks.map((m) => (m.locked ? m : { ...m, time: m.time + by })),
    );
  }),

  removeMarks: command<{ ids: readonly string[] }>('Remove marks', (montage, { ids }) => {
    const gone = changeable(montage, ids);
    return withMarks(
      montage,
      montage.marks.filter((m) => !gone.has(m.id)),
    );
  }),

  setMarkKind: command<{ id: string; kind: MarkKind }>('Change a mark', (montage, { id, kind }) => {
    markOf(montage, id);
    return withMarks(
      montage,
      montage.marks.map((m) => {
        if (m.id !== id) return m;
        const { id: own, time, origin, confidence, locked } = m;
        return {
          id: own,
          kind,
          time,
          origin,
          ...(confidence === undefined ? {} : { confidence }),
          ...(locked ? { locked } : {}),
          ...(kind === 'cue' ? { label: m.label ?? '' } : {}),
        };
      }),
    );
  }),

  setLabel: command<{ id: string; label: string }>('Name a cue', (montage, { id, label }) => {
    if (markOf(montage, id).kind !== 'cue') throw new CommandError('Only cues have words. Make this mark a cue first.');
    return { ...montage, marks: montage.marks.map((m) => (m.id === id ? { ...m, label: label.trim().slice(0, LONGEST_LABEL) } : m)) };
  }),

  setAccentFloor: command<{ floor: AccentFloor }>('Thin the accents', (montage, { floor }) => {
    if (!montage.song) throw new CommandError('There is no song yet. Choose one first.');
    return { ...montage, song: { ...montage.song, accentFloor: { ...floor } } };
  }),
};
