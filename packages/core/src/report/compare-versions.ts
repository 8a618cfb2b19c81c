import { syncReport, type CutReport, type SlotReport, type SyncReport } from './sync-report.ts';
import type { Montage } from '../document/montage.ts';
import { movesOf } from '../finish/placed-moves.ts';
import { scoreOf, type Slot } from '../score/score.ts';

/** A slot of one version with the cut that it starts with; the first slot has none. */
export interface VersionLine {
  readonly slot: SlotReport;
  readonly cut: CutReport | null;
  /** what its shot and its cut are dressed in, to be told apart from another */
  readonly dress: string;
}

/** One line of two versions side by side. */
export interface ComparedLine {
  readonly frame: number;
  readonly a: VersionLine | null;
  readonly b: VersionLine | null;
  /** how they differ; only one of them has a cut here, another length, another clip or part of it, other dress, or nothing */
  readonly change: 'same' | 'only first' | 'only second' | 'length' | 'clip' | 'part' | 'dress';
}

export interface Comparison {
  readonly lines: readonly ComparedLine[];
  readonly same: number;
  /** what differs of that which lies over all of the montage, in words; none where nothing does */
  readonly overAll: readonly string[];
  readonly a: SyncReport;
  readonly b: SyncReport;
}

/** What a slot's shot wears and how it moves, and the transition into it. */
function dressOf({ placed, start }: Slot, montage: Montage): string {
  const { shot } = placed ?? { shot: undefined };
  const { looks, view, shapeViews, border, blend, whenShort, ducks } = shot ?? {};
  return JSON.stringify([shot && movesOf(montage, shot), looks, view, shapeViews, border, blend, whenShort, ducks, start.peg?.transition]);
}

const linesOf = (report: SyncReport, montage: Montage): VersionLine[] => {
  const { slots } = scoreOf(montage);
  return report.slots.map((slot, i) => ({ slot, cut: i === 0 ? null : report.cuts[i - 1]!, dress: dressOf(slots[i]!, montage) }));
};

/** The shots of the lines over the score: where each lies, and what is shown of it in which way. */
const cutawaysOf = (montage: Montage): unknown =>
  scoreOf(montage).over.map((slot) => {
    const { id: _, startPeg: __, endPeg: ___, ...shot } = slot.placed!.shot;
    return [slot.start.frame, slot.end.frame, shot];
  });

/** What lies over all of a montage, or all of it hangs on, each with its word. */
const OVER_ALL: Readonly<Record<string, (montage: Montage) => unknown>> = {
  shape: ({ shape }) => shape,
  song: ({ song }) => song && [song.assetId, song.pieces, song.fadeIn, song.fadeOut],
  marks: ({ marks }) => marks.map(({ kind, time }) => [kind, time]),
  cutaways: cutawaysOf,
  effects: ({ effects }) => effects,
  titles: ({ titles }) => titles,
  'levels of the sound': ({ levels }) => levels,
  'looks of all': ({ looks }) => looks,
  letterboxes: ({ letterboxes }) => letterboxes,
  'fades into a colour': ({ fades }) => fades,
  'fades at the ends': ({ pictureFades }) => pictureFades,
};

const alike = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

function changeOf({ slot: a, dress }: VersionLine, { slot: b, dress: other }: VersionLine): ComparedLine['change'] {
  if (a.clip !== b.clip) return 'clip';
  if (a.toFrame - a.fromFrame !== b.toFrame - b.fromFrame) return 'length';
  const same = a.sourceFrames?.[0] === b.sourceFrames?.[0] && a.speed === b.speed && a.framing === b.framing;
  if (!same) return 'part';
  return dress === other ? 'same' : 'dress';
}

/**
 * Two versions of a montage line by line, in the order of their cuts. Cuts on the same frame share a line.
 * @returns frames of the montage; no lines where neither has a slot
 */
export function compareVersions(first: Montage, second: Montage): Comparison {
  const [a, b] = [syncReport(first), syncReport(second)];
  const [left, right] = [linesOf(a, first), linesOf(b, second)];
  const lines: ComparedLine[] = [];
  for (let i = 0, k = 0; i < left.length || k < right.length;) {
    const [x, y] = [left[i], right[k]];
    if (x && y && x.slot.fromFrame === y.slot.fromFrame) {
      lines.push({ frame: x.slot.fromFrame, a: x, b: y, change: changeOf(x, y) });
      i++;
      k++;
    } else if (x && (!y || x.slot.fromFrame < y.slot.fromFrame)) {
      lines.push({ frame: x.slot.fromFrame, a: x, b: null, change: 'only first' });
      i++;
    } else {
      lines.push({ frame: y!.slot.fromFrame, a: null, b: y!, change: 'only second' });
      k++;
    }
  }
  const overAll = Object.entries(OVER_ALL).flatMap(([word, of]) => (alike(of(first), of(second)) ? [] : [word]));
  return { lines, same: lines.filter((l) => l.change === 'same').length, overAll, a, b };
}
