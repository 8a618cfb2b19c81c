/** Index of the first in an ordered list whose key is not below a value; its length where there is none. By halving. */
export function firstFrom<T>(list: readonly T[], keyOf: (item: T) => number, value: number): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (keyOf(list[middle]!) < value) low = middle + 1;
    else high = middle;
  }
  return low;
}
