import { median } from '../music/median.ts';
import { CommandError } from '../document/command-error.ts';
import type { Mark, Montage } from '../document/montage.ts';
import { inside, isPulse, markOf, named, replacePulse, songLength, withMarks, type FreshMark } from './mark-list.ts';
import type { Range } from '../time/range.ts';
import { pulse } from './in-use.ts';
import { command } from '../document/command.ts';
import type { DetectedBeat } from '../music/placed-beats.ts';

/** More beats than this in one go are a mistake in the numbers. */
const MOST_BEATS = 10_000;
/** A gap of this many beats or more is a hole. */
const HOLE_BEATS = 1.5;

const kindAt = (i: number, start: number, metre: number): 'bar' | 'beat' =>
  (((i - start) % metre) + metre) % metre === 0 ? 'bar' : 'beat';

/** Beats counted anew from one of them. */
function counted(beats: readonly Mark[], start: number, metre: number): Mark[] {
  return beats.map((m, i) => {
    const kind = kindAt(i, start, metre);
    return m.kind === kind ? m : { ...m, kind };
  });
}

/** The beats of a range, those outside it, and everything else. */
function apart(montage: Montage, range: Partial<Range>): { within: Mark[]; others: Mark[] } {
  const chosen = (m: Mark): boolean => inside(range, m.time);
  return { within: pulse(montage).filter(chosen), others: montage.marks.filter((m) => !isPulse(m) || !chosen(m)) };
}

