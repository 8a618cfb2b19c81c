import { create } from 'zustand';
import {
  FILL_DEFAULTS,
  frameTime,
  scoreOf,
  sectionStretch,
  toMontageTime,
  type FillCounts,
  type FillOptions,
  type Montage,
} from '@bluster/core';
import { montageNow, useEditor } from '../../document/editor.ts';

/** Which slots are filled. */
type Which = 'all' | 'section' | 'chosen' | 'empty';

interface FillSettings {
  readonly options: FillOptions;
  readonly which: Which;
  set: (to: Partial<FillOptions>) => void;
  setWhich: (which: Which) => void;
}

/** How slots are filled; kept while the page is open. */
export const useFillSettings = create<FillSettings>((set, get) => ({
  options: FILL_DEFAULTS,
  which: 'all',
  set: (to) => set({ options: { ...get().options, ...to } }),
  setWhich: (which) => set({ which }),
}));

/** First pegs of the slots that start in a section. */
export function slotsOfSection(montage: Montage, id: string): string[] {
  const section = sectionStretch(montage, id);
  const { pieces } = montage.song!;
  const [a, b] = [toMontageTime(pieces, section?.from ?? 0) ?? 0, toMontageTime(pieces, (section?.to ?? 0) - 1e-3) ?? Infinity];
  return scoreOf(montage).slots.flatMap((s) => {
    const at = frameTime(s.start.frame, montage.shape.rate);
    return at >= a - 0.05 && at < b ? [s.start.id] : [];
  });
}

/** The options with the slots that are meant. */
export function meant({ options, which }: FillSettings): FillOptions {
  const { selection, section, picked } = useEditor.getState();
  const montage = montageNow();
  const chosen = selection.slotStart ? [selection.slotStart, ...selection.moreSlots] : [];
  const base = { ...options, picked };
  if (which === 'empty') return { ...base, scope: 'empty' };
  if (which === 'chosen') return { ...base, scope: 'chosen', slots: chosen };
  if (which === 'section' && section !== null) return { ...base, scope: 'chosen', slots: slotsOfSection(montage, section) };
  return { ...base, scope: 'all' };
}

/** What filling does, in numbers. */
export function inNumbers(
  { slots, filled, slowed, beyond, held, gaps, missing, divided, repeated, hits, locked }: FillCounts,
  left: number,
): string[] {
  const parts = [`${filled} of ${slots} ${slots === 1 ? 'slot' : 'slots'} filled`];
  if (hits > 0) parts.push(`${hits} hits on marks`);
  if (slowed > 0) parts.push(`${slowed} slowed to fit`);
  if (beyond > 0) parts.push(`${beyond} beyond their select`);
  if (held > 0) parts.push(`${held} hold their last frame`);
  if (divided > 0) parts.push(`${divided} slots divided`);
  if (gaps > 0) parts.push(`${gaps} too short, ${missing.toFixed(2)} s missing`);
  if (repeated > 0) parts.push(`${repeated} times a clip comes again`);
  if (locked > 0) parts.push(`${locked} locked`);
  if (left > 0) parts.push(`${left} ${left === 1 ? 'clip' : 'clips'} left over`);
  return parts;
}
