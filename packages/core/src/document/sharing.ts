import type { Montage } from './montage.ts';

/** Whether two values of JSON say the same; ends at the first difference. */
export function saysTheSame(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b)) {
    if (!Array.isArray(a) || !Array.isArray(b) || a.length !== b.length) return false;
    for (let i = 0; i < a.length; i++) if (!saysTheSame(a[i], b[i])) return false;
    return true;
  }
  const [one, other] = [a as Record<string, unknown>, b as Record<string, unknown>];
  let keys = 0;
  for (const key in one) {
    keys++;
    if (one[key] !== other[key] && !saysTheSame(one[key], other[key])) return false;
    if (one[key] === undefined && !(key in other)) return false;
  }
  for (const _ in other) keys--;
  return keys === 0;
}

/**
 * The montage `after` with every list and value that says the same as in `before` taken from there, so that what is found
 * once for each of them (marks in use, clips by id …) need not be found again.
 * @returns `before` itself where nothing changed; ids that were given out and not used do not count
 */
export function sharing(before: Montage, after: Montage): Montage {
  if (before === after) return before;
  const shared: Record<string, unknown> = { ...after };
  let changed = false;
  for (const key of Object.keys(after) as (keyof Montage)[]) {
    if (saysTheSame(before[key], after[key])) shared[key] = before[key];
    else if (key !== 'lastId') changed = true;
  }
  return changed ? (shared as Montage) : before;
}
