import { framesPerSecond, stretchesOf, type FootageItem } from '@bluster/core';
import type { Asset } from '../api/wire.ts';

/** For every select without a hit, and every clip without selects, the best frame that was found in it. */
export function bestHits(
  footage: readonly FootageItem[],
  assets: ReadonlyMap<string, Asset>,
): { assetId: string; selectId: string; hit: number }[] {
  return footage.flatMap((item) => {
    const proposals = assets.get(item.assetId)?.info.hits ?? [];
    if (item.kind === 'photo') return [];
    return stretchesOf(item).flatMap((select) => {
      if (select.hit !== null) return [];
      const times = proposals.map((p) => p.frame / framesPerSecond(item.rate));
      const hit = times.find((t) => t > select.in - 1e-6 && t < select.out - 1e-6);
      return hit === undefined ? [] : [{ assetId: item.assetId, selectId: select.id, hit }];
    });
  });
}
