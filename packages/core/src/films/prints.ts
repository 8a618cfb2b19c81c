/** A frame's print: the lightness of its picture in so many fields a side, one byte each, row by row. */
export const PRINT_SIDE = 16;
export const PRINT_BYTES = PRINT_SIDE * PRINT_SIDE;

/** Where a cut was found in a film. */
export interface FoundCut {
  readonly number: number;
  /** where it was planned, frames of the film */
  readonly frame: number;
  /** the frame on which it is; null where no frame can be told to be it */
  readonly found: number | null;
  /** why none can be told: the pictures on both sides are alike, or something else stands there */
  readonly why: 'alike' | 'another picture' | null;
}

/** Frames on each side of a cut that are compared. */
const SIDE = 4;
/** A cut is looked for so many frames around its place. */
export const FARTHEST_SHIFT = 12;
/** What coding alone changes in a print, squared and summed, at the most. */
const NOISE = PRINT_BYTES * 2 ** 2;
/** Prints differ so much on average where another picture stands: steps of lightness, squared. */
const ANOTHER = PRINT_BYTES * 20 ** 2;

function apart(a: Uint8Array, i: number, b: Uint8Array, j: number): number {
  let sum = 0;
  for (let k = 0; k < PRINT_BYTES; k++) {
    const d = a[i * PRINT_BYTES + k]! - b[j * PRINT_BYTES + k]!;
    sum += d * d;
  }
  return sum;
}

/** How unlike what should stand around a cut is to what stands so many frames later, a frame on average; null beyond the film's ends. */
function unlike(planned: Uint8Array, read: Uint8Array, cut: number, shift: number): number | null {
  const [all, there] = [planned.length / PRINT_BYTES, read.length / PRINT_BYTES];
  let sum = 0;
  let count = 0;
  for (let n = Math.max(0, cut - SIDE); n < Math.min(all, cut + SIDE); n++) {
    if (n + shift < 0 || n + shift >= there) continue;
    sum += apart(planned, n, read, n + shift);
    count++;
  }
  // Both sides have to be there.
  return count > SIDE ? sum / count : null;
}

/**
 * Finds each cut of a film by what should stand on both sides of it: the frames around it are laid over the film, some frames
 * earlier and later, and where they fit best it is. Pictures that do not change from one side to the other are in no place.
 * @param planned prints of the frames as they were to be, PRINT_BYTES each
 * @param read prints of the frames as they are in the film
 * @param cuts the frames on which they were planned
 */
export function findCuts(
  planned: Uint8Array,
  read: Uint8Array,
  cuts: readonly { readonly number: number; readonly frame: number }[],
): FoundCut[] {
  return cuts.map(({ number, frame }) => {
    const shifts = Array.from({ length: 2 * FARTHEST_SHIFT + 1 }, (_, i) => i - FARTHEST_SHIFT)
      .flatMap((shift) => {
        const cost = unlike(planned, read, frame, shift);
        return cost === null ? [] : [{ shift, cost }];
      })
      .sort((a, b) => a.cost - b.cost || Math.abs(a.shift) - Math.abs(b.shift));
    const [best, ...others] = shifts;
    if (!best || best.cost > ANOTHER) return { number, frame, found: null, why: 'another picture' };
    // The next best has to be clearly worse, else the place cannot be told.
    const next = others[0]?.cost ?? Infinity;
    if (next < NOISE / (2 * SIDE) || next < 1.3 * best.cost) return { number, frame, found: null, why: 'alike' };
    return { number, frame, found: frame + best.shift, why: null };
  });
}
