import type { Montage } from '@bluster/core';

/** A montage in which every asset has another id; one without a new id keeps its own. */
export function replaceAssets(montage: Montage, ids: ReadonlyMap<string, string>): Montage {
  const to = (id: string): string => ids.get(id) ?? id;
  return {
    ...montage,
    song: montage.song && { ...montage.song, assetId: to(montage.song.assetId) },
    footage: montage.footage.map((f) => ({ ...f, assetId: to(f.assetId) })),
    sounds: montage.sounds.map((s) => ({ ...s, assetId: to(s.assetId) })),
    shots: montage.shots.map((s) => ({ ...s, assetId: to(s.assetId) })),
    effects: montage.effects.map((e) => (e.assetId === undefined ? e : { ...e, assetId: to(e.assetId) })),
  };
}
