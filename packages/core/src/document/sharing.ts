import type { Montage } from './montage.ts';

function isRecord(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === 'object' && value !== null;
}

/** `after`, with every part that says the same as in `before` replaced by that very object. */
function shared(before: unknown, after: unknown): unknown {
  if (before === after || !isRecord(before) || !isRecord(after)) return after;
  if (Array.isArray(before) !== Array.isArray(after)) return after;
  if (Array.isArray(after)) return sharedList(before as unknown as readonly unknown[], after);
  const keys = Object.keys(after);
  let same = keys.length === Object.keys(before).length;
  let made: Record<string, unknown> | null = null;
  for (const key of keys) {
    const part = shared(before[key], after[key]);
    if (part !== before[key] || !(key in before)) same = false;
    if (part !== after[key]) (made ??= { ...after })[key] = part;
  }
  return same ? before : (made ?? after);
}

/** Lists are compared from both ends, so that what was put in or taken out between them hides nothing. */
function sharedList(before: readonly unknown[], after: readonly unknown[]): readonly unknown[] {
  let made: unknown[] | null = null;
  const keep = (at: number, old: number): boolean => {
    const item = shared(before[old], after[at]);
    if (item !== after[at]) (made ??= [...after])[at] = item;
    return item === before[old];
  };
  const least = Math.min(before.length, after.length);
  let start = 0;
  while (start < least && keep(start, start)) start++;
  if (start === before.length && start === after.length) return before;
  let end = 0;
  while (end < least - start && keep(after.length - 1 - end, before.length - 1 - end)) end++;
  if (before.length === after.length) for (let i = start + 1; i < after.length - end - 1; i++) keep(i, i);
  return made ?? after;
}

/**
 * The montage `after` with every part that says the same as in `before` taken from there, so that what is found once for
 * each part (slots, marks in use …) need not be found again, and a step of the history holds only what changed.
 * @returns `before` itself where nothing changed; ids that were given out and not used do not count
 */
export function sharing(before: Montage, after: Montage): Montage {
  if (before === after) return before;
  const whole = shared(before, after) as Montage;
  return whole !== before && (Object.keys(whole) as (keyof Montage)[]).every((key) => key === 'lastId' || whole[key] === before[key])
    ? before
    : whole;
}
