import { useEffect } from 'react';
import { UNDESCRIBED, type FootageItem } from '@bluster/core';
import type { Asset } from '../api/wire.ts';
import { useEditor } from '../project/editor.ts';

/** Assets that were brought in here and wait to be made ready, in the order they came. */
const arriving = new Set<string>();

export function expectAsset(asset: Asset): void {
  arriving.add(asset.id);
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

/** Puts files into the footage once the server knows how many frames they really have. */
export function useArrivals(assets: ReadonlyMap<string, Asset>): void {
  useEffect(() => {
    const ready = [...arriving].flatMap((id) => {
      const asset = assets.get(id);
      return asset && asset.state === 'ready' ? [asset] : [];
    });
    for (const id of [...arriving]) if (assets.get(id)?.state !== 'working' && assets.has(id)) arriving.delete(id);
    if (ready.length > 0) useEditor.getState().run({ do: 'addFootage', items: ready.map(itemOf) });
  }, [assets]);
}
