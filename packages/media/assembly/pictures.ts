// The inner loops of putting frames together on planes of video. AssemblyScript, compiled to WebAssembly with SIMD by
// scripts/build-kernel.mjs; src/film/picture-kernel.ts lays out the memory and calls it. All addresses are bytes.

/** Where free memory starts. */
export function freeFrom(): usize {
  return __heap_base;
}

/** Makes sure that memory reaches to an address. @returns 0 where there is not enough */
export function reach(address: usize): i32 {
  const pages = <i32>((address + 65535) >> 16) - memory.size();
  return pages <= 0 || memory.grow(pages) >= 0 ? 1 : 0;
}

/** Eight bytes as sixteen bit numbers. */
// @ts-ignore: decorator
@inline
function wide(at: usize): v128 {
  return v128.load8x8_u(at);
}

/** (a * (256 - part) + b * part + 128) / 256, of sixteen bit numbers up to 255 and parts up to 256. */
// @ts-ignore: decorator
@inline
function between(a: v128, b: v128, part: v128): v128 {
  const rest = i16x8.sub(i16x8.splat(256), part);
  const sum = i16x8.add(i16x8.add(i16x8.mul(a, rest), i16x8.mul(b, part)), i16x8.splat(128));
  return i16x8.shr_u(sum, 8);
}

// @ts-ignore: decorator
@inline
function put(at: usize, value: v128): void {
  v128.store64_lane(at, i8x16.narrow_i16x8_u(value, value), 0);
}

/** One stretch of bytes with a part (of 256) of another over it. Up to seven bytes beyond `length` are written. */
export function mix(below: usize, above: usize, out: usize, length: i32, part: i32): void {
  const p = i16x8.splat(<i16>part);
  for (let i: usize = 0; i < <usize>length; i += 8) put(out + i, between(wide(below + i), wide(above + i), p));
}

/** One stretch of bytes with a part (of 256) of one value over it. */
export function veil(below: usize, value: i32, out: usize, length: i32, part: i32): void {
  const p = i16x8.splat(<i16>part);
  const v = i16x8.splat(<i16>value);
  for (let i: usize = 0; i < <usize>length; i += 8) put(out + i, between(wide(below + i), v, p));
}

/** As mix, with a part for each byte (sixteen bit numbers). */
export function mixMasked(below: usize, above: usize, out: usize, length: i32, parts: usize): void {
  for (let i: usize = 0; i < <usize>length; i += 8)
    put(out + i, between(wide(below + i), wide(above + i), v128.load(parts + (i << 1))));
}

/** As veil, with a part for each byte (sixteen bit numbers). */
export function veilMasked(below: usize, value: i32, out: usize, length: i32, parts: usize): void {
  const v = i16x8.splat(<i16>value);
  for (let i: usize = 0; i < <usize>length; i += 8) put(out + i, between(wide(below + i), v, v128.load(parts + (i << 1))));
}

/** A plane of half the size: the mean of each four. Width and height are those of the large one, both even. */
export function halve(from: usize, width: i32, height: i32, out: usize): void {
  const w = <usize>width;
  for (let y: i32 = 0; y < height; y += 2) {
    let a = from + <usize>y * w;
    let o = out + (<usize>y >> 1) * (w >> 1);
    let x: usize = 0;
    for (; x + 16 <= w; x += 16) {
      const top = i16x8.extadd_pairwise_i8x16_u(v128.load(a + x));
      const low = i16x8.extadd_pairwise_i8x16_u(v128.load(a + w + x));
      const sum = i16x8.shr_u(i16x8.add(i16x8.add(top, low), i16x8.splat(2)), 2);
      v128.store64_lane(o + (x >> 1), i8x16.narrow_i16x8_u(sum, sum), 0);
    }
    for (; x < w; x += 2) {
      const sum =
        <u32>load<u8>(a + x) + <u32>load<u8>(a + x + 1) + <u32>load<u8>(a + w + x) + <u32>load<u8>(a + w + x + 1);
      store<u8>(o + (x >> 1), <u8>((sum + 2) >> 2));
    }
  }
}

