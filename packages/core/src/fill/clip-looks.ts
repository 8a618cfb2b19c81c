import { characterOf, type ClipSummary } from '../footage/clip-summary.ts';
import type { FootageItem } from '../document/montage.ts';
import { candidateKey, type SelectLook } from './fill-options.ts';
import { stretchesOf } from '../document/footage-item.ts';

/**
 * What each select of a clip looks like, by its key, from what was seen in the whole of it.
 * @returns one for each stretch of the clip, never none
 */
export function clipLooks(item: FootageItem, summary: ClipSummary): (readonly [string, SelectLook])[] {
  return stretchesOf(item).map((s) => [
    candidateKey(item.assetId, s.id),
    { colours: summary.colours, ...characterOf(summary, s.in, s.out) },
  ]);
}
