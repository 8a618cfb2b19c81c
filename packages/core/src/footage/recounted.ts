import { clipLength } from '../document/footage-item.ts';
import type { FootageItem, Montage, Select } from '../document/montage.ts';

/** A stretch as far as a clip of another length goes; none where it lies behind its end. @param length seconds */
const within = (select: Select, length: number): Select[] =>
  select.in >= length
    ? []
    : [{ ...select, out: Math.min(select.out, length), hit: select.hit !== null && select.hit >= length ? null : select.hit }];

/**
 * A montage whose clips have as many frames as were found when they were looked at: one that is damaged has fewer than it says.
 * Selects end where their clip does.
 * @param counts frames, by asset; clips that are not in it stay as they are
 * @returns the same montage where nothing differs
 */
export function recounted(montage: Montage, counts: ReadonlyMap<string, number>): Montage {
  const differs = ({ assetId, kind, frames }: FootageItem): boolean =>
    kind === 'clip' && counts.has(assetId) && counts.get(assetId) !== frames && counts.get(assetId)! > 0;
  if (!montage.footage.some(differs)) return montage;
  const footage = montage.footage.map((item) => {
    if (!differs(item)) return item;
    const counted = { ...item, frames: counts.get(item.assetId)! };
    return { ...counted, selects: item.selects.flatMap((select) => within(select, clipLength(counted))) };
  });
  return { ...montage, footage };
}
