/** The middle one of some values, of an even number the upper of the two; undefined where there is none. */
export function median(values: readonly number[]): number | undefined {
  return [...values].sort((a, b) => a - b)[values.length >> 1];
}