/** Eight columns: how much of the next pixel is in each (16 bit), which bytes from `base` on are each and the next, and `base`. */
const GROUP: usize = 48;

/** The vectors of a row of columns, eight a group; those of a group that lies in more than sixteen bytes have the base -1. */
function groupColumns(at: usize, part: usize, first: i32, end: i32, next: i32, table: usize): void {
  for (let x: i32 = first; x < end; x += 8, table += GROUP) {
    const base = load<i32>(at + (<usize>x << 2));
    const last = load<i32>(at + (<usize>min(x + 7, end - 1) << 2));
    store<i32>(table + 32, last + next - base > 15 ? -1 : base);
    for (let k: i32 = 0; k < 8; k++) {
      const column = <usize>min(x + k, end - 1) << 2;
      const place = load<i32>(at + column) - base;
      store<u16>(table + (<usize>k << 1), <u16>load<i32>(part + column));
      store<u8>(table + 16 + <usize>k, <u8>place);
      store<u8>(table + 24 + <usize>k, <u8>(place + next));
    }
  }
}

/** A row of a picture at the columns of a table: 256 times what is there, sixteen bit numbers. */
function sampleRow(row: usize, at: usize, part: usize, first: i32, end: i32, next: i32, table: usize, out: usize): void {
  const whole = i16x8.splat(256);
  for (let x: i32 = first; x < end; x += 8, table += GROUP) {
    const to = out + (<usize>x << 1);
    const base = load<i32>(table + 32);
    if (base >= 0) {
      const both = i8x16.swizzle(v128.load(row + <usize>base), v128.load(table + 16));
      const p = v128.load(table);
      const near = i16x8.mul(i16x8.extend_low_i8x16_u(both), i16x8.sub(whole, p));
      v128.store(to, i16x8.add(near, i16x8.mul(i16x8.extend_high_i8x16_u(both), p)));
    } else
      for (let k: i32 = 0; k < 8; k++) {
        const column = <usize>min(x + k, end - 1) << 2;
        const p = <u32>load<i32>(part + column);
        const from = row + <usize>load<i32>(at + column);
        store<u16>(to + (<usize>k << 1), <u16>(<u32>load<u8>(from) * (256 - p) + <u32>load<u8>(from + <usize>next) * p));
      }
  }
}

/**
 * Samples a plane into rows and columns of another, bilinear. For each column and row from first to before end: `at` the pixel before it,
 * `part` how much of the next is in it, `cover` how much of it is covered (32 bit numbers, parts of 256); `at` never falls.
 * @param scratch room for 10 bytes a column of the target and 256 more
 */
