import { ROUTES } from '@bluster/wire/routes';
import { sayProblem } from '../../interface/say-problem.ts';
import { toast } from 'sonner';
import { differentMoments, framesPerSecond, scoreOf, slotFrom, type PlacedShot, type Slot } from '@bluster/core';
import { fetchJson } from '../../api/request.ts';
import type { ClipLook } from '@bluster/wire';
import { montageNow, useEditor } from '../../document/editor.ts';
import { useHanging } from './hanging.ts';

/** Goes on with the clip of a slot at the next clearly different picture, in so many slots after it. */
export async function goOnDifferent(slot: (Slot & { readonly placed: PlacedShot }) | undefined, slots: number): Promise<void> {
  if (!slot) return;
  const { item, shot } = slot.placed;
  try {
    const look = await fetchJson<ClipLook>(ROUTES.assetPart(item.assetId, 'look'));
    useEditor.getState().run({ do: 'goOnShot', id: shot.id, slots, starts: differentMoments(look, framesPerSecond(item.rate)) });
  } catch (problem) {
    sayProblem(problem);
  }
}

let copied: string | null = null;

/** The shot of the chosen slot. */
function chosenShot(): PlacedShot | null {
  const { slotStart } = useEditor.getState().selection;
  return slotStart === null ? null : (slotFrom(montageNow(), slotStart)?.placed ?? null);
}

export function copyChosen(): void {
  const placed = chosenShot();
  if (!placed) return;
  copied = placed.shot.id;
  toast(`${placed.item.name} is copied. Choose a slot and press Shift V.`, { id: 'copy', duration: 2000 });
}

export function pasteCopied(): void {
  const { selection, run } = useEditor.getState();
  if (copied !== null && selection.slotStart !== null) run({ do: 'copyShot', id: copied, startPeg: selection.slotStart });
}

/** Divides the chosen slot in half. */
export function halveChosen(): void {
  const { selection, run } = useEditor.getState();
  if (selection.slotStart !== null) run({ do: 'divideSlot', startPeg: selection.slotStart, by: 'half' });
}

export function closeUpChosen(): void {
  const placed = chosenShot();
  if (placed) useEditor.getState().run({ do: 'removeShot', id: placed.shot.id });
}

export function slideChosen(to: 'before' | 'after'): void {
  const placed = chosenShot();
  if (placed) useEditor.getState().run({ do: 'slideShot', id: placed.shot.id, to });
}

export function lockChosen(): void {
  const { selection, run } = useEditor.getState();
  const montage = montageNow();
  const starts = new Set([selection.slotStart, ...selection.moreSlots]);
  const shots = scoreOf(montage).slots.flatMap((s) => (starts.has(s.start.id) && s.placed ? [s.placed.shot] : []));
  if (shots.length > 0) run({ do: 'lockShots', ids: shots.map((s) => s.id), locked: shots.some((s) => !s.locked) });
}

/** Chooses the slot before or after the chosen one; where none is, beside the one in which something was hung last. */
export function chooseBeside(by: 1 | -1): void {
  const { selection, select } = useEditor.getState();
  const { slots } = scoreOf(montageNow());
  const at = slots.findIndex((s) => s.start.id === (selection.slotStart ?? useHanging.getState().lastHung));
  const next = slots[at < 0 ? (by === 1 ? 0 : slots.length - 1) : at + by];
  if (next) select({ slotStart: next.start.id, pegId: null, markIds: [] });
}
