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

/**
 * Samples a plane into rows and columns of another, bilinear. For each column and row from first to before end: `at` the pixel before it,
 * `part` how much of the next is in it, `cover` how much of it is covered (32 bit numbers, parts of 256).
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
  row: usize,
): void {
  if (endX <= firstX) return;
  const below: usize = fromHeight > 1 ? <usize>fromWidth : 0;
  const next: usize = fromWidth > 1 ? 2 : 0;
  // Only the columns that are looked at are mixed; eight more may be.
  const left = <usize>load<i32>(acrossAt + (<usize>firstX << 2));
  const right = min<usize>(<usize>fromWidth, <usize>load<i32>(acrossAt + ((<usize>endX - 1) << 2)) + 2);
  for (let y: i32 = firstY; y < endY; y++) {
    const y4 = <usize>y << 2;
    const low = load<i32>(downPart + y4);
    const tall = load<i32>(downCover + y4);
    const top = from + <usize>load<i32>(downAt + y4) * <usize>fromWidth;
    const a = i16x8.splat(<i16>(256 - low));
    const b = i16x8.splat(<i16>low);
    for (let x = left; x < right; x += 8)
      v128.store(row + (x << 1), i16x8.add(i16x8.mul(wide(top + x), a), i16x8.mul(wide(top + below + x), b)));
    const o = out + <usize>y * <usize>outWidth;
    for (let x: i32 = firstX; x < endX; x++) {
      const x4 = <usize>x << 2;
      const part = <u32>load<i32>(acrossPart + x4);
      const r = row + (<usize>load<i32>(acrossAt + x4) << 1);
      const found = (<u32>load<u16>(r) * (256 - part) + <u32>load<u16>(r + next) * part + 32768) >> 16;
      const covered = tall * load<i32>(acrossCover + x4);
      if (covered >= 65536) store<u8>(o + <usize>x, <u8>found);
      else {
        const was = <i32>load<u8>(o + <usize>x);
        store<u8>(o + <usize>x, <u8>(was + (((<i32>found - was) * covered + 32768) >> 16)));
      }
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
  return f32x4.min(f32x4.max(value, f32x4.splat(0)), f32x4.splat(255));
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
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(at))));
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
      const b0 = <f32>load<u8>(blueAt + c) - 128;
      const b1 = <f32>load<u8>(blueAt + c + 1) - 128;
      const r0 = <f32>load<u8>(redAt + c) - 128;
      const r1 = <f32>load<u8>(redAt + c + 1) - 128;
      const cb = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(b0), 2, b1), 3, b1);
      const cr = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(r0), 2, r1), 3, r1);
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
        const whole = i32x4.trunc_sat_f32x4_u(luma);
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
      for (let n: usize = 0; n < 2; n++) {
        const blue = n == 0 ? f32x4.extract_lane(sumB, 0) + f32x4.extract_lane(sumB, 1) : f32x4.extract_lane(sumB, 2) + f32x4.extract_lane(sumB, 3);
        const red = n == 0 ? f32x4.extract_lane(sumR, 0) + f32x4.extract_lane(sumR, 1) : f32x4.extract_lane(sumR, 2) + f32x4.extract_lane(sumR, 3);
        store<u8>(blueTo + c + n, <u8>max<i32>(0, min<i32>(255, <i32>(128.5 + blue * 0.25))));
        store<u8>(redTo + c + n, <u8>max<i32>(0, min<i32>(255, <i32>(128.5 + red * 0.25))));
      }
    }
}
