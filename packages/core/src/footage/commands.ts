import { CommandError } from '../document/command-error.ts';
import type { FootageItem, Montage, Select, Framing, EffectSound } from '../document/montage.ts';
import { WHOLE_CLIP, clipLength } from '../document/footage-item.ts';
import { command } from '../document/command.ts';

function itemOf(montage: Montage, assetId: string): FootageItem {
  const item = montage.footage.find((f) => f.assetId === assetId);
  if (!item) throw new CommandError('That clip is no longer in the footage.');
  return item;
}

function filmOf(montage: Montage, assetId: string): FootageItem {
  const item = itemOf(montage, assetId);
  if (item.kind === 'photo') throw new CommandError('A photo has no in and out.');
  return item;
}

function changed(montage: Montage, item: FootageItem, to: Partial<FootageItem>): Montage {
  return { ...montage, footage: montage.footage.map((f) => (f === item ? { ...f, ...to } : f)) };
}

/** In and out brought into the clip, at least a frame apart; a hit outside them is let go. */
function inside(item: FootageItem, select: Select): Select {
  const length = clipLength(item);
  const frame = item.rate.den / item.rate.num;
  const from = Math.max(0, Math.min(select.in, length - frame));
  const to = Math.max(from + frame, Math.min(select.out, length));
  const hit = select.hit !== null && select.hit > from - 1e-6 && select.hit < to - 1e-6 ? Math.max(0, select.hit) : null;
  return { ...select, in: from, out: to, hit };
}

/** Those whose asset is neither there nor named twice. */
function notYetIn<T extends { readonly assetId: string }>(there: readonly T[], items: readonly T[]): T[] {
  const known = new Set(there.map((item) => item.assetId));
  return items.filter(({ assetId }) => !known.has(assetId) && known.add(assetId));
}

const inOrder = (selects: readonly Select[]): Select[] => [...selects].sort((a, b) => a.in - b.in || a.out - b.out);

