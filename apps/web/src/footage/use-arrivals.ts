import { useEffect } from 'react';
import { toast } from 'sonner';
import { create } from 'zustand';
import { UNDESCRIBED, carryOut, emptyMontage, rateLabel, type FootageItem, type Montage, type Shape } from '@bluster/core';
import type { Asset } from '../api/wire.ts';
import { montageNow, useEditor } from '../project/editor.ts';

/**
 * Assets that were brought in here and wait to be made ready, with their places in the order in which they were dropped.
 * Watched like the assets themselves: a short clip may be ready before it is known here that it was brought in.
 */
const useArriving = create<{ readonly arriving: ReadonlyMap<string, number> }>(() => ({ arriving: new Map() }));
/** Places of all that came while the page is open: what is ready later goes before what was dropped after it. */
const places = new Map<string, number>();
/** The shape that the montage took from a clip, and that clip's place. */
let shapeFrom: { readonly place: number; readonly shape: Shape } | null = null;

/** An asset that was brought in; one that the montage has already is said to be there. */
export function expectAsset(asset: Asset, place: number): void {
  const { footage, sounds } = montageNow();
  if ([...footage, ...sounds].some((item) => item.assetId === asset.id)) toast(`${asset.name} is here already; it is kept once.`);
  else useArriving.setState(({ arriving }) => ({ arriving: new Map(arriving).set(asset.id, place) }));
}

function itemOf(asset: Asset): FootageItem {
  const { info } = asset;
  const photo = asset.kind === 'photo';
  const rate = info.rate ?? { num: 1, den: 1 };
  const frames = photo ? 1 : (info.frames ?? 1);
  return {
    assetId: asset.id,
    kind: photo ? 'photo' : 'clip',
    name: asset.name,
    width: info.width ?? 16,
    height: info.height ?? 9,
    rate,
    frames,
    hasSound: info.hasSound ?? false,
    ...UNDESCRIBED,
  };
}

const sameShape = (a: Shape, b: Shape): boolean => JSON.stringify(a) === JSON.stringify(b);

/** The story with new items each before the first that was dropped after it. */
function inDropOrder(footage: readonly FootageItem[], items: readonly FootageItem[]): string[] {
  const ids = footage.map((f) => f.assetId).filter((id) => !items.some((item) => item.assetId === id));
  for (const { assetId } of items) {
    const place = places.get(assetId) ?? Infinity;
    const later = ids.findIndex((id) => (places.get(id) ?? -1) > place);
    ids.splice(later < 0 ? ids.length : later, 0, assetId);
  }
  return ids;
}

/** The shape of the clip that was dropped first, while the montage has none of its own or one that a later clip brought. */
function shapeOfFirst(montage: Montage, items: readonly FootageItem[]): Shape | null {
  const clips = items.filter((item) => item.kind === 'clip').sort((a, b) => (places.get(a.assetId) ?? 0) - (places.get(b.assetId) ?? 0));
  const first = clips[0];
  if (!first) return null;
  const place = places.get(first.assetId) ?? 0;
  const fresh = sameShape(montage.shape, emptyMontage().shape) && !montage.footage.some((f) => f.kind === 'clip');
  const earlier = shapeFrom && place < shapeFrom.place && sameShape(montage.shape, shapeFrom.shape);
  if (!fresh && !earlier) return null;
  const even = (side: number): number => Math.max(16, 2 * Math.round(side / 2));
  const shape = { width: even(first.width), height: even(first.height), rate: first.rate };
  shapeFrom = { place, shape };
  return sameShape(shape, montage.shape) ? null : shape;
}

/** Puts pictures into the story where they were dropped. The clip dropped first brings its size and rate, unless others were chosen. */
function addPictures(items: readonly FootageItem[]): void {
  const shape = shapeOfFirst(montageNow(), items);
  useEditor.getState().runAll('Add footage', (montage) => {
    const added = carryOut(montage, { do: 'addFootage', items });
    const ordered = carryOut(added, { do: 'orderFootage', assetIds: inDropOrder(montage.footage, items) });
    return shape ? carryOut(ordered, { do: 'setShape', shape }) : ordered;
  });
  if (shape)
    toast(
      `The montage is ${shape.width}×${shape.height} at ${rateLabel(shape.rate)} now, like its first clip. It can be changed below the clip.`,
    );
}

/** Puts files into the footage once the server has counted their frames; their previews may still be on their way. */
export function useArrivals(assets: ReadonlyMap<string, Asset>): void {
  const arriving = useArriving((state) => state.arriving);
  useEffect(() => {
    const here = [...arriving.keys()].flatMap((id) => assets.get(id) ?? []);
    const counted = here.filter((a) => a.state === 'ready' || a.info.looked === true);
    const arrived = here.filter((a) => a.state !== 'working' || counted.includes(a));
    if (arrived.length === 0) return;
    const left = new Map(arriving);
    for (const { id } of arrived) {
      places.set(id, arriving.get(id)!);
      left.delete(id);
    }
    useArriving.setState({ arriving: left });
    const { run } = useEditor.getState();
    const sounds = counted.filter((a) => a.kind === 'sound');
    const pictures = counted.filter((a) => a.kind === 'clip' || a.kind === 'photo');
    if (pictures.length > 0) addPictures(pictures.map(itemOf));
    if (sounds.length > 0)
      run({
        do: 'addSounds',
        sounds: sounds.map(({ id, name, info }) => ({ assetId: id, name, length: info.length ?? 0, hit: info.hit ?? 0 })),
      });
  }, [assets, arriving]);
}