export function sample(
  from: usize,
  fromWidth: i32,
  fromHeight: i32,
  out: usize,
  outWidth: i32,
  acrossAt: usize,
  acrossPart: usize,
  acrossCover: usize,
  firstX: i32,
  endX: i32,
  downAt: usize,
  downPart: usize,
  downCover: usize,
  firstY: i32,
  endY: i32,
  scratch: usize,
): void {
  if (endX <= firstX) return;
  const below: i32 = fromHeight > 1 ? 1 : 0;
  const next: i32 = fromWidth > 1 ? 1 : 0;
  const rowBytes = (<usize>outWidth + 8) << 1;
  let high = scratch;
  let deep = scratch + rowBytes;
  const table = scratch + 2 * rowBytes;
  groupColumns(acrossAt, acrossPart, firstX, endX, next, table);
  // The columns that are covered in whole lie together.
  let fullX = firstX;
  while (fullX < endX && load<i32>(acrossCover + (<usize>fullX << 2)) < 256) fullX++;
  let restX = fullX;
  while (restX < endX && load<i32>(acrossCover + (<usize>restX << 2)) >= 256) restX++;
  let highRow: i32 = -1;
  let deepRow: i32 = -1;
  const half = i32x4.splat(32768);
  for (let y: i32 = firstY; y < endY; y++) {
    const y4 = <usize>y << 2;
    const top = load<i32>(downAt + y4);
    if (deepRow == top && highRow != top) {
      const was = high;
      high = deep;
      deep = was;
      highRow = top;
      deepRow = -1;
    }
    if (highRow != top) {
      sampleRow(from + <usize>top * <usize>fromWidth, acrossAt, acrossPart, firstX, endX, next, table, high);
      highRow = top;
    }
    if (deepRow != top + below) {
      sampleRow(from + <usize>(top + below) * <usize>fromWidth, acrossAt, acrossPart, firstX, endX, next, table, deep);
      deepRow = top + below;
    }
    const low = <u32>load<i32>(downPart + y4);
    const tall = load<i32>(downCover + y4);
    const a = i16x8.splat(<i16>(256 - low));
    const b = i16x8.splat(<i16>low);
    const o = out + <usize>y * <usize>outWidth;
    let x: i32 = firstX;
    while (x < endX) {
      if (tall >= 256 && x >= fullX && x + 8 <= restX) {
        const u = v128.load(high + (<usize>x << 1));
        const v = v128.load(deep + (<usize>x << 1));
        const left = i32x4.add(i32x4.add(i32x4.extmul_low_i16x8_u(u, a), i32x4.extmul_low_i16x8_u(v, b)), half);
        const right = i32x4.add(i32x4.add(i32x4.extmul_high_i16x8_u(u, a), i32x4.extmul_high_i16x8_u(v, b)), half);
        const found = i16x8.narrow_i32x4_u(i32x4.shr_u(left, 16), i32x4.shr_u(right, 16));
        put(o + <usize>x, found);
        x += 8;
        continue;
      }
      const x2 = <usize>x << 1;
      const found = (<u32>load<u16>(high + x2) * (256 - low) + <u32>load<u16>(deep + x2) * low + 32768) >> 16;
      const covered = tall * load<i32>(acrossCover + (<usize>x << 2));
      if (covered >= 65536) store<u8>(o + <usize>x, <u8>found);
      else {
        const was = <i32>load<u8>(o + <usize>x);
        store<u8>(o + <usize>x, <u8>(was + (((<i32>found - was) * covered + 32768) >> 16)));
      }
      x++;
    }
  }
}

/** Samples a plane that is turned: u and v are places in it, which grow by du and dv along a row, and by ru and rv down a column. */
export function sampleTurned(
  from: usize,
  fromWidth: i32,
  fromHeight: i32,
  out: usize,
  outWidth: i32,
  outHeight: i32,
  u0: f32,
  v0: f32,
  du: f32,
  dv: f32,
  ru: f32,
  rv: f32,
  scaleX: f32,
  scaleY: f32,
): void {
  const lastX = <f32>(fromWidth - 1);
  const lastY = <f32>(fromHeight - 1);
  const next: usize = fromWidth > 1 ? 1 : 0;
  const below: usize = fromHeight > 1 ? <usize>fromWidth : 0;
  const maxX = max(0, fromWidth - 2);
  const maxY = max(0, fromHeight - 2);
  const perX: f32 = 1 / scaleX;
  const perY: f32 = 1 / scaleY;
  for (let y: i32 = 0; y < outHeight; y++) {
    let u = u0 + <f32>y * ru;
    let v = v0 + <f32>y * rv;
    for (let x: i32 = 0; x < outWidth; x++, u += du, v += dv) {
      const inside =
        min(min((u + 0.5) * perX, (lastX + 0.5 - u) * perX), min((v + 0.5) * perY, (lastY + 0.5 - v) * perY)) + 0.5;
      if (inside <= 0) continue;
      const cu = max<f32>(0, min(lastX, u));
      const cv = max<f32>(0, min(lastY, v));
      const iu = min(maxX, <i32>cu);
      const iv = min(maxY, <i32>cv);
      const pu = <u32>((cu - <f32>iu) * 256 + 0.5);
      const pv = <u32>((cv - <f32>iv) * 256 + 0.5);
      const i = from + <usize>iv * <usize>fromWidth + <usize>iu;
      const high = <u32>load<u8>(i) * (256 - pu) + <u32>load<u8>(i + next) * pu;
      const deep = <u32>load<u8>(i + below) * (256 - pu) + <u32>load<u8>(i + below + next) * pu;
      const found = <i32>((high * (256 - pv) + deep * pv + 32768) >> 16);
      const o = out + <usize>y * <usize>outWidth + <usize>x;
      if (inside >= 1) store<u8>(o, <u8>found);
      else {
        const was = <i32>load<u8>(o);
        store<u8>(o, <u8>(was + <i32>(<f32>(found - was) * inside + (found > was ? <f32>0.5 : <f32>-0.5))));
      }
    }
  }
}