export const footageCommands = {
  addFootage: command<{ items: readonly FootageItem[] }>('Add footage', (montage, { items }) => {
    const fresh = notYetIn(montage.footage, items);
    return fresh.length === 0 ? montage : { ...montage, footage: [...montage.footage, ...fresh] };
  }),

  removeFootage: command<{ assetIds: readonly string[] }>('Remove footage', (montage, { assetIds }) => {
    const gone = new Set(assetIds);
    return {
      ...montage,
      footage: montage.footage.filter((item) => !gone.has(item.assetId)),
      shots: montage.shots.filter((shot) => !gone.has(shot.assetId)),
    };
  }),

  orderFootage: command<{ assetIds: readonly string[] }>('Change the story order', (montage, { assetIds }) => {
    const place = new Map(assetIds.map((id, i) => [id, i]));
    const end = assetIds.length;
    return { ...montage, footage: [...montage.footage].sort((a, b) => (place.get(a.assetId) ?? end) - (place.get(b.assetId) ?? end)) };
  }),

  /** in and out of a select, clip seconds; without one, a new select */
  setSelect: command<{ assetId: string; selectId: string | null; in: number; out: number }>(
    'Set in and out',
    (montage, { assetId, selectId, in: from, out }) => {
      const item = filmOf(montage, assetId);
      const old = item.selects.find((s) => s.id === selectId);
      if (selectId !== null && selectId !== WHOLE_CLIP && !old) throw new CommandError('That select is no longer there.');
      const id = old?.id ?? `c${montage.lastId + 1}`;
      const select = inside(item, { id, in: from, out, hit: old?.hit ?? null });
      const selects = inOrder([...item.selects.filter((s) => s !== old), select]);
      return changed(old ? montage : { ...montage, lastId: montage.lastId + 1 }, item, { selects });
    },
  ),

  addSelects: command<{
    assetId: string;
    stretches: readonly { readonly in: number; readonly out: number; readonly hit?: number | null }[];
    how: 'add' | 'replace';
  }>('Add selects', (montage, { assetId, stretches, how }) => {
    const item = filmOf(montage, assetId);
    let { lastId } = montage;
    const fresh = stretches.map((s) => inside(item, { id: `c${++lastId}`, in: s.in, out: s.out, hit: s.hit ?? null }));
    if (fresh.length === 0) return montage;
    return changed({ ...montage, lastId }, item, { selects: inOrder(how === 'replace' ? fresh : [...item.selects, ...fresh]) });
  }),

  removeSelect: command<{ assetId: string; selectId: string }>('Remove a select', (montage, { assetId, selectId }) => {
    const item = filmOf(montage, assetId);
    const selects = item.selects.filter((s) => s.id !== selectId);
    return selects.length === item.selects.length ? montage : changed(montage, item, { selects });
  }),

  /** the frame of a select where its action happens, clip seconds; null for none */
  setHit: command<{ assetId: string; selectId: string; hit: number | null }>('Set a hit', (montage, { assetId, selectId, hit }) =>
    withHit(montage, assetId, selectId, hit),
  ),

  takeHits: command<{ hits: readonly { readonly assetId: string; readonly selectId: string; readonly hit: number }[] }>(
    'Take the proposed hits',
    (montage, { hits }) => hits.reduce((m, { assetId, selectId, hit }) => withHit(m, assetId, selectId, hit), montage),
  ),

  describeFootage: command<{
    assetIds: readonly string[];
    rating?: number;
    note?: string;
    addTags?: readonly string[];
    removeTags?: readonly string[];
  }>('Describe footage', (montage, { assetIds, rating, note, addTags = [], removeTags = [] }) => {
    const chosen = new Set(assetIds);
    const tidy = addTags.map((t) => t.trim().slice(0, 40)).filter(Boolean);
    return {
      ...montage,
      footage: montage.footage.map((item) => {
        if (!chosen.has(item.assetId)) return item;
        const tags = [...new Set([...item.tags, ...tidy])].filter((t) => !removeTags.includes(t)).slice(0, 40);
        return { ...item, rating: rating ?? item.rating, note: (note ?? item.note).slice(0, 2000), tags };
      }),
    };
  }),

  /** what stays in the picture when it is cropped, parts of its width and height */
  setFocus: command<{ assetId: string; x: number; y: number }>('Set the focus point', (montage, { assetId, x, y }) => {
    const part = (v: number): number => Math.max(0, Math.min(1, v));
    return changed(montage, itemOf(montage, assetId), { focus: { x: part(x), y: part(y) } });
  }),

  /** of footage and of all its shots */
  setFootageFraming: command<{ assetIds: readonly string[]; framing: Framing }>('Change the framing', (montage, { assetIds, framing }) => {
    const chosen = new Set(assetIds);
    return {
      ...montage,
      footage: montage.footage.map((item) => (chosen.has(item.assetId) ? { ...item, framing } : item)),
      shots: montage.shots.map((shot) => (chosen.has(shot.assetId) ? { ...shot, framing } : shot)),
    };
  }),

  addSounds: command<{ sounds: readonly EffectSound[] }>('Add sounds', (montage, { sounds }) => {
    const fresh = notYetIn(montage.sounds, sounds);
    return fresh.length === 0 ? montage : { ...montage, sounds: [...montage.sounds, ...fresh] };
  }),

  removeSounds: command<{ assetIds: readonly string[] }>('Remove sounds', (montage, { assetIds }) => ({
    ...montage,
    sounds: montage.sounds.filter((s) => !assetIds.includes(s.assetId)),
    effects: montage.effects.filter((e) => !assetIds.includes(e.assetId ?? '')),
  })),

  setSoundHit: command<{ assetId: string; hit: number }>("Set a sound's hit", (montage, { assetId, hit }) => ({
    ...montage,
    sounds: montage.sounds.map((s) => (s.assetId === assetId ? { ...s, hit: Math.max(0, Math.min(hit, s.length)) } : s)),
  })),
};

/** A select's hit, or that of a whole clip, which becomes a select by it. */
function withHit(montage: Montage, assetId: string, selectId: string, hit: number | null): Montage {
  const item = filmOf(montage, assetId);
  if (selectId === WHOLE_CLIP) {
    if (item.selects.length > 0) throw new CommandError('That select is no longer there.');
    if (hit === null) return montage;
    const select = inside(item, { id: `c${montage.lastId + 1}`, in: 0, out: clipLength(item), hit });
    return changed({ ...montage, lastId: montage.lastId + 1 }, item, { selects: [select] });
  }
  const old = item.selects.find((s) => s.id === selectId);
  if (!old) throw new CommandError('That select is no longer there.');
  if (hit !== null && !(hit > old.in - 1e-6 && hit < old.out - 1e-6))
    throw new CommandError('The hit must lie between the in and the out of its select.');
  return changed(montage, item, { selects: item.selects.map((s) => (s === old ? { ...s, hit } : s)) });
}
