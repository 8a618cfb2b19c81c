import type { FootageItem, Montage } from '../document/montage.ts';
import { clipLength } from '../document/footage-item.ts';

/** What else is known of a file when footage is sorted; what is not known sorts last. */
export interface KnownOfFile {
  /** when it was filmed, ms since 1970; else when it was brought in */
  readonly takenAt?: number;
  readonly movement?: number;
  readonly brightness?: number;
}

export const FOOTAGE_ORDERS = ['story', 'name', 'length', 'taken', 'movement', 'brightness', 'rating'] as const;
export type FootageOrder = (typeof FOOTAGE_ORDERS)[number];

/** What of the footage is looked at, and in which order. */
export interface FootageSieve {
  /** words, each of which must be in the name, the note or a tag */
  readonly text: string;
  readonly order: FootageOrder;
  readonly use: 'any' | 'used' | 'unused';
  readonly kind: 'any' | 'clip' | 'photo';
  readonly leastRating: number;
}

export const ALL_FOOTAGE: FootageSieve = { text: '', order: 'story', use: 'any', kind: 'any', leastRating: 0 };

/**
 * How often each clip hangs in the score.
 * @returns by asset; clips that do not hang are not in it
 */
export function usesOf(montage: Montage): ReadonlyMap<string, number> {
  const uses = new Map<string, number>();
  for (const shot of montage.shots) uses.set(shot.assetId, (uses.get(shot.assetId) ?? 0) + 1);
  return uses;
}

const names = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/**
 * The footage that a sieve lets through, in its order; items that are alike keep their story order.
 * @returns none where nothing is like that
 */
export function siftFootage(
  footage: readonly FootageItem[],
  sieve: FootageSieve,
  uses: ReadonlyMap<string, number>,
  known: (assetId: string) => KnownOfFile | undefined,
): FootageItem[] {
  const words = sieve.text.toLowerCase().split(/\s+/).filter(Boolean);
  const kept = footage.filter((item) => {
    if (sieve.kind !== 'any' && item.kind !== sieve.kind) return false;
    if (item.rating < sieve.leastRating) return false;
    if (sieve.use !== 'any' && uses.has(item.assetId) !== (sieve.use === 'used')) return false;
    if (words.length === 0) return true;
    const text = `${item.name}\n${item.note}\n${item.tags.join('\n')}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
  const last = (value: number | undefined): number => value ?? Infinity;
  const most = (value: number | undefined): number => -(value ?? -1);
  const compare: Record<FootageOrder, ((a: FootageItem, b: FootageItem) => number) | null> = {
    story: null,
    name: (a, b) => names.compare(a.name, b.name),
    // A photo has no length of its own.
    length: (a, b) => (a.kind === 'photo' ? 1e9 : -clipLength(a)) - (b.kind === 'photo' ? 1e9 : -clipLength(b)),
    taken: (a, b) => last(known(a.assetId)?.takenAt) - last(known(b.assetId)?.takenAt) || 0,
    movement: (a, b) => most(known(a.assetId)?.movement) - most(known(b.assetId)?.movement),
    brightness: (a, b) => most(known(a.assetId)?.brightness) - most(known(b.assetId)?.brightness),
    rating: (a, b) => b.rating - a.rating,
  };
  const by = compare[sieve.order];
  return by ? kept.sort(by) : kept;
}

/**
 * Story order after some items were carried to the place of another, in the order in which they were picked up.
 * @returns ids in their new order; the same where the target is among those carried
 */
export function movedTo(order: readonly string[], carried: readonly string[], target: string): string[] {
  if (carried.includes(target)) return [...order];
  const rest = order.filter((id) => !carried.includes(id));
  const forward = order.indexOf(carried[0] ?? '') < order.indexOf(target);
  const at = rest.indexOf(target) + (forward ? 1 : 0);
  return [...rest.slice(0, at), ...carried, ...rest.slice(at)];
}
