import { marksInUse, type Mark, type Montage } from './document.ts';
import { markInSlot } from './hang-shot.ts';
import type { Slot } from './score.ts';

/** Weight of the downbeat of a bar; what weighs more asks for a hit. */
export const BAR_WEIGHT = 0.55;

/** How much a mark asks for a picture to happen on it, 0 to 1. */
export function markWeight(mark: Mark): number {
  switch (mark.kind) {
    case 'drop':
      return 1;
    case 'cue':
      return 0.9;
    case 'accent':
      return 0.8 * (mark.strength ?? 0.7);
    case 'bar':
      return BAR_WEIGHT;
    case 'beat':
      return 0.3;
  }
}

/** A mark inside a slot and the frame of the slot on which it falls. */
export interface MarkInSlot {
  readonly mark: Mark;
  readonly into: number;
  readonly weight: number;
}

const sorted = new WeakMap<Montage, readonly Mark[]>();

/** The marks that fall into a slot, the weightiest first. Those on its first frame count: a cut lands there. */
export function marksOfSlot(montage: Montage, slot: Slot): MarkInSlot[] {
  let marks = sorted.get(montage);
  if (!marks) sorted.set(montage, (marks = [...marksInUse(montage)].sort((a, b) => a.time - b.time)));
  // A song of one piece is searched by halving; one of several is walked through.
  const near = montage.song?.pieces.length === 1 ? between(marks, montage.song.pieces[0]!.from + slot.start.time, slot.length) : marks;
  return near
    .flatMap((mark): MarkInSlot[] => {
      const into = markInSlot(montage, mark, slot);
      return into === null ? [] : [{ mark, into, weight: markWeight(mark) }];
    })
    .sort((a, b) => b.weight - a.weight || a.into - b.into);
}

function between(marks: readonly Mark[], from: number, length: number): readonly Mark[] {
  const first = (time: number): number => {
    let [low, high] = [0, marks.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (marks[middle]!.time < time) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  return marks.slice(first(from - 1), first(from + length + 1));
}
