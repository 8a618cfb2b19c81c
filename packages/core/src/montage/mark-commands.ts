import { cleanTaps } from '../music/taps.ts';
import { CommandError } from './command-error.ts';
import type { Handlers } from './command.ts';
import { pulse, type Mark, type MarkKind, type Montage } from './document.ts';

/** Marks of a kind closer than this are the same one, seconds. */
const SAME_MARK_S = 0.06;
/** How far a peg looks for a new mark when its own is replaced, seconds. */
const PEG_REACH_S = 0.12;

const inOrder = (marks: readonly Mark[]): Mark[] => [...marks].sort((a, b) => a.time - b.time);

/**
 * The montage with other marks. Pegs whose mark is gone move to the nearest of the new ones; where none is near they
 * stay where they were as free pegs, so no cut is lost.
 */
function withMarks(montage: Montage, marks: readonly Mark[], lastId = montage.lastId): Montage {
  const sorted = inOrder(marks);
  const there = new Map(sorted.map((m) => [m.id, m]));
  const old = new Map(montage.marks.map((m) => [m.id, m]));
  const taken = new Set(montage.pegs.map((p) => p.markId).filter((id) => id !== null && there.has(id)));
  const pegs = montage.pegs.map((peg) => {
    if (peg.markId === null || there.has(peg.markId)) return peg;
    const time = old.get(peg.markId)?.time ?? peg.time;
    let nearest: Mark | null = null;
    for (const m of sorted)
      if (
        !taken.has(m.id) &&
        Math.abs(m.time - time) <= PEG_REACH_S &&
        (!nearest || Math.abs(m.time - time) < Math.abs(nearest.time - time))
      )
        nearest = m;
    if (nearest) taken.add(nearest.id);
    return { ...peg, markId: nearest?.id ?? null, time: nearest?.time ?? time };
  });
  return { ...montage, marks: sorted, pegs, lastId };
}

/** Gives ids to new marks, following on from the montage's last. */
function named(montage: Montage, fresh: readonly Omit<Mark, 'id'>[]): { marks: Mark[]; lastId: number } {
  let lastId = montage.lastId;
  return { marks: fresh.map((m) => ({ ...m, id: `m${++lastId}` })), lastId };
}

function songLength(montage: Montage): number {
  if (!montage.song) throw new CommandError('There is no song to mark. Choose one first.');
  return montage.song.length;
}

const isPulse = (m: { kind: MarkKind }): boolean => m.kind === 'beat' || m.kind === 'bar';

/** Replaces beats and bars, keeping marks of other kinds. */
function replacePulse(montage: Montage, fresh: readonly Omit<Mark, 'id'>[]): Montage {
  const { marks, lastId } = named(montage, fresh);
  return withMarks(montage, [...montage.marks.filter((m) => !isPulse(m)), ...marks], lastId);
}

function mark(montage: Montage, id: string): Mark {
  const found = montage.marks.find((m) => m.id === id);
  if (!found) throw new CommandError('That mark is no longer there.');
  return found;
}

export const markCommands: Handlers<
  | 'takeDetection'
  | 'takeTaps'
  | 'takeBeatTimes'
  | 'addMark'
  | 'moveMarks'
  | 'shiftAllMarks'
  | 'deleteMarks'
  | 'setMarkKind'
  | 'setBarOne'
  | 'halveBeats'
  | 'doubleBeats'
  | 'shiftHalfBeat'
