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
