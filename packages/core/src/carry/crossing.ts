import { byId } from '../lists/by-id.ts';
import type { Mark, Moment, Montage } from '../document/montage.ts';
import { marksInUse, pulse } from '../marks/in-use.ts';
import { isPulse, named, type FreshMark } from '../marks/mark-list.ts';
import { toMontageTime, type SongPiece } from '../music/arrangement.ts';
import { barCount, type BarCount } from './bar-count.ts';
import type { Matching, Reach } from './match-stretches.ts';
import type { Stretch } from './stretches.ts';

/** A moment a hair before a stretch belongs to it, seconds. */
const HAIR_S = 0.02;
/** As near to a beat as this a moment is on it, seconds. */
const ON_BEAT_S = 0.03;
/** How far an accent may lie from where one was, beats. */
const ACCENT_REACH = 0.25;
/** A remainder of a section smaller than this stays in use, bars. */
const REMAINDER_BARS = 0.5;

/** One stretch of the old song laid over a stretch of the new one. A longer one is covered by several turns. */
export interface Turn {
  readonly old: Stretch;
  readonly fresh: Stretch;
  /** bars of the new song less those of the old */
  readonly shift: number;
  /** the first time that this old stretch is laid: shots and titles come along */
  readonly first: boolean;
}

/** Every turn of a matching, in the order of the new song. */
export function turnsOf(old: readonly Stretch[], fresh: readonly Stretch[], matching: Matching, reach: Reach): Turn[] {
  const laid = new Set<Stretch>();
  return fresh.flatMap((f, j) => {
    const from = old[matching[j] ?? -1];
    if (!from) return [];
    const first = !laid.has(from);
    laid.add(from);
    const step = Math.max(1, Math.round(from.bars));
    const turns = reach === 'all' ? Math.max(1, Math.ceil(f.bars / step - 0.1)) : 1;
    return Array.from({ length: turns }, (_, t) => ({
      old: from,
      fresh: f,
      shift: f.firstBar - from.firstBar + t * step,
      first: first && t === 0,
    }));
  });
}

/** What is used of the new song, where it is to be as long as the old was: what was matched, as far as the old went. */
export function piecesOf(target: Montage, turns: readonly Turn[]): SongPiece[] {
  const { timeAt } = barCount(target);
  const pieces: { from: number; to: number }[] = [];
  for (const { old, fresh } of turns) {
    const to = old.bars < fresh.bars - REMAINDER_BARS ? timeAt(fresh.firstBar + Math.round(old.bars)) : fresh.to;
    const last = pieces.at(-1);
    if (last && fresh.from - last.to < HAIR_S) last.to = to;
    else pieces.push({ from: fresh.from, to });
  }
  return pieces;
}

/** Where the moments of one song's montage come to lie in another song: at the same bar and beat of the section that takes its cut from theirs. */
export class Crossing {
  private readonly old: BarCount;
  private readonly fresh: BarCount;
  private readonly marks: ReadonlyMap<string, Mark>;
  private readonly cues: ReadonlyMap<string, Mark>;
  /** the target with the cues that came along */
  readonly ground: Montage;

  constructor(
    private readonly source: Montage,
    private readonly target: Montage,
    readonly turns: readonly Turn[],
  ) {
    this.old = barCount(source);
    this.fresh = barCount(target);
    this.marks = byId(source.marks, (m) => m.id);
    const cues = source.marks.flatMap((m): [Mark, FreshMark][] => {
      const time = m.kind === 'cue' ? this.time(m.time) : null;
      if (time === null || target.marks.some((t) => t.kind === 'cue' && Math.abs(t.time - time) < 2 * ON_BEAT_S)) return [];
      const { id: _, ...rest } = m;
      const onBeat = pulse(source).some((b) => Math.abs(b.time - m.time) < ON_BEAT_S);
      const beat = onBeat ? this.beatNear(time) : undefined;
      return [[m, { ...rest, time: beat?.time ?? time }]];
    });
    const lastId = Math.max(source.lastId, target.lastId);
    const brought = named(
      { ...target, lastId },
      cues.map(([, fresh]) => fresh),
    );
    this.cues = new Map(cues.map(([{ id }], i) => [id, brought.marks[i]!]));
    const marks = [...target.marks, ...brought.marks].sort((a, b) => a.time - b.time);
    this.ground = { ...target, marks: brought.marks.length > 0 ? marks : target.marks, lastId: brought.lastId };
  }

