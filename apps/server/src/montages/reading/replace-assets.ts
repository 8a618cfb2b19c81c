import type { Montage } from '@bluster/core';

/** A montage in which every asset has another id; one without a new id keeps its own. */
export function replaceAssets(montage: Montage, ids: ReadonlyMap<string, string>): Montage {
  const to = (id: string): string => ids.get(id) ?? id;
  return {
    ...montage,
    song: montage.song && { ...montage.song, assetId: to(montage.song.assetId) },
    footage: montage.footage.map((f) => ({ ...f, assetId: to(f.assetId) })),
    sounds: montage.sounds.map((s) => ({ ...s, assetId: to(s.assetId) })),
    faces: montage.faces.map((f) => ({ ...f, assetId: to(f.assetId) })),
    styles: montage.styles.map((s) => (s.look.face === undefined ? s : { ...s, look: { ...s.look, face: to(s.look.face) } })),
    titles: montage.titles.map((t) => (t.face === undefined ? t : { ...t, face: to(t.face) })),
    shots: montage.shots.map((s) => ({ ...s, assetId: to(s.assetId) })),
    effects: montage.effects.map((e) => (e.assetId === undefined ? e : { ...e, assetId: to(e.assetId) })),
  };
}
