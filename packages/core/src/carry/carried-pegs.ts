import { END_PEG, START_PEG, type Montage, type Peg } from '../document/montage.ts';
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
  private hang(turn: Turn, placed: PlacedPeg, at: number): void {
    const { peg } = placed;
    const moment = this.crossing.momentIn(turn, { markId: peg?.part === undefined ? (peg?.markId ?? null) : null, time: at });
    if (!moment) return;
    const id = turn.first && peg ? peg.id : `p${++this.lastId}`;
    const base = peg && peg.part !== undefined ? this.crossing.moment({ markId: peg.markId, time: at }) : null;
    const onMark = base?.markId ? { markId: base.markId, time: base.time, part: peg!.part! } : moment;
    const { part: _, ...rest } = peg ?? { offset: 0, origin: 'rule' as const };
    this.pegs.push({ ...rest, origin: turn.first ? rest.origin : 'rule', ...onMark, id });
    if (turn.first) this.names.set(placed.id, id);
  }

  main(): void {
    const { pegs } = pegsOf(this.source);
    const [start] = this.crossing.turns;
    for (const turn of this.crossing.turns)
      for (const placed of pegs) {
        if (placed.id === END_PEG) continue;
        const at = this.songTime(placed);
        if (!this.crossing.isIn(turn, at)) continue;
        // What the montage begins with begins the other one too, wherever its first bar lies.
        if (placed.id === START_PEG && turn === start) this.names.set(START_PEG, START_PEG);
        else this.hang(turn, placed, at);
      }
  }

  over(): void {
    for (const placed of pegsOf(this.source).overPegs) {
      const at = this.songTime(placed);
      const turn = this.crossing.turns.find((t) => t.first && this.crossing.isIn(t, at));
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