  /** The turn in which a moment of the old song goes along first; undefined where its section has no place. */
  private turnOf(time: number): Turn | undefined {
    return this.turns.find((turn) => turn.first && this.isIn(turn, time));
  }

  /** Whether a moment of the old song lies in the stretch of a turn. */
  isIn({ old }: Turn, time: number): boolean {
    const end = this.source.song?.pieces.at(-1)?.to === old.to ? old.to + HAIR_S : old.to - HAIR_S;
    return time >= old.from - HAIR_S && time < end;
  }

  /** The first bar of the old stretch of a turn. */
  firstBarOf({ old }: Turn): Moment {
    const time = Math.max(old.from, this.old.timeAt(old.firstBar));
    const bar = pulse(this.source).find((m) => Math.abs(m.time - time) < ON_BEAT_S);
    return { markId: bar?.id ?? null, time };
  }

  /** Where a moment of the old song lies in a turn, song seconds of the new; null beyond the end of what it is laid over. */
  timeIn({ shift, fresh }: Turn, time: number): number | null {
    const there = this.fresh.timeAt(this.old.placeOf(time) + shift);
    const { song } = this.target;
    if (there < fresh.from - HAIR_S || there >= fresh.to - HAIR_S || !song) return null;
    const held = Math.max(0, there);
    return toMontageTime(song.pieces, held) === null ? null : held;
  }

  private time(time: number): number | null {
    const turn = this.turnOf(time);
    return turn ? this.timeIn(turn, time) : null;
  }

  private nearest(marks: readonly Mark[], time: number): Mark | undefined {
    let best: Mark | undefined;
    for (const m of marks) if (!best || Math.abs(m.time - time) < Math.abs(best.time - time)) best = m;
    return best;
  }

  /** Half a beat at most lies between a moment and the beat that is meant. */
  private beatNear(time: number): Mark | undefined {
    const beat = this.nearest(pulse(this.target), time);
    return beat && Math.abs(beat.time - time) <= this.beatAt(time) / 2 + 1e-6 ? beat : undefined;
  }

  /** How long a beat is about a moment of the new song, seconds. */
  private beatAt(time: number): number {
    const place = this.fresh.placeOf(time);
    return (this.fresh.timeAt(place + 1) - this.fresh.timeAt(place)) / (this.target.song?.metre ?? 4);
  }

  private markIn(turn: Turn, mark: Mark, time: number): Mark | undefined {
    if (mark.kind === 'cue') return turn.first ? this.cues.get(mark.id) : undefined;
    if (mark.kind === 'drop') {
      const inside = (m: Mark, { from, to }: Stretch): boolean => m.kind === 'drop' && m.time >= from - HAIR_S && m.time < to - HAIR_S;
      const which = this.source.marks.filter((m) => inside(m, turn.old)).indexOf(mark);
      const drop = this.target.marks.filter((m) => inside(m, turn.fresh))[which];
      return drop ?? this.beatNear(time);
    }
    if (isPulse(mark)) return this.beatNear(time);
    const reach = ACCENT_REACH * this.beatAt(time);
    const near = marksInUse(this.target).filter((m) => m.kind === mark.kind && Math.abs(m.time - time) <= reach);
    return this.nearest(near.some((m) => m.band === mark.band) ? near.filter((m) => m.band === mark.band) : near, time);
  }

  /** A moment in a turn: on the mark that stands for its own there, or at the same part of the bar. */
  momentIn(turn: Turn, { markId, time: known }: Moment): Moment | null {
    const mark = markId === null ? undefined : this.marks.get(markId);
    const time = this.timeIn(turn, mark?.time ?? known);
    if (time === null) return null;
    const there = mark && this.markIn(turn, mark, time);
    return there ? { markId: there.id, time: there.time } : { markId: null, time };
  }

  /** Where a moment goes along; null where its section has no place in the new song, or a shorter one. */
  moment(moment: Moment): Moment | null {
    const mark = moment.markId === null ? undefined : this.marks.get(moment.markId);
    const turn = this.turnOf(mark?.time ?? moment.time);
    return turn ? this.momentIn(turn, moment) : null;
  }

  /** The sections of the new song that take their cut from one of the old, in order. */
  sectionsFor(section: string): readonly string[] {
    const found = this.turns.flatMap(({ old, fresh }) => (old.section === section && fresh.section !== null ? [fresh.section] : []));
    return [...new Set(found)];
  }
}
