/**
 * A function whose answer is found once for each object that it is asked about, and forgotten with that object. Only for
 * objects that do not change.
 * @example
 * const lengthOf = onceFor((montage: Montage) => montage.shots.length);
 */
export function onceFor<Key extends object, Value>(find: (key: Key) => Value): (key: Key) => Value {
  const known = new WeakMap<Key, { readonly value: Value }>();
  return (key) => {
    let found = known.get(key);
    if (!found) known.set(key, (found = { value: find(key) }));
    return found.value;
  };
}
