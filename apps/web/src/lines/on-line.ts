import { bisector } from 'd3-array';
import {
  framesPerSecond,
  placedMarks,
  scoreOf,
  type Line,
  type Mark,
  type Montage,
  type PlacedMark,
  type PlacedPeg,
  type Slot,
} from '@bluster/core';

// A line finds what lies on it by halving: there may be thousands of slots.
const slotStarts = bisector((s: Slot) => s.start.frame);
const slotEnds = bisector((s: Slot) => s.end.frame);
const pegTimes = bisector((p: PlacedPeg) => p.time);
const markTimes = bisector((m: PlacedMark) => m.time);

/** What of a montage lies on a line. */
export interface OnLine {
  readonly slots: readonly Slot[];
  /** cutaways over them */
  readonly over: readonly Slot[];
  readonly pegs: readonly PlacedPeg[];
  /** all but accents, of which there are too many to draw */
  readonly marks: readonly Mark[];
}

/** What of a montage lies on a line of it. */
export function onLine(montage: Montage, line: Line): OnLine {
  const score = scoreOf(montage);
  const fps = framesPerSecond(montage.shape.rate);
  const here = (all: readonly Slot[]): Slot[] =>
    all.slice(slotEnds.right(all, (line.from + 1e-6) * fps), slotStarts.left(all, (line.to - 1e-6) * fps));
  const placed = placedMarks(montage);
  return {
    slots: here(score.slots),
    over: here(score.over),
    pegs: score.pegs.slice(pegTimes.left(score.pegs, line.from - 1e-6), pegTimes.left(score.pegs, line.to - 1e-6)).filter((p) => p.peg),
    marks: placed
      .slice(markTimes.left(placed, line.from - 1e-6), markTimes.right(placed, line.to + 1e-6))
      .flatMap(({ mark }) => (mark.kind === 'accent' ? [] : [mark])),
  };
}
