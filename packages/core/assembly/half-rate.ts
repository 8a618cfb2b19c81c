// Samples dealt out by turns, and a half-band filter over them. AssemblyScript, compiled to WebAssembly with SIMD by
// scripts/build-kernel.mjs; src/music/half-rate.ts lays out the memory and calls it. Addresses are bytes, values 32 bit floats.

/** Where free memory starts. */
export function freeFrom(): usize {
  return __heap_base;
}

/** Makes sure that memory reaches to an address; tells whether there was enough. */
export function reach(address: usize): bool {
  const pages = <i32>((address + 0xffff) >> 16) - memory.size();
  return pages <= 0 || memory.grow(pages) >= 0;
}

/**
 * Deals samples of 16 bits out by turns, eight at a time.
 * @param first where samples 0, 2, 4 ... go
 * @param second where samples 1, 3, 5 ... go
 * @param scale what each is multiplied by
 */
export function deal(samples: usize, first: usize, second: usize, scale: f32, count: i32): void {
  const scales = f32x4.splat(scale);
  let left = count;
  for (; left >= 8; left -= 8) {
    const eight = v128.load(samples);
    v128.store(first, f32x4.mul(scales, f32x4.convert_i32x4_s(i32x4.shr_s(i32x4.shl(eight, 16), 16))));
    v128.store(second, f32x4.mul(scales, f32x4.convert_i32x4_s(i32x4.shr_s(eight, 16))));
    samples += 16;
    first += 16;
    second += 16;
  }
  for (; left > 0; left -= 2) {
    store<f32>(first, scale * <f32>load<i16>(samples));
    if (left > 1) store<f32>(second, scale * <f32>load<i16>(samples, 2));
    samples += 4;
    first += 4;
    second += 4;
  }
}

/**
 * Four results at a time: out[i] = odd[i + 7] / 2 + sum over j of taps[j] (even[i + 7 - j] + even[i + 8 + j]).
 * @param even samples 0, 2, 4 ...
 * @param odd samples 1, 3, 5 ...
 * @param taps eight of them
 */
export function filter(even: usize, odd: usize, out: usize, taps: usize, count: i32): void {
  const t0 = v128.load32_splat(taps);
  const t1 = v128.load32_splat(taps, 4);
  const t2 = v128.load32_splat(taps, 8);
  const t3 = v128.load32_splat(taps, 12);
  const t4 = v128.load32_splat(taps, 16);
  const t5 = v128.load32_splat(taps, 20);
  const t6 = v128.load32_splat(taps, 24);
  const t7 = v128.load32_splat(taps, 28);
  const half = f32x4.splat(0.5);
  for (let i: i32 = 0; i < count; i += 4) {
    let sum = f32x4.mul(half, v128.load(odd, 28));
    sum = f32x4.add(sum, f32x4.mul(t0, f32x4.add(v128.load(even, 28), v128.load(even, 32))));
    sum = f32x4.add(sum, f32x4.mul(t1, f32x4.add(v128.load(even, 24), v128.load(even, 36))));
    sum = f32x4.add(sum, f32x4.mul(t2, f32x4.add(v128.load(even, 20), v128.load(even, 40))));
    sum = f32x4.add(sum, f32x4.mul(t3, f32x4.add(v128.load(even, 16), v128.load(even, 44))));
    sum = f32x4.add(sum, f32x4.mul(t4, f32x4.add(v128.load(even, 12), v128.load(even, 48))));
    sum = f32x4.add(sum, f32x4.mul(t5, f32x4.add(v128.load(even, 8), v128.load(even, 52))));
    sum = f32x4.add(sum, f32x4.mul(t6, f32x4.add(v128.load(even, 4), v128.load(even, 56))));
    sum = f32x4.add(sum, f32x4.mul(t7, f32x4.add(v128.load(even), v128.load(even, 60))));
    v128.store(out, sum);
    even += 16;
    odd += 16;
    out += 16;
  }
}
