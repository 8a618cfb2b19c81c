// The layers of the beat network: convolutions along time with 24 values a frame. AssemblyScript, compiled to WebAssembly
// with SIMD by scripts/build-kernel.mjs; src/music/beat-network.ts lays out the memory and calls it.
// All addresses are bytes, all values 32 bit floats.

/** Values a frame holds, in bytes. */
const FRAME: usize = 96;

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
 * One layer, for two frames at a time: out[t] = bias + sum over taps of weights[tap] x[t + (tap - taps / 2) dilation].
 * @param x the first frame's values, `width` of them a frame; frames before and after must be readable
 * @param y the first frame's results, 24 a frame
 * @param weights tap after tap, value after value, 24 results each
 * @param add whether the results are added to what is there
 * @param clip whether results below nought become nought
 */
export function layer(
  x: usize,
  width: i32,
  y: usize,
  weights: usize,
  bias: usize,
  taps: i32,
  dilation: i32,
  frames: i32,
  add: bool,
  clip: bool,
): void {
  const row = (<usize>width) << 2;
  const hop = row * <usize>dilation;
  const before = hop * <usize>(taps >> 1);
  const nought = f32x4.splat(0);
  for (let t: i32 = 0; t < frames; t += 2) {
    let a0 = v128.load(bias);
    let a1 = v128.load(bias, 16);
    let a2 = v128.load(bias, 32);
    let a3 = v128.load(bias, 48);
    let a4 = v128.load(bias, 64);
    let a5 = v128.load(bias, 80);
    let b0 = a0;
    let b1 = a1;
    let b2 = a2;
    let b3 = a3;
    let b4 = a4;
    let b5 = a5;
    let w = weights;
    let from = x + <usize>t * row - before;
    for (let tap: i32 = 0; tap < taps; tap++) {
      const end = from + row;
      for (let at = from; at < end; at += 4) {
        const p = v128.load32_splat(at);
        const q = v128.load32_splat(at + row);
        let k = v128.load(w);
        a0 = f32x4.add(a0, f32x4.mul(p, k));
        b0 = f32x4.add(b0, f32x4.mul(q, k));
        k = v128.load(w, 16);
        a1 = f32x4.add(a1, f32x4.mul(p, k));
        b1 = f32x4.add(b1, f32x4.mul(q, k));
        k = v128.load(w, 32);
        a2 = f32x4.add(a2, f32x4.mul(p, k));
        b2 = f32x4.add(b2, f32x4.mul(q, k));
        k = v128.load(w, 48);
        a3 = f32x4.add(a3, f32x4.mul(p, k));
        b3 = f32x4.add(b3, f32x4.mul(q, k));
        k = v128.load(w, 64);
        a4 = f32x4.add(a4, f32x4.mul(p, k));
        b4 = f32x4.add(b4, f32x4.mul(q, k));
        k = v128.load(w, 80);
        a5 = f32x4.add(a5, f32x4.mul(p, k));
        b5 = f32x4.add(b5, f32x4.mul(q, k));
        w += FRAME;
      }
      from += hop;
    }
    const out = y + <usize>t * FRAME;
    if (add) {
      a0 = f32x4.add(a0, v128.load(out));
      a1 = f32x4.add(a1, v128.load(out, 16));
      a2 = f32x4.add(a2, v128.load(out, 32));
      a3 = f32x4.add(a3, v128.load(out, 48));
      a4 = f32x4.add(a4, v128.load(out, 64));
      a5 = f32x4.add(a5, v128.load(out, 80));
      b0 = f32x4.add(b0, v128.load(out, 96));
      b1 = f32x4.add(b1, v128.load(out, 112));
      b2 = f32x4.add(b2, v128.load(out, 128));
      b3 = f32x4.add(b3, v128.load(out, 144));
      b4 = f32x4.add(b4, v128.load(out, 160));
      b5 = f32x4.add(b5, v128.load(out, 176));
    }
    if (clip) {
      a0 = f32x4.max(a0, nought);
      a1 = f32x4.max(a1, nought);
      a2 = f32x4.max(a2, nought);
      a3 = f32x4.max(a3, nought);
      a4 = f32x4.max(a4, nought);
      a5 = f32x4.max(a5, nought);
      b0 = f32x4.max(b0, nought);
      b1 = f32x4.max(b1, nought);
      b2 = f32x4.max(b2, nought);
      b3 = f32x4.max(b3, nought);
      b4 = f32x4.max(b4, nought);
      b5 = f32x4.max(b5, nought);
    }
    v128.store(out, a0);
    v128.store(out, a1, 16);
    v128.store(out, a2, 32);
    v128.store(out, a3, 48);
    v128.store(out, a4, 64);
    v128.store(out, a5, 80);
    v128.store(out, b0, 96);
    v128.store(out, b1, 112);
    v128.store(out, b2, 128);
    v128.store(out, b3, 144);
    v128.store(out, b4, 160);
    v128.store(out, b5, 176);
  }
}