/** How colours change: gain; contrast; saturation; then factors and what is added for red, green and blue, after their lift. */
let gain: v128 = f32x4.splat(1);
let contrast: v128 = f32x4.splat(1);
let saturation: v128 = f32x4.splat(1);
let warmR: v128 = f32x4.splat(1);
let warmG: v128 = f32x4.splat(1);
let warmB: v128 = f32x4.splat(1);
let kept: v128 = f32x4.splat(1);
let liftR: v128 = f32x4.splat(0);
let liftG: v128 = f32x4.splat(0);
let liftB: v128 = f32x4.splat(0);

export function setColours(
  gain_: f32,
  contrast_: f32,
  saturation_: f32,
  warmR_: f32,
  warmG_: f32,
  warmB_: f32,
  kept_: f32,
  liftR_: f32,
  liftG_: f32,
  liftB_: f32,
): void {
  gain = f32x4.splat(gain_);
  contrast = f32x4.splat(contrast_);
  saturation = f32x4.splat(saturation_);
  warmR = f32x4.splat(warmR_);
  warmG = f32x4.splat(warmG_);
  warmB = f32x4.splat(warmB_);
  kept = f32x4.splat(kept_);
  liftR = f32x4.splat(liftR_);
  liftG = f32x4.splat(liftG_);
  liftB = f32x4.splat(liftB_);
}

// @ts-ignore: decorator
@inline
function held(value: v128): v128 {
  // Unlike min and max, these are one instruction each; there are no numbers here that are none.
  return f32x4.pmin(f32x4.splat(255), f32x4.pmax(f32x4.splat(0), value));
}

// @ts-ignore: decorator
@inline
function exposed(value: v128): v128 {
  const bright = held(f32x4.mul(held(value), gain));
  return held(f32x4.add(f32x4.mul(f32x4.sub(bright, f32x4.splat(127.5)), contrast), f32x4.splat(127.5)));
}

// @ts-ignore: decorator
@inline
function floats(at: usize): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(at))));
}

/** Two bytes as numbers, each of them twice. */
// @ts-ignore: decorator
@inline
function doubled(at: usize): v128 {
  const two = v128.load16_splat(at);
  return f32x4.convert_i32x4_s(i8x16.shuffle(two, i32x4.splat(0), 0, 16, 16, 16, 0, 16, 16, 16, 1, 16, 16, 16, 1, 16, 16, 16));
}

/** Of two rows' sums, the mean of the first four pixels and of the other four, about 128. */
// @ts-ignore: decorator
@inline
function putMeans(at: usize, sums: v128): void {
  const both = f32x4.add(sums, i8x16.shuffle(sums, sums, 4, 5, 6, 7, 0, 1, 2, 3, 12, 13, 14, 15, 8, 9, 10, 11));
  const mean = i32x4.trunc_sat_f32x4_s(held(f32x4.add(f32x4.mul(both, f32x4.splat(0.25)), f32x4.splat(128.5))));
  store<u8>(at, <u8>i32x4.extract_lane(mean, 0));
  store<u8>(at + 1, <u8>i32x4.extract_lane(mean, 2));
}

