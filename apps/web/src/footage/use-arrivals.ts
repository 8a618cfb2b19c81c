import { useEffect } from 'react';
import { toast } from 'sonner';
import { UNDESCRIBED, carryOut, emptyMontage, rateLabel, type FootageItem } from '@bluster/core';
import type { Asset } from '../api/wire.ts';
import { montageNow, useEditor } from '../project/editor.ts';

/** Assets that were brought in here and wait to be made ready, in the order they came. */
const arriving = new Set<string>();

/** An asset that was brought in; one that the montage has already is said to be there. */
export function expectAsset(asset: Asset): void {
  const { footage, sounds } = montageNow();
  if ([...footage, ...sounds].some((item) => item.assetId === asset.id)) toast(`${asset.name} is here already; it is kept once.`);
  else arriving.add(asset.id);
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

/** The first clip of all brings its size and rate with it, unless the montage was given others. */
function addPictures(items: readonly FootageItem[]): void {
  const { footage, shape } = montageNow();
  const first = items.find((item) => item.kind === 'clip');
  const untouched = JSON.stringify(shape) === JSON.stringify(emptyMontage().shape);
  const even = (side: number): number => Math.max(16, 2 * Math.round(side / 2));
  const own = first && { width: even(first.width), height: even(first.height), rate: first.rate };
  const { runAll } = useEditor.getState();
  if (footage.length > 0 || !own || !untouched || JSON.stringify(own) === JSON.stringify(shape)) {
    useEditor.getState().run({ do: 'addFootage', items });
    return;
  }
  runAll('Add footage', (montage) => carryOut(carryOut(montage, { do: 'addFootage', items }), { do: 'setShape', shape: own }));
  toast(`The montage is ${own.width}×${own.height} at ${rateLabel(own.rate)} now, like its first clip. It can be changed below the clip.`);
}

/** Puts files into the footage once the server has counted their frames; their previews may still be on their way. */
export function useArrivals(assets: ReadonlyMap<string, Asset>): void {
  useEffect(() => {
    const here = [...arriving].flatMap((id) => assets.get(id) ?? []);
    const counted = here.filter((a) => a.state === 'ready' || a.info.looked === true);
    for (const { id, state } of here) if (state !== 'working' || counted.some((a) => a.id === id)) arriving.delete(id);
    const { run } = useEditor.getState();
    const sounds = counted.filter((a) => a.kind === 'sound');
    const pictures = counted.filter((a) => a.kind === 'clip' || a.kind === 'photo');
    if (pictures.length > 0) addPictures(pictures.map(itemOf));
    if (sounds.length > 0)
      run({
        do: 'addSounds',
        sounds: sounds.map(({ id, name, info }) => ({ assetId: id, name, length: info.length ?? 0, hit: info.hit ?? 0 })),
      });
  }, [assets]);
}
