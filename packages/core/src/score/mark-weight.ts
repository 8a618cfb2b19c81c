import type { Mark, Montage } from '../document/montage.ts';
import { MARKS } from '../marks/kinds/all.ts';
import { firstFrom } from '../lists/first-from.ts';
import { placedMarks } from '../marks/placed-marks.ts';
import type { Slot } from './score.ts';

/** Weight of the downbeat of a bar; what weighs more asks for a hit. */
export const BAR_WEIGHT = MARKS.bar.weight(undefined);

/** How much a mark asks for a picture to happen on it, 0 to 1. */
export function markWeight(mark: Mark): number {
  return MARKS[mark.kind].weight(mark.strength);
}

/** A mark inside a slot and the frame of the slot on which it falls. */
export interface MarkInSlot {
  readonly mark: Mark;
  readonly into: number;
  readonly weight: number;
}

/**
 * The marks that fall into a slot, the weightiest first. Those on its first frame count: a cut lands there.
 * @returns none for a slot between marks
 */
export function marksOfSlot(montage: Montage, slot: Slot): MarkInSlot[] {
  const marks = placedMarks(montage);
  const found: MarkInSlot[] = [];
  for (let i = firstFrom(marks, (m) => m.frame, slot.start.frame); i < marks.length && marks[i]!.frame < slot.end.frame; i++) {
    const { mark, frame } = marks[i]!;
    found.push({ mark, into: frame - slot.start.frame, weight: markWeight(mark) });
  }
  return found.sort((a, b) => b.weight - a.weight || a.into - b.into);
}
