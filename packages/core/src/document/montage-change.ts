import type { Montage } from './montage.ts';

type Key = keyof Montage;

/** One part of a document that differs: a list from a place on, or a whole value. */
export type PartChange =
  | { readonly key: Key; readonly at: number; readonly before: readonly unknown[]; readonly after: readonly unknown[] }
  | { readonly key: Key; readonly before: unknown; readonly after: unknown };

/** What leads from one montage to another, and back; as small as the edit was. */
export type MontageChange = readonly PartChange[];

/**
 * The change from one montage to another. Documents share what an edit did not touch, so what is the very same object
 * needs no comparing.
 * @returns a change of nothing where both say the same
 */
export function changeBetween(before: Montage, after: Montage): MontageChange {
  return (Object.keys(after) as Key[]).flatMap((key): PartChange[] => {
    const [a, b] = [before[key], after[key]];
    if (a === b) return [];
    if (!Array.isArray(a) || !Array.isArray(b)) return [{ key, before: a, after: b }];
    let start = 0;
    while (start < a.length && start < b.length && a[start] === b[start]) start++;
    let end = 0;
    while (end < a.length - start && end < b.length - start && a[a.length - 1 - end] === b[b.length - 1 - end]) end++;
    if (start === a.length && start === b.length) return [];
    return [{ key, at: start, before: a.slice(start, a.length - end), after: b.slice(start, b.length - end) }];
  });
}

function put(montage: Montage, part: PartChange, from: 'before' | 'after', to: 'before' | 'after'): Montage {
  if (!('at' in part)) return { ...montage, [part.key]: part[to] };
  const list = montage[part.key] as readonly unknown[];
  return { ...montage, [part.key]: [...list.slice(0, part.at), ...part[to], ...list.slice(part.at + part[from].length)] };
}

/**
 * The montage after a change.
 * @param montage the one that it was taken from; of another one the answer is no montage of anybody's
 */
export function carryForward(montage: Montage, change: MontageChange): Montage {
  return change.reduce((m, part) => put(m, part, 'before', 'after'), montage);
}

/**
 * The montage before a change.
 * @param montage the one after the change; of another one the answer is no montage of anybody's
 */
export function takeBack(montage: Montage, change: MontageChange): Montage {
  return change.reduce((m, part) => put(m, part, 'after', 'before'), montage);
}
