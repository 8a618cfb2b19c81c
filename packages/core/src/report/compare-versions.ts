import { syncReport, type CutReport, type SlotReport, type SyncReport } from './sync-report.ts';
import type { Montage } from '../document/montage.ts';

/** A slot of one version with the cut that it starts with; the first slot has none. */
export interface VersionLine {
  readonly slot: SlotReport;
  readonly cut: CutReport | null;
}

/** One line of two versions side by side. */
export interface ComparedLine {
  readonly frame: number;
  readonly a: VersionLine | null;
  readonly b: VersionLine | null;
  /** how they differ; only one of them has a cut here, another length, another clip or part of it, or nothing */
  readonly change: 'same' | 'only first' | 'only second' | 'length' | 'clip' | 'part';
}

export interface Comparison {
  readonly lines: readonly ComparedLine[];
  readonly same: number;
  readonly a: SyncReport;
  readonly b: SyncReport;
}

const linesOf = (report: SyncReport): VersionLine[] => report.slots.map((slot, i) => ({ slot, cut: i === 0 ? null : report.cuts[i - 1]! }));

function changeOf(a: SlotReport, b: SlotReport): ComparedLine['change'] {
  if (a.clip !== b.clip) return 'clip';
  if (a.toFrame - a.fromFrame !== b.toFrame - b.fromFrame) return 'length';
  const same = a.sourceFrames?.[0] === b.sourceFrames?.[0] && a.speed === b.speed && a.framing === b.framing;
  return same ? 'same' : 'part';
}

/**
 * Two versions of a montage line by line, in the order of their cuts. Cuts on the same frame share a line.
 * @returns frames of the montage; no lines where neither has a slot
 */
export function compareVersions(first: Montage, second: Montage): Comparison {
  const [a, b] = [syncReport(first), syncReport(second)];
  const [left, right] = [linesOf(a), linesOf(b)];
  const lines: ComparedLine[] = [];
  for (let i = 0, k = 0; i < left.length || k < right.length;) {
    const [x, y] = [left[i], right[k]];
    if (x && y && x.slot.fromFrame === y.slot.fromFrame) {
      lines.push({ frame: x.slot.fromFrame, a: x, b: y, change: changeOf(x.slot, y.slot) });
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
  return { lines, same: lines.filter((l) => l.change === 'same').length, a, b };
}
