import { scoreOf, type Slot } from '@bluster/core';
import { montageNow, useEditor } from '../document/editor.ts';

/** Chooses a slot; with Shift all up to it, with Ctrl it besides the others. */
export function chooseSlot(slot: Slot, event?: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }): void {
  const { select, selection } = useEditor.getState();
  const { slotStart, moreSlots } = selection;
  const base = { pegId: null, markIds: [] };
  if (slotStart !== null && event?.shiftKey) {
    const { slots } = scoreOf(montageNow());
    const first = slots.findIndex((s) => s.start.id === slotStart);
    const [a, b] = [first, slot.index].sort((x, y) => x - y) as [number, number];
    select({
      ...base,
      slotStart,
      moreSlots: slots
        .slice(a, b + 1)
        .map((s) => s.start.id)
        .filter((id) => id !== slotStart),
    });
  } else if (slotStart !== null && slotStart !== slot.start.id && (event?.ctrlKey || event?.metaKey)) {
    const others = moreSlots.includes(slot.start.id) ? moreSlots.filter((id) => id !== slot.start.id) : [...moreSlots, slot.start.id];
    select({ ...base, slotStart, moreSlots: others });
  } else select({ ...base, slotStart: slot.start.id });
}
