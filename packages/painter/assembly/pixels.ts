// The inner loops of painting pixel by pixel: red, green, blue and opacity, a byte each. AssemblyScript, compiled to WebAssembly with
// SIMD by scripts/build-kernel.mjs; src/pixel-kernel.ts lays out the memory and calls it. All addresses are bytes.

/** Where free memory starts. */
export function freeFrom(): usize {
  return __heap_base;
}

/** Makes sure that memory reaches to an address. @returns 0 where there is not enough */
export function reach(address: usize): i32 {
  const pages = <i32>((address + 65535) >> 16) - memory.size();
  return pages <= 0 || memory.grow(pages) >= 0 ? 1 : 0;
}

/** Four bytes, each twice, as sixteen bit numbers about 0: what 128 stands for is 0. */
// @ts-ignore: decorator
@inline
function chroma(at: usize): v128 {
  const four = v128.load32_zero(at);
  const twice = i8x16.shuffle(four, four, 0, 0, 1, 1, 2, 2, 3, 3, 0, 0, 0, 0, 0, 0, 0, 0);
  return i16x8.sub(i16x8.extend_low_i8x16_u(twice), i16x8.splat(128));
}

/** A colour of eight pixels, 32 times what it is, as bytes. */
// @ts-ignore: decorator
@inline
function level(sum: v128): v128 {
  const whole = i16x8.shr_s(i16x8.add_sat_s(sum, i16x8.splat(16)), 5);
  return i8x16.narrow_i16x8_u(whole, whole);
}

/**
 * Planes of video (ITU-R BT.709, limited range, 4:2:0) as pixels. A row may run up to seven pixels over its end, into the one that is
 * written next.
 * @param stride bytes from row to row of the brightness @param chromaStride the same of the two of colour
 */
export function fromVideo(
  luma: usize,
  stride: i32,
  blueAt: usize,
  redAt: usize,
  chromaStride: i32,
  width: i32,
  height: i32,
  out: usize,
): void {
  // Parts of 32768. Colours are kept at 32 times their value, for which brightness is multiplied by 64 and halved, colour by 64 and 128.
  const light = i16x8.splat(19077);
  const redOfRed = i16x8.splat(29372);
  const greenOfBlue = i16x8.splat(-3494);
  const greenOfRed = i16x8.splat(-8731);
  const blueOfBlue = i16x8.splat(17305);
  const opaque = i8x16.splat(-1);
  for (let y: i32 = 0; y < height; y++) {
    const row = luma + <usize>y * <usize>stride;
    const blues = blueAt + <usize>(y >> 1) * <usize>chromaStride;
    const reds = redAt + <usize>(y >> 1) * <usize>chromaStride;
    const to = out + ((<usize>y * <usize>width) << 2);
    for (let x: i32 = 0; x < width; x += 8) {
      const bright = i16x8.shl(i16x8.sub(v128.load8x8_u(row + <usize>x), i16x8.splat(16)), 6);
      const base = i16x8.q15mulr_sat_s(bright, light);
      const cb = chroma(blues + (<usize>x >> 1));
      const cr = chroma(reds + (<usize>x >> 1));
      const b6 = i16x8.shl(cb, 6);
      const r6 = i16x8.shl(cr, 6);
      const r = level(i16x8.add_sat_s(base, i16x8.q15mulr_sat_s(r6, redOfRed)));
      const g = level(
        i16x8.add_sat_s(i16x8.add_sat_s(base, i16x8.q15mulr_sat_s(b6, greenOfBlue)), i16x8.q15mulr_sat_s(r6, greenOfRed)),
      );
      const b = level(i16x8.add_sat_s(base, i16x8.q15mulr_sat_s(i16x8.shl(cb, 7), blueOfBlue)));
      const rg = i8x16.shuffle(r, g, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
      const ba = i8x16.shuffle(b, opaque, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
      const o = to + (<usize>x << 2);
      v128.store(o, i8x16.shuffle(rg, ba, 0, 1, 16, 17, 2, 3, 18, 19, 4, 5, 20, 21, 6, 7, 22, 23));
      v128.store(o + 16, i8x16.shuffle(rg, ba, 8, 9, 24, 25, 10, 11, 26, 27, 12, 13, 28, 29, 14, 15, 30, 31));
    }
  }
}

// @ts-ignore: decorator
@inline
function byte(value: i32): i32 {
  return value < 0 ? 0 : value > 255 ? 255 : value;
}

/**
 * Changes colours in place: by a table of levels, then more or less colourful about their brightness (of 256), then by a table for each of
 * red, green and blue.
 */
export function recolour(at: usize, pixels: i32, before: usize, saturation: i32, red: usize, green: usize, blue: usize): void {
  const end = at + (<usize>pixels << 2);
  for (let i = at; i < end; i += 4) {
    let r = <i32>load<u8>(before + <usize>load<u8>(i));
    let g = <i32>load<u8>(before + <usize>load<u8>(i + 1));
    let b = <i32>load<u8>(before + <usize>load<u8>(i + 2));
    if (saturation != 256) {
      const grey = (6966 * r + 23436 * g + 2366 * b + 16384) >> 15;
      r = byte(grey + (((r - grey) * saturation + 128) >> 8));
      g = byte(grey + (((g - grey) * saturation + 128) >> 8));
      b = byte(grey + (((b - grey) * saturation + 128) >> 8));
    }
    store<u8>(i, load<u8>(red + <usize>r));
    store<u8>(i + 1, load<u8>(green + <usize>g));
    store<u8>(i + 2, load<u8>(blue + <usize>b));
  }
}