export const pulseCommands = {
  /** beats and bars between two times, in the place of those that were there */
  takeBeats: command<{ beats: readonly DetectedBeat[]; from: number; to: number; metre?: number }>(
    'Take the beats',
    (montage, { beats, from, to, metre }) => {
      const length = songLength(montage);
      const fresh = beats
        .filter((b) => b.time >= 0 && b.time <= length)
        .map((b): FreshMark => ({ kind: b.downbeat ? 'bar' : 'beat', time: b.time, origin: 'detected', confidence: b.confidence }));
      const next = replacePulse(montage, fresh, { from, to });
      return metre === undefined ? next : { ...next, song: { ...next.song!, metre } };
    },
  ),

  takeBeatTimes: command<{ times: readonly number[]; metre: number }>('Read marks', (montage, { times, metre }) => {
    const length = songLength(montage);
    const within = [...new Set(times)].filter((t) => t >= 0 && t <= length).sort((a, b) => a - b);
    const next = replacePulse(
      montage,
      within.map((time, i) => ({ kind: kindAt(i, 0, metre), time, origin: 'file' as const })),
    );
    return { ...next, song: { ...next.song!, metre } };
  }),

  setBarOne: command<{ id: string; metre: number }>('Set bar 1', (montage, { id, metre }) => {
    if (!isPulse(markOf(montage, id))) throw new CommandError('Bar 1 starts on a beat. Choose a beat.');
    const beats = pulse(montage);
    const others = montage.marks.filter((m) => !isPulse(m));
    const next = withMarks(montage, [
      ...others,
      ...counted(
        beats,
        beats.findIndex((m) => m.id === id),
        metre,
      ),
    ]);
    return { ...next, song: { ...next.song!, metre } };
  }),

  /** bars of so many beats from a beat on, as far as the next range begins or to the end */
  setMetreFrom: command<{ id: string; metre: number }>('Change the metre', (montage, { id, metre }) => {
    if (!isPulse(markOf(montage, id))) throw new CommandError('A bar starts on a beat. Choose the beat from which the metre changes.');
    const beats = pulse(montage);
    const at = beats.findIndex((m) => m.id === id);
    const others = montage.marks.filter((m) => !isPulse(m));
    const next = withMarks(montage, [...others, ...beats.slice(0, at), ...counted(beats.slice(at), 0, metre)]);
    // The song's own metre is that of its start.
    return at === 0 ? { ...next, song: { ...next.song!, metre } } : next;
  }),

  /** without a range, the whole song */
  halveBeats: command<Partial<Range>>('Halve the beats', (montage, range) => {
    const { within, others } = apart(montage, range);
    const metre = montage.song?.metre ?? 4;
    const firstBar = Math.max(
      0,
      within.findIndex((m) => m.kind === 'bar'),
    );
    const kept = within.filter((m, i) => m.locked || (i - firstBar) % 2 === 0);
    const start = kept.findIndex((m) => m.id === within[firstBar]?.id);
    return withMarks(montage, [...others, ...counted(kept, Math.max(0, start), metre)]);
  }),

  doubleBeats: command<Partial<Range>>('Double the beats', (montage, range) => {
    const { within, others } = apart(montage, range);
    const metre = montage.song?.metre ?? 4;
    const firstBar = Math.max(
      0,
      within.findIndex((m) => m.kind === 'bar'),
    );
    let { lastId } = montage;
    const all: Mark[] = [];
    within.forEach((m, i) => {
      // Every other one of them is new, the first bar's own place counted with.
      const kind = kindAt(2 * i, 2 * firstBar, metre);
      all.push(m.kind === kind ? m : { ...m, kind });
      const next = within[i + 1];
      if (next)
        all.push({
          id: `m${++lastId}`,
          kind: kindAt(2 * i + 1, 2 * firstBar, metre),
          time: (m.time + next.time) / 2,
          origin: m.origin,
        });
    });
    return withMarks(montage, [...others, ...all], lastId);
  }),

  shiftHalfBeat: command<Partial<Range>>('Shift by half a beat', (montage, range) => {
    const length = songLength(montage);
    const { within, others } = apart(montage, range);
    const moved = within.map((m, i) => {
      if (m.locked) return m;
      const gap = i + 1 < within.length ? within[i + 1]!.time - m.time : m.time - (within[i - 1]?.time ?? m.time);
      return { ...m, time: Math.min(length, m.time + gap / 2) };
    });
    return withMarks(montage, [...others, ...moved]);
  }),

  /** beats between two times: so many, or one every so many seconds */
  layGrid: command<{ from: number; to: number } & ({ beats: number } | { every: number })>('Lay an even grid', (montage, ask) => {
    const length = songLength(montage);
    const { from, to } = ask;
    if (!(to > from) || from < 0 || to > length + 1e-6)
      throw new CommandError('A grid lies between two different times of the song. Choose a range or two marks.');
    const gap = 'beats' in ask ? (to - from) / ask.beats : ask.every;
    if (!(gap >= 0.05)) throw new CommandError('The beats of this grid would lie closer than 50 ms. Ask for fewer, or for more frames.');
    const count = 'beats' in ask ? ask.beats : Math.floor((to - from) / gap + 1e-6);
    if (!(count >= 1) || count > MOST_BEATS) throw new CommandError('There is no room for a grid like this between the two times.');
    const metre = montage.song!.metre;
    const fresh = Array.from({ length: count + 1 }, (_, i): FreshMark => ({
      kind: kindAt(i, 0, metre),
      time: Math.min(length, from + i * gap),
      origin: 'hand',
    }));
    return replacePulse(montage, fresh, { from, to });
  }),

  /** beats where the beats before and after leave a hole */
  fillHoles: command<{ from: number; to: number }>('Fill holes with beats', (montage, range) => {
    songLength(montage);
    const beats = pulse(montage);
    const fresh: FreshMark[] = [];
    for (let i = 0; i + 1 < beats.length; i++) {
      const [a, b] = [beats[i]!, beats[i + 1]!];
      if (!inside(range, a.time) && !inside(range, b.time) && !(a.time < range.from && b.time > range.to)) continue;
      const near = [...beats.slice(Math.max(0, i - 4), i + 1), null, ...beats.slice(i + 1, i + 6)];
      const gaps = near.flatMap((m, k) => (m && near[k + 1] ? [near[k + 1]!.time - m.time] : []));
      const typical = median(gaps);
      if (typical === undefined || (b.time - a.time) / typical < HOLE_BEATS) continue;
      const parts = Math.round((b.time - a.time) / typical);
      for (let k = 1; k < parts; k++) fresh.push({ kind: 'beat', time: a.time + ((b.time - a.time) * k) / parts, origin: 'hand' });
    }
    if (fresh.length === 0) throw new CommandError('There is no hole between the beats here.');
    const { marks, lastId } = named(montage, fresh);
    const metre = montage.song!.metre;
    // Bars are counted on through the hole, from the last bar before it.
    const all = [...beats, ...marks].sort((x, y) => x.time - y.time);
    const filled = new Set(marks.map((m) => m.id));
    let place = -Infinity;
    const renamed = all.map((m) => {
      place = m.kind === 'bar' ? 0 : place + 1;
      if (filled.has(m.id) && place === metre) {
        place = 0;
        return { ...m, kind: 'bar' as const };
      }
      return m;
    });
    return withMarks(montage, [...montage.marks.filter((m) => !isPulse(m)), ...renamed], lastId);
  }),
};
