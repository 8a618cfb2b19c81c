import { useEffect, useMemo } from 'react';
import { toast } from 'sonner';
import {
  carryOut,
  emptyMontage,
  footageItem,
  proposeShape,
  recounted,
  rateLabel,
  type EffectSound,
  type FootageItem,
  type Montage,
  type Shape,
} from '@bluster/core';
import { useAssets } from '../api/use-project.ts';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { montageNow, useEditor } from '../document/editor.ts';
import { useListening } from '../marking/listening.ts';

/** Assets that this page has taken into the montage, or said to be there: one whose taking was undone does not come back. */
const handled = new Set<string>();
/** Songs that were asked for on this page, in place of the one that is there. */
const askedFor = new Set<string>();

/** An asset that was brought in on this page; one that the montage has already is said to be there. */
export function expectAsset(asset: Asset): void {
  const { song, footage, sounds, faces } = montageNow();
  if ([song, ...footage, ...sounds, ...faces].some((item) => item?.assetId === asset.id)) {
    handled.add(asset.id);
    toast(`${asset.name} is here already; it is kept once.`);
  } else {
    handled.delete(asset.id);
    if (asset.kind === 'song') askedFor.add(asset.id);
  }
}

const itemOf = ({ id, kind, name, info }: Asset): FootageItem => footageItem(id, kind === 'photo' ? 'photo' : 'clip', name, info);

const soundOf = ({ id, name, info }: Asset): EffectSound => ({ assetId: id, name, length: info.length ?? 0, hit: info.hit ?? 0 });

/** The story with new items each before the first that was brought in after it. */
function inOrder(footage: readonly FootageItem[], items: readonly FootageItem[], placeOf: (id: string) => number): string[] {
  const ids = footage.map((f) => f.assetId).filter((id) => !items.some((item) => item.assetId === id));
  for (const { assetId } of [...items].sort((a, b) => placeOf(a.assetId) - placeOf(b.assetId))) {
    const later = ids.findIndex((id) => placeOf(id) > placeOf(assetId));
    ids.splice(later < 0 ? ids.length : later, 0, assetId);
  }
  return ids;
}

const sameShape = (a: Shape, b: Shape): boolean => a.width === b.width && a.height === b.height && rateLabel(a.rate) === rateLabel(b.rate);

/** The shape that most of the footage has, while the montage's was not chosen by hand and nothing hangs in it yet. */
function followedShape(montage: Montage, footage: readonly FootageItem[]): Shape | null {
  const before = proposeShape(montage.footage) ?? emptyMontage().shape;
  const followed = montage.shots.length === 0 && sameShape(montage.shape, before);
  const proposed = followed ? proposeShape(footage) : null;
  return proposed && !sameShape(proposed, montage.shape) ? proposed : null;
}

/** Puts pictures into the story where they were brought in. As long as none was chosen, the film's shape is what most of them have. */
function addPictures(items: readonly FootageItem[], placeOf: (id: string) => number): void {
  const now = montageNow();
  const shape = followedShape(now, [...now.footage, ...items]);
  useEditor.getState().runAll('Add footage', (montage) => {
    const added = carryOut(montage, { do: 'addFootage', items });
    const ordered = carryOut(added, { do: 'orderFootage', assetIds: inOrder(montage.footage, items, placeOf) });
    return shape ? carryOut(ordered, { do: 'setShape', shape }) : ordered;
  });
  if (shape)
    toast(
      `The montage is ${shape.width}×${shape.height} at ${rateLabel(shape.rate)} fps now, as most of its footage is. It can be changed below the clip.`,
      { id: 'shape', duration: 6000 },
    );
}

function takeSong(asset: Asset): void {
  if (useEditor.getState().run({ do: 'setSong', assetId: asset.id, name: asset.name, length: asset.info.length ?? 0 }))
    void useListening.getState().detect(asset.id);
}

/** A song that came in while another was chosen elsewhere is offered, not taken: the marks of the one that is there would go. */
function offerSong(asset: Asset): void {
  toast(`${asset.name} has come in. Take it in place of ${montageNow().song!.name}?`, {
    duration: 30_000,
    action: { label: 'Take it', onClick: () => takeSong(asset) },
  });
}

/**
 * Takes what was brought in into the montage, whatever view is open and whichever page brought it in: pictures once the server has
 * counted their frames, whether or not they were looked at and have their previews; songs and sounds once they are decoded.
 */
export function useArrivals(projectId: string): void {
  const { assets } = useAssets(projectId);
  useEffect(() => {
    const { song, footage, sounds, faces } = montageNow();
    const here = new Set([song, ...footage, ...sounds, ...faces].map((item) => item?.assetId));
    const fresh = [...assets.values()].filter(
      (a) =>
        a.awaits && !here.has(a.id) && !handled.has(a.id) && (a.state === 'ready' || (a.state === 'working' && a.info.strip !== undefined)),
    );
    if (fresh.length === 0) return;
    for (const { id } of fresh) handled.add(id);
    const newSong = fresh.filter((a) => a.kind === 'song').sort((a, b) => (b.info.place ?? 0) - (a.info.place ?? 0))[0];
    if (newSong && (!song || askedFor.has(newSong.id))) takeSong(newSong);
    else if (newSong) offerSong(newSong);
    const pictures = fresh.filter((a) => a.kind === 'clip' || a.kind === 'photo');
    if (pictures.length > 0) addPictures(pictures.map(itemOf), (id) => assets.get(id)?.info.place ?? 0);
    const heard = fresh.filter((a) => a.kind === 'sound');
    const written = fresh.filter((a) => a.kind === 'face');
    if (written.length > 0)
      useEditor
        .getState()
        .run({ do: 'addFaces', faces: written.map(({ id, name, info }) => ({ assetId: id, name: info.family || name })) });
    if (heard.length > 0) useEditor.getState().run({ do: 'addSounds', sounds: heard.map(soundOf) });
  }, [assets]);
  // What a glance took on trust is put right once a clip has been looked at.
  const counts = useMemo(
    () => new Map([...assets.values()].flatMap(({ id, info }) => (info.looked && info.frames ? [[id, info.frames] as const] : []))),
    [assets],
  );
  useEffect(() => {
    if (recounted(montageNow(), counts) !== montageNow()) useEditor.getState().amend((montage) => recounted(montage, counts));
  }, [counts]);
  // A page that was closed while it listened left a song without marks.
  const song = assets.get(montageNow().song?.assetId ?? '');
  const unheard = song?.state === 'ready' && montageNow().marks.length === 0 && useEditor.getState().history.past.length === 0;
  const songId = unheard ? song.id : null;
  useEffect(() => {
    if (songId && useListening.getState().part === null && useListening.getState().assetId !== songId)
      void useListening.getState().detect(songId);
  }, [songId]);
}