/**
 * A picture with its colours changed. Out of video's (ITU-R BT.709, limited range), four pixels of two rows at a time, and back.
 * Planes lie one after the other; the width is a multiple of four.
 */
export function recolour(from: usize, out: usize, width: i32, height: i32): void {
  const w = <usize>width;
  const pixels = w * <usize>height;
  const blueAt = from + pixels;
  const redAt = blueAt + (pixels >> 2);
  const blueTo = out + pixels;
  const redTo = blueTo + (pixels >> 2);
  for (let y: i32 = 0; y < height; y += 2)
    for (let x: usize = 0; x < w; x += 4) {
      const c = (<usize>y >> 1) * (w >> 1) + (x >> 1);
      // Two chroma values, each for two pixels.
      const cb = f32x4.sub(doubled(blueAt + c), f32x4.splat(128));
      const cr = f32x4.sub(doubled(redAt + c), f32x4.splat(128));
      const toR = f32x4.mul(cr, f32x4.splat(1.792741));
      const toG = f32x4.add(f32x4.mul(cb, f32x4.splat(-0.213249)), f32x4.mul(cr, f32x4.splat(-0.532909)));
      const toB = f32x4.mul(cb, f32x4.splat(2.112402));
      let sumB = f32x4.splat(0);
      let sumR = f32x4.splat(0);
      for (let k: usize = 0; k < 2; k++) {
        const i = (<usize>y + k) * w + x;
        const light = f32x4.mul(f32x4.sub(floats(from + i), f32x4.splat(16)), f32x4.splat(1.164384));
        let r = exposed(f32x4.add(light, toR));
        let g = exposed(f32x4.add(light, toG));
        let b = exposed(f32x4.add(light, toB));
        const grey = f32x4.add(
          f32x4.add(f32x4.mul(r, f32x4.splat(0.2126)), f32x4.mul(g, f32x4.splat(0.7152))),
          f32x4.mul(b, f32x4.splat(0.0722)),
        );
        r = held(f32x4.mul(held(f32x4.add(grey, f32x4.mul(f32x4.sub(r, grey), saturation))), warmR));
        g = held(f32x4.mul(held(f32x4.add(grey, f32x4.mul(f32x4.sub(g, grey), saturation))), warmG));
        b = held(f32x4.mul(held(f32x4.add(grey, f32x4.mul(f32x4.sub(b, grey), saturation))), warmB));
        r = f32x4.add(f32x4.mul(r, kept), liftR);
        g = f32x4.add(f32x4.mul(g, kept), liftG);
        b = f32x4.add(f32x4.mul(b, kept), liftB);
        const luma = f32x4.add(
          f32x4.add(f32x4.mul(r, f32x4.splat(0.182586)), f32x4.mul(g, f32x4.splat(0.614231))),
          f32x4.add(f32x4.mul(b, f32x4.splat(0.062007)), f32x4.splat(16.5)),
        );
        const whole = i32x4.trunc_sat_f32x4_s(luma);
        const narrow = i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_u(whole, whole), i16x8.splat(0));
        v128.store32_lane(out + i, narrow, 0);
        sumB = f32x4.add(
          sumB,
          f32x4.add(
            f32x4.add(f32x4.mul(r, f32x4.splat(-0.100644)), f32x4.mul(g, f32x4.splat(-0.338572))),
            f32x4.mul(b, f32x4.splat(0.439216)),
          ),
        );
        sumR = f32x4.add(
          sumR,
          f32x4.add(
            f32x4.add(f32x4.mul(r, f32x4.splat(0.439216)), f32x4.mul(g, f32x4.splat(-0.398942))),
            f32x4.mul(b, f32x4.splat(-0.040274)),
          ),
        );
      }
      putMeans(blueTo + c, sumB);
      putMeans(redTo + c, sumR);
    }
}
