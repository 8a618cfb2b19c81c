import { END_PEG, START_PEG, type Moment, type Montage, type Peg } from '../document/montage.ts';
import { pegsOf, type PlacedPeg } from '../score/score.ts';
import { toSongTime } from '../music/arrangement.ts';
import type { Crossing, Turn } from './crossing.ts';

/** The pegs of a montage in another song. */
export interface CarriedPegs {
  readonly pegs: readonly Peg[];
  readonly lastId: number;
  /** the peg that stands for each of the old ones, the start of the montage among them */
  readonly names: ReadonlyMap<string, string>;
}

class Hanging {
  readonly pegs: Peg[] = [];
  readonly names = new Map<string, string>();

  constructor(
    private readonly source: Montage,
    private readonly crossing: Crossing,
    public lastId: number,
  ) {}

  private songTime({ peg, time }: PlacedPeg): number {
    return peg && peg.markId === null ? peg.time : toSongTime(this.source.song!.pieces, Math.max(0, time));
  }

  /** Hangs one peg in a turn; the first turn of its stretch keeps its name, the others cut alike. */
  private hang(turn: Turn, { id: old, peg }: PlacedPeg, at: Moment): void {
    const moment = this.crossing.momentIn(turn, peg?.part === undefined ? at : { markId: null, time: at.time });
    if (!moment) return;
    const id = turn.first && peg ? peg.id : `p${++this.lastId}`;
    const base = peg?.part === undefined ? null : this.crossing.momentIn(turn, { markId: peg.markId, time: at.time });
    const place = base?.markId ? { ...base, part: peg!.part! } : moment;
    const { part: _, ...rest } = peg ?? { offset: 0, origin: 'rule' as const };
    this.pegs.push({ ...rest, origin: turn.first ? rest.origin : 'rule', ...place, id });
    if (turn.first) this.names.set(old, id);
  }

  /** Where a peg of the source is meant to be. */
  private momentOf(placed: PlacedPeg): Moment {
    return { markId: placed.peg?.markId ?? null, time: this.songTime(placed) };
  }

  /** What the montage begins with: elsewhere there is no pick-up before it, and it begins on the bar, unless that is a cut of its own. */
  private hangStart(turn: Turn, start: PlacedPeg): void {
    const bar = this.crossing.firstBarOf(turn);
    const own = this.source.pegs.some((p) => !p.over && p.markId !== null && p.markId === bar.markId && p.part === undefined);
    if (!own) this.hang(turn, start, bar);
  }

  main(): void {
    const { pegs } = pegsOf(this.source);
    const [start] = this.crossing.turns;
    for (const turn of this.crossing.turns)
      for (const placed of pegs) {
        const at = this.momentOf(placed);
        if (placed.id === END_PEG || !this.crossing.isIn(turn, at.time)) continue;
        if (placed.id !== START_PEG) this.hang(turn, placed, at);
        else if (turn === start) this.names.set(START_PEG, START_PEG);
        else this.hangStart(turn, placed);
      }
  }

  over(): void {
    for (const placed of pegsOf(this.source).overPegs) {
      const at = this.momentOf(placed);
      const turn = this.crossing.turns.find((t) => t.first && this.crossing.isIn(t, at.time));
      if (turn) this.hang(turn, placed, at);
    }
  }
}

/** Hangs the pegs of a montage at the same bars and beats of another song. */
export function carriedPegs(source: Montage, crossing: Crossing, lastId: number): CarriedPegs {
  const hanging = new Hanging(source, crossing, lastId);
  hanging.main();
  hanging.over();
  return hanging;
}
