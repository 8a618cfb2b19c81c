/**
 * A value that has to be there.
 * @template T @param {T} value @param {string} [what] @returns {NonNullable<T>}
 */
export function there(value, what = 'what is needed') {
  if (value === null || value === undefined) throw new Error(`${what} is not there`);
  return value;
}