> = {
  takeDetection: (montage, { detection }) => {
    songLength(montage);
    const fresh: Omit<Mark, 'id'>[] = [
      ...detection.beats.map((b) => ({
        kind: b.downbeat ? ('bar' as const) : ('beat' as const),
        time: b.time,
        origin: 'detected' as const,
        confidence: b.confidence,
      })),
      ...detection.drops.map((time) => ({ kind: 'drop' as const, time, origin: 'detected' as const })),
    ];
    const { marks, lastId } = named(montage, fresh);
    // What was tapped or set by hand for other ends than counting time stays.
    const kept = montage.marks.filter((m) => !isPulse(m) && m.origin !== 'detected');
    const next = withMarks(montage, [...kept, ...marks], lastId);
    return { ...next, song: { ...next.song!, sections: detection.sections.map((s) => ({ ...s })), metre: detection.metre } };
  },

  takeTaps: (montage, { taps, how }) => {
    const length = songLength(montage);
    const clean = cleanTaps(taps.filter((t) => t.time >= 0 && t.time <= length));
    if (clean.length === 0) return montage;
    const [first, last] = [clean[0]!.time, clean.at(-1)!.time];
    const kept = montage.marks.filter((m) => {
      if (how === 'replace' && isPulse(m) && clean.some(isPulseTap)) return m.time < first - 0.1 || m.time > last + 0.1;
      return !clean.some((t) => sameFamily(m.kind, t.kind) && Math.abs(t.time - m.time) < SAME_MARK_S);
    });
    const { marks, lastId } = named(
      montage,
      clean.map((t) => ({ kind: t.kind, time: t.time, origin: 'tapped' as const })),
    );
    return withMarks(montage, [...kept, ...marks], lastId);
  },

  takeBeatTimes: (montage, { times, metre }) => {
    const length = songLength(montage);
    const inside = [...new Set(times)].filter((t) => t >= 0 && t <= length).sort((a, b) => a - b);
    const next = replacePulse(
      montage,
      inside.map((time, i) => ({ kind: i % metre === 0 ? ('bar' as const) : ('beat' as const), time, origin: 'file' as const })),
    );
    return { ...next, song: { ...next.song!, metre } };
  },

  addMark: (montage, { kind, time }) => {
    const length = songLength(montage);
    if (time < 0 || time > length) throw new CommandError('A mark must lie inside the song.');
    if (montage.marks.some((m) => sameFamily(m.kind, kind) && Math.abs(m.time - time) < 0.001)) return montage;
    const { marks, lastId } = named(montage, [{ kind, time, origin: 'hand' }]);
    return withMarks(montage, [...montage.marks, ...marks], lastId);
  },

  moveMarks: (montage, { ids, by }) => {
    const length = songLength(montage);
    const moving = new Set(ids);
    if (by === 0) return montage;
    return withMarks(
      montage,
      montage.marks.map((m) =>
        moving.has(m.id) ? { ...m, time: Math.min(length, Math.max(0, m.time + by)), origin: 'hand' as const } : m,
      ),
    );
  },

  shiftAllMarks: (montage, { by }) => {
    const length = songLength(montage);
    return withMarks(
      montage,
      montage.marks.map((m) => ({ ...m, time: Math.min(length, Math.max(0, m.time + by)) })),
    );
  },

  deleteMarks: (montage, { ids }) => {
    const gone = new Set(ids);
    return withMarks(
      montage,
      montage.marks.filter((m) => !gone.has(m.id)),
    );
  },

  setMarkKind: (montage, { id, kind }) => {
    mark(montage, id);
    return withMarks(
      montage,
      montage.marks.map((m) => (m.id === id ? { ...m, kind } : m)),
    );
  },

  setBarOne: (montage, { id, metre }) => {
    const one = mark(montage, id);
    if (!isPulse(one)) throw new CommandError('Bar 1 starts on a beat. Choose a beat.');
    const beats = pulse(montage);
    const at = beats.findIndex((m) => m.id === id);
    const bars = new Set(beats.filter((_, i) => (((i - at) % metre) + metre) % metre === 0).map((m) => m.id));
    const next = withMarks(
      montage,
      montage.marks.map((m) => (isPulse(m) ? { ...m, kind: bars.has(m.id) ? ('bar' as const) : ('beat' as const) } : m)),
    );
    return { ...next, song: { ...next.song!, metre } };
  },

  halveBeats: (montage) => {
    const beats = pulse(montage);
    const firstBar = Math.max(
      0,
      beats.findIndex((m) => m.kind === 'bar'),
    );
    const metre = montage.song?.metre ?? 4;
    const kept = beats.filter((_, i) => (i - firstBar) % 2 === 0);
    const start = kept.findIndex((m) => m.id === beats[firstBar]?.id);
    const counted = kept.map((m, i) => ({
      ...m,
      kind: (((i - start) % metre) + metre) % metre === 0 ? ('bar' as const) : ('beat' as const),
    }));
    return withMarks(montage, [...montage.marks.filter((m) => !isPulse(m)), ...counted]);
  },

  doubleBeats: (montage) => {
    const beats = pulse(montage);
    const metre = montage.song?.metre ?? 4;
    const between = beats
      .slice(1)
      .map((m, i) => ({ kind: 'beat' as const, time: (m.time + beats[i]!.time) / 2, origin: beats[i]!.origin }));
    const { marks, lastId } = named(montage, between);
    const firstBar = beats.find((m) => m.kind === 'bar');
    const all = inOrder([...beats, ...marks]);
    const start = firstBar ? all.findIndex((m) => m.id === firstBar.id) : 0;
    const counted = all.map((m, i) => ({
      ...m,
      kind: (((i - start) % metre) + metre) % metre === 0 ? ('bar' as const) : ('beat' as const),
    }));
    return withMarks(montage, [...montage.marks.filter((m) => !isPulse(m)), ...counted], lastId);
  },

  shiftHalfBeat: (montage) => {
    const length = songLength(montage);
    const beats = pulse(montage);
    const moved = new Map(
      beats.map((m, i) => {
        const gap = i + 1 < beats.length ? beats[i + 1]!.time - m.time : m.time - (beats[i - 1]?.time ?? m.time);
        return [m.id, Math.min(length, m.time + gap / 2)] as const;
      }),
    );
    return withMarks(
      montage,
      montage.marks.map((m) => ({ ...m, time: moved.get(m.id) ?? m.time })),
    );
  },
};

function isPulseTap(tap: { kind: 'beat' | 'bar' | 'drop' }): boolean {
  return tap.kind !== 'drop';
}

function sameFamily(a: MarkKind, b: MarkKind): boolean {
  return a === b || (isPulse({ kind: a }) && isPulse({ kind: b }));
}
