import type { ProposedHit } from './hits.ts';
import { framesPerSecond } from '../time/rate.ts';
import type { FootageItem } from '../document/montage.ts';
import { stretchesOf } from '../document/footage-item.ts';

/**
 * For every select without a hit, and every clip without selects, the best frame that was found in it; as the command
 * that takes hits wants them, clip seconds.
 * @param proposed hits of a clip, best first
 * @returns none where nothing lacks a hit or nothing was found
 */
export function bestHits(
  footage: readonly FootageItem[],
  proposed: (assetId: string) => readonly ProposedHit[],
): { assetId: string; selectId: string; hit: number }[] {
  return footage.flatMap((item) => {
    if (item.kind === 'photo') return [];
    const times = proposed(item.assetId).map((p) => p.frame / framesPerSecond(item.rate));
    return stretchesOf(item).flatMap((select) => {
      if (select.hit !== null) return [];
      const hit = times.find((t) => t > select.in - 1e-6 && t < select.out - 1e-6);
      return hit === undefined ? [] : [{ assetId: item.assetId, selectId: select.id, hit }];
    });
  });
}
