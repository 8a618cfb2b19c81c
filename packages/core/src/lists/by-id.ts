const maps = new WeakMap<readonly unknown[], ReadonlyMap<string, unknown>>();

/** A list by its ids; made once for each list, since most edits leave marks and footage as they are. */
export function byId<T>(list: readonly T[], idOf: (item: T) => string): ReadonlyMap<string, T> {
  const known = maps.get(list) as ReadonlyMap<string, T> | undefined;
  if (known) return known;
  const map = new Map<string, T>();
  for (const item of list) map.set(idOf(item), item);
  maps.set(list, map);
  return map;
}

/** A list with some of its items replaced by those of the same id; both mostly lie in the same order. */
export function withChanged<T extends { readonly id: string }>(list: readonly T[], changed: readonly T[]): T[] {
  let next = 0;
  const inTurn = list.map((item) => (item.id === changed[next]?.id ? changed[next++]! : item));
  if (next === changed.length) return inTurn;
  const by = byId(changed, (item) => item.id);
  return list.map((item) => by.get(item.id) ?? item);
}
