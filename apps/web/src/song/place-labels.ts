/** Room that the line's own heading takes above it, and what a letter of a label takes. Pixels. */
const HEADING_PX = 112;
const LETTER_PX = 5.3;
const GAP_PX = 6;

/**
 * Where labels stand above a line, each over its mark as nearly as the heading, the ends and what is there already allow;
 * those without room are left out.
 * @param there what other labels take, from left to right, pixels
 */
export function placeLabels<T extends { readonly why: string }>(
  all: readonly T[],
  xOf: (one: T) => number,
  width: number,
  there: readonly { readonly from: number; readonly to: number }[] = [],
): { readonly of: T; readonly left: number }[] {
  const placed: { of: T; left: number }[] = [];
  let free = HEADING_PX;
  for (const of of all) {
    const wide = of.why.length * LETTER_PX + 6;
    const [x, wanted] = [xOf(of), xOf(of) - wide / 2];
    let left = Math.min(width - wide, Math.max(free, wanted));
    for (const other of there) if (left < other.to + GAP_PX && left + wide > other.from - GAP_PX) left = other.to + GAP_PX;
    // So far from its mark it would be taken for another one's.
    if (left < free || left > x + HEADING_PX || left > width - wide) continue;
    placed.push({ of, left });
    free = left + wide;
  }
  return placed;
}
