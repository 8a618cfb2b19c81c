/** Room that the line's own heading takes above it, and what a letter of a label takes. Pixels. */
const HEADING_PX = 112;
const LETTER_PX = 5.3;

/** Where labels stand above a line, each over its mark as nearly as the heading, the ends and the label before it allow; those without room are left out. */
export function placeLabels<T extends { readonly why: string }>(
  all: readonly T[],
  xOf: (one: T) => number,
  width: number,
): { readonly of: T; readonly left: number }[] {
  const placed: { of: T; left: number }[] = [];
  let free = HEADING_PX;
  for (const of of all) {
    const wide = of.why.length * LETTER_PX + 6;
    const [x, wanted] = [xOf(of), xOf(of) - wide / 2];
    const left = Math.min(width - wide, Math.max(free, wanted));
    // So far from its mark it would be taken for another one's.
    if (left < free || left > x + HEADING_PX) continue;
    placed.push({ of, left });
    free = left + wide;
  }
  return placed;
}
