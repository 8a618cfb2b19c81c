// Where each block of a picture went in the next one. AssemblyScript, compiled to WebAssembly with SIMD by scripts/build-kernel.mjs;
// src/footage/block-motion.ts lays out the memory and calls it. Addresses are bytes.

/** Side of a block, pixels; all below counts on eight. */
const BLOCK: i32 = 8;
/** The farthest that a block is followed, pixels. */
const REACH: i32 = 12;
/** What motion must gain, so that flat blocks stand still: sums of differences. */
const STILL_BIAS: i32 = 10;
/** Blocks flatter than this say nothing about motion: the sum of differences between neighbouring pixels. */
const FLAT: i32 = 90;
/** What a block outside the picture costs. */
const OUTSIDE: i32 = i32.MAX_VALUE;

/** Where free memory starts. */
export function freeFrom(): usize {
  return __heap_base;
}

/** Makes sure that memory reaches to an address; tells whether there was enough. */
export function reach(address: usize): bool {
  const pages = <i32>((address + 0xffff) >> 16) - memory.size();
  return pages <= 0 || memory.grow(pages) >= 0;
}

/** Sixteen absolute differences of bytes, summed two by two. */
// @ts-ignore: a decorator of the compiler's
@inline
function apart(a: v128, b: v128): v128 {
  return i16x8.extadd_pairwise_i8x16_u(i8x16.sub(i8x16.max_u(a, b), i8x16.min_u(a, b)));
}

// @ts-ignore: a decorator of the compiler's
@inline
function total(sums: v128): i32 {
  const four = i32x4.extadd_pairwise_i16x8_u(sums);
  const two = i32x4.add(four, i8x16.shuffle(four, four, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3, 4, 5, 6, 7));
  return i32x4.extract_lane(two, 0) + i32x4.extract_lane(two, 1);
}

/** Two rows of eight pixels. */
// @ts-ignore: a decorator of the compiler's
@inline
function rows(at: usize, width: i32): v128 {
  return v128.load64_lane(at + width, v128.load64_zero(at), 1);
}

/** Sum of absolute differences of two blocks. */
function difference(a: usize, b: usize, width: i32): i32 {
  const two = 2 * width;
  let sums = apart(rows(a, width), rows(b, width));
  sums = i16x8.add(sums, apart(rows(a + two, width), rows(b + two, width)));
  sums = i16x8.add(sums, apart(rows(a + 2 * two, width), rows(b + 2 * two, width)));
  return total(i16x8.add(sums, apart(rows(a + 3 * two, width), rows(b + 3 * two, width))));
}

/** Sum of differences between neighbouring pixels in the first seven rows and columns of a block. */
function detail(at: usize, width: i32): i32 {
  let sums = i16x8.splat(0);
  // The eighth pixel of a row has its neighbour in the next block.
  const inside = i64x2(0x00ff_ffff_ffff_ffff, 0);
  for (let row: i32 = 0; row < BLOCK - 1; row++) {
    const here = v128.and(v128.load64_zero(at), inside);
    sums = i16x8.add(sums, apart(here, v128.and(v128.load64_zero(at, 1), inside)));
    at += width;
    sums = i16x8.add(sums, apart(here, v128.and(v128.load64_zero(at), inside)));
  }
  return total(sums);
}

let source: usize = 0;
let target: usize = 0;
let wide: i32 = 0;
let lowX: i32 = 0;
let highX: i32 = 0;
let lowY: i32 = 0;
let highY: i32 = 0;
let best: i32 = 0;
let bestX: i32 = 0;
let bestY: i32 = 0;

/** What is left of the block at hand when it is moved. */
function cost(dx: i32, dy: i32): i32 {
  if (dx < lowX || dx > highX || dy < lowY || dy > highY) return OUTSIDE;
  return difference(source, target + dy * wide + dx, wide) + (dx == 0 && dy == 0 ? 0 : STILL_BIAS);
}

function attempt(dx: i32, dy: i32): bool {
  const found = cost(dx, dy);
  if (found >= best) return false;
  best = found;
  bestX = dx;
  bestY = dy;
  return true;
}

/** Whole pixels nearest to a motion that was found before; a half goes up. */
// @ts-ignore: a decorator of the compiler's
@inline
function nearest(at: usize): i32 {
  return <i32>Math.floor(<f64>load<f32>(at) + 0.5);
}

/** Where a minimum between three neighbouring values lies, -0.5 to 0.5 (parabola). */
function between(before: i32, here: i32, after: i32): f64 {
  if (before == OUTSIDE || after == OUTSIDE) return 0;
  const bend = before - 2 * here + after;
  return bend <= 0 ? 0 : Math.max(-0.5, Math.min(0.5, <f64>(before - after) / <f64>(2 * bend)));
}

/**
 * @param from luma of the earlier picture, `to` of the later, both width by height
 * @param x motion of each block, 32 bit floats: what was found for the pictures before, and what is found now; `y` likewise
 * @param rest what is left of each block after its motion, 32 bit floats
 * @param clear a byte for each block, 1 where it has enough detail to be followed
 */
export function follow(from: usize, to: usize, width: i32, height: i32, x: usize, y: usize, rest: usize, clear: usize): void {
  const columns = width / BLOCK;
  const lines = height / BLOCK;
  wide = width;
  for (let row: i32 = 0; row < lines; row++)
    for (let column: i32 = 0; column < columns; column++) {
      const block = row * columns + column;
      const left = column * BLOCK;
      const top = row * BLOCK;
      source = from + top * width + left;
      target = to + top * width + left;
      store<u8>(clear + block, detail(source, width) >= FLAT ? 1 : 0);
      lowX = max(-REACH, -left);
      highX = min(REACH, width - BLOCK - left);
      lowY = max(-REACH, -top);
      highY = min(REACH, height - BLOCK - top);
      bestX = 0;
      bestY = 0;
      best = difference(source, target, width);
      const at = 4 * block;
      if (best > STILL_BIAS) {
        attempt(nearest(x + at), nearest(y + at));
        if (column > 0) attempt(nearest(x + at - 4), nearest(y + at - 4));
        if (row > 0) attempt(nearest(x + at - 4 * columns), nearest(y + at - 4 * columns));
        let moved = true;
        for (let turn: i32 = 0; moved && turn < REACH; turn++) {
          const cx = bestX;
          const cy = bestY;
          moved = attempt(cx + 2, cy);
          if (attempt(cx - 2, cy)) moved = true;
          if (attempt(cx, cy + 2)) moved = true;
          if (attempt(cx, cy - 2)) moved = true;
          if (attempt(cx + 1, cy + 1)) moved = true;
          if (attempt(cx + 1, cy - 1)) moved = true;
          if (attempt(cx - 1, cy + 1)) moved = true;
          if (attempt(cx - 1, cy - 1)) moved = true;
        }
        const cx = bestX;
        const cy = bestY;
        attempt(cx + 1, cy);
        attempt(cx - 1, cy);
        attempt(cx, cy + 1);
        attempt(cx, cy - 1);
      }
      const still = bestX == 0 && bestY == 0 && best <= STILL_BIAS;
      store<f32>(x + at, still ? 0 : <f32>(<f64>bestX + between(cost(bestX - 1, bestY), best, cost(bestX + 1, bestY))));
      store<f32>(y + at, still ? 0 : <f32>(<f64>bestY + between(cost(bestX, bestY - 1), best, cost(bestX, bestY + 1))));
      store<f32>(rest + at, <f32>best);
    }
}
