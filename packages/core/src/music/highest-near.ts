const { ceil, floor, max, min } = Math;

/** The largest value within a reach of a place, both in frames; 0 where there is none. */
export function highestNear(values: Float32Array, centre: number, reach = 1): number {
  let top = 0;
  for (let i = max(0, floor(centre - reach)); i <= min(values.length - 1, ceil(centre + reach)); i++) top = max(top, values[i]!);
  return top;
}
