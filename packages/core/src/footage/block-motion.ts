const { abs, floor, max, min, round } = Math;
/** Side of a block, pixels. */
export const BLOCK = 8;
/** The farthest that a block is followed from one picture to the next, pixels. */
const REACH = 12;
/** What motion must gain, so that flat blocks stand still: sums of differences. */
const STILL_BIAS = 10;
/** Blocks flatter than this say nothing about motion: the sum of differences between neighbouring pixels. */
const FLAT = 90;

/** How the blocks of one picture moved to the next; pixels. */
export interface MotionField {
  readonly columns: number;
  readonly rows: number;
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** sum of differences that is left after the motion, each block */
  readonly rest: Float32Array;
  /** 1 where a block has enough detail to be followed, else 0 */
  readonly clear: Uint8Array;
}

export function emptyField(width: number, height: number): MotionField {
  const [columns, rows] = [floor(width / BLOCK), floor(height / BLOCK)];
  const count = columns * rows;
  return {
    columns,
    rows,
    x: new Float32Array(count),
    y: new Float32Array(count),
    rest: new Float32Array(count),
    clear: new Uint8Array(count),
  };
}

/** Sum of absolute differences of a block and the same block moved; gives up above a limit. */
function difference(a: Uint8Array, b: Uint8Array, width: number, at: number, to: number, limit: number): number {
  let sum = 0;
  for (let row = 0; row < BLOCK; row++) {
    for (let k = 0; k < BLOCK; k++) {
      const d = a[at + k]! - b[to + k]!;
      sum += d < 0 ? -d : d;
    }
    if (sum >= limit) return sum;
    at += width;
    to += width;
  }
  return sum;
}

function detail(a: Uint8Array, width: number, at: number): number {
  let sum = 0;
  for (let row = 0; row < BLOCK - 1; row++, at += width)
    for (let k = 0; k < BLOCK - 1; k++) sum += abs(a[at + k]! - a[at + k + 1]!) + abs(a[at + k]! - a[at + k + width]!);
  return sum;
}

const SMALL_STEPS = [1, 0, -1, 0, 0, 1, 0, -1] as const;
const LARGE_STEPS = [2, 0, -2, 0, 0, 2, 0, -2, 1, 1, 1, -1, -1, 1, -1, -1] as const;

/** Where a minimum between three neighbouring values lies, -0.5 to 0.5 (parabola). */
function between(before: number, here: number, after: number): number {
  const bend = before - 2 * here + after;
  return !(bend > 0) || bend === Infinity ? 0 : max(-0.5, min(0.5, (before - after) / (2 * bend)));
}

/**
 * Follows each block from one picture to the next, to parts of a pixel: a diamond search (S. Zhu and K.-K. Ma, "A new
 * diamond search algorithm for fast block-matching motion estimation", IEEE TIP 2000) from where the block and its
 * neighbours went before.
 * @param from luma of the earlier picture, `to` of the later, both width by height
 * @param field what was found for the pictures before; what is found now is written there
 */
export function followBlocks(from: Uint8Array, to: Uint8Array, width: number, height: number, field: MotionField): void {
  const { columns, rows, x, y, rest, clear } = field;
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const block = row * columns + column;
      const [left, top] = [column * BLOCK, row * BLOCK];
      const at = top * width + left;
      clear[block] = detail(from, width, at) >= FLAT ? 1 : 0;
      const lowX = max(-REACH, -left);
      const highX = min(REACH, width - BLOCK - left);
      const lowY = max(-REACH, -top);
      const highY = min(REACH, height - BLOCK - top);
      const cost = (dx: number, dy: number, limit: number): number =>
        dx < lowX || dx > highX || dy < lowY || dy > highY
          ? Infinity
          : difference(from, to, width, at, at + dy * width + dx, limit) + (dx === 0 && dy === 0 ? 0 : STILL_BIAS);
      let bestX = 0;
      let bestY = 0;
      let best = cost(0, 0, Infinity);
      const attempt = (dx: number, dy: number): boolean => {
        const found = cost(dx, dy, best);
        if (found >= best) return false;
        [best, bestX, bestY] = [found, dx, dy];
        return true;
      };
      if (best > STILL_BIAS) {
        attempt(round(x[block]!), round(y[block]!));
        if (column > 0) attempt(round(x[block - 1]!), round(y[block - 1]!));
        if (row > 0) attempt(round(x[block - columns]!), round(y[block - columns]!));
        for (let turn = 0, moved = true; moved && turn < REACH; turn++) {
          const [cx, cy] = [bestX, bestY];
          moved = false;
          for (let k = 0; k < LARGE_STEPS.length; k += 2) moved = attempt(cx + LARGE_STEPS[k]!, cy + LARGE_STEPS[k + 1]!) || moved;
        }
        const [cx, cy] = [bestX, bestY];
        for (let k = 0; k < SMALL_STEPS.length; k += 2) attempt(cx + SMALL_STEPS[k]!, cy + SMALL_STEPS[k + 1]!);
      }
      const here = best;
      const side = (dx: number, dy: number): number => cost(bestX + dx, bestY + dy, Infinity);
      const still = bestX === 0 && bestY === 0 && here <= STILL_BIAS;
      x[block] = still ? 0 : bestX + between(side(-1, 0), here, side(1, 0));
      y[block] = still ? 0 : bestY + between(side(0, -1), here, side(0, 1));
      rest[block] = here;
    }
}
