import { overAt, scoreOf, slotFrom, type Montage, type PlacedShot, type Slot } from '@bluster/core';
import { useEditor, useMontage, type Selection } from '../document/editor.ts';

export type FilledSlot = Slot & { readonly placed: PlacedShot };

const isFilled = (slot: Slot | undefined): slot is FilledSlot => Boolean(slot?.placed);

/** The slots that are chosen and in which something hangs, in the order of time. */
export function chosenSlots(montage: Montage, { slotStart, moreSlots }: Selection): FilledSlot[] {
  if (slotStart === null) return [];
  const { over } = scoreOf(montage);
  return [slotStart, ...moreSlots]
    .map((id) => slotFrom(montage, id) ?? over.find((s) => s.start.id === id))
    .filter(isFilled)
    .sort((a, b) => a.start.frame - b.start.frame);
}

export function useChosenSlots(): FilledSlot[] {
  const selection = useEditor((state) => state.selection);
  return chosenSlots(useMontage(), selection);
}

/** What hangs at a frame of the montage, in sight. */
export function slotInSight(montage: Montage, frame: number): FilledSlot | null {
  const score = scoreOf(montage);
  const slot = overAt(score, frame) ?? score.slots.find((s) => frame >= s.start.frame && frame < s.end.frame);
  return isFilled(slot) ? slot : null;
}
