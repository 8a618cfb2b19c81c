// The inner loops of onset strength: windows, transforms, band filters and rises. AssemblyScript, compiled to WebAssembly
// with SIMD by scripts/build-kernel.mjs; src/music/spectrum-kernel.ts lays out the memory and calls it.
// All addresses are bytes, all values 32 bit floats unless said otherwise.

let size: i32 = 0;
let bands: i32 = 0;
let firstMid: i32 = 0;
let firstHigh: i32 = 0;
let win: usize = 0;
let re: usize = 0;
let im: usize = 0;
let spareRe: usize = 0;
let spareIm: usize = 0;
let twiddles: usize = 0;
let firstBin: usize = 0;
let at: usize = 0;
let weights: usize = 0;

/** Where free memory starts: below lie the tables of the mathematical functions. */
export function freeFrom(): usize {
  return __heap_base;
}

/** Says how large things are and where they lie. `firstBin` and `at` are 32 bit integers. */
export function setup(
  size_: i32,
  bands_: i32,
  firstMid_: i32,
  firstHigh_: i32,
  win_: usize,
  scratch: usize,
  twiddles_: usize,
  firstBin_: usize,
  at_: usize,
  weights_: usize,
): void {
  size = size_;
  bands = bands_;
  firstMid = firstMid_;
  firstHigh = firstHigh_;
  win = win_;
  const row = <usize>size_ << 2;
  re = scratch;
  im = re + row;
  spareRe = im + row;
  spareIm = spareRe + row;
  twiddles = twiddles_;
  firstBin = firstBin_;
  at = at_;
  weights = weights_;
}

/** One stage in steps of four, four transforms of the stage side by side. */
function stageWide(xr: usize, xi: usize, yr: usize, yi: usize, m: i32, stride: i32, t: usize): void {
  const quarter = <usize>(stride * m) << 2;
  const step = <usize>stride << 2;
  for (let p: i32 = 0; p < m; p++, t += 24) {
    const c1 = f32x4.splat(load<f32>(t));
    const s1 = f32x4.splat(load<f32>(t, 4));
    const c2 = f32x4.splat(load<f32>(t, 8));
    const s2 = f32x4.splat(load<f32>(t, 12));
    const c3 = f32x4.splat(load<f32>(t, 16));
    const s3 = f32x4.splat(load<f32>(t, 20));
    let i = <usize>(p * stride) << 2;
    let o = i << 2;
    for (const end = i + step; i < end; i += 16, o += 16) {
      const ar = v128.load(xr + i);
      const ai = v128.load(xi + i);
      const br = v128.load(xr + i + quarter);
      const bi = v128.load(xi + i + quarter);
      const cr = v128.load(xr + i + 2 * quarter);
      const ci = v128.load(xi + i + 2 * quarter);
      const dr = v128.load(xr + i + 3 * quarter);
      const di = v128.load(xi + i + 3 * quarter);
      const er = f32x4.add(ar, cr);
      const ei = f32x4.add(ai, ci);
      const fr = f32x4.sub(ar, cr);
      const fi = f32x4.sub(ai, ci);
      const gr = f32x4.add(br, dr);
      const gi = f32x4.add(bi, di);
      const hr = f32x4.sub(bi, di);
      const hi = f32x4.sub(dr, br);
      v128.store(yr + o, f32x4.add(er, gr));
      v128.store(yi + o, f32x4.add(ei, gi));
      const ur = f32x4.add(fr, hr);
      const ui = f32x4.add(fi, hi);
      v128.store(yr + o + step, f32x4.sub(f32x4.mul(ur, c1), f32x4.mul(ui, s1)));
      v128.store(yi + o + step, f32x4.add(f32x4.mul(ur, s1), f32x4.mul(ui, c1)));
      const vr = f32x4.sub(er, gr);
      const vi = f32x4.sub(ei, gi);
      v128.store(yr + o + 2 * step, f32x4.sub(f32x4.mul(vr, c2), f32x4.mul(vi, s2)));
      v128.store(yi + o + 2 * step, f32x4.add(f32x4.mul(vr, s2), f32x4.mul(vi, c2)));
      const wr = f32x4.sub(fr, hr);
      const wi = f32x4.sub(fi, hi);
      v128.store(yr + o + 3 * step, f32x4.sub(f32x4.mul(wr, c3), f32x4.mul(wi, s3)));
      v128.store(yi + o + 3 * step, f32x4.add(f32x4.mul(wr, s3), f32x4.mul(wi, c3)));
    }
  }
}

/** The first stage, whose transforms lie too close together to be taken four at a time. */
function stageFirst(xr: usize, xi: usize, yr: usize, yi: usize, m: i32, t: usize): void {
  const quarter = <usize>m << 2;
  for (let p: i32 = 0; p < m; p++, t += 24) {
    const i = <usize>p << 2;
    const o = i << 2;
    const ar = load<f32>(xr + i);
    const ai = load<f32>(xi + i);
    const br = load<f32>(xr + i + quarter);
    const bi = load<f32>(xi + i + quarter);
    const cr = load<f32>(xr + i + 2 * quarter);
    const ci = load<f32>(xi + i + 2 * quarter);
    const dr = load<f32>(xr + i + 3 * quarter);
    const di = load<f32>(xi + i + 3 * quarter);
    const er = ar + cr;
    const ei = ai + ci;
    const fr = ar - cr;
    const fi = ai - ci;
    const gr = br + dr;
    const gi = bi + di;
    const hr = bi - di;
    const hi = dr - br;
    store<f32>(yr + o, er + gr);
    store<f32>(yi + o, ei + gi);
    const ur = fr + hr;
    const ui = fi + hi;
    store<f32>(yr + o, ur * load<f32>(t) - ui * load<f32>(t, 4), 4);
    store<f32>(yi + o, ur * load<f32>(t, 4) + ui * load<f32>(t), 4);
    const vr = er - gr;
    const vi = ei - gi;
    store<f32>(yr + o, vr * load<f32>(t, 8) - vi * load<f32>(t, 12), 8);
    store<f32>(yi + o, vr * load<f32>(t, 12) + vi * load<f32>(t, 8), 8);
    const wr = fr - hr;
    const wi = fi - hi;
    store<f32>(yr + o, wr * load<f32>(t, 16) - wi * load<f32>(t, 20), 12);
    store<f32>(yi + o, wr * load<f32>(t, 20) + wi * load<f32>(t, 16), 12);
  }
}

/** The last stage where the size is twice a power of four. */
function stageTwo(xr: usize, xi: usize, yr: usize, yi: usize, stride: i32): void {
  const step = <usize>stride << 2;
  for (let i: usize = 0; i < step; i += 16) {
    const ar = v128.load(xr + i);
    const ai = v128.load(xi + i);
    const br = v128.load(xr + i + step);
    const bi = v128.load(xi + i + step);
    v128.store(yr + i, f32x4.add(ar, br));
    v128.store(yi + i, f32x4.add(ai, bi));
    v128.store(yr + i + step, f32x4.sub(ar, br));
    v128.store(yi + i + step, f32x4.sub(ai, bi));
  }
}

/** What lies in memory backwards. */
// @ts-ignore: decorator
@inline
function reversed(address: usize): v128 {
  const v = v128.load(address);
  return v128.shuffle<f32>(v, v, 3, 2, 1, 0);
}

/**
 * Magnitudes of two windows of samples at once: they go through one complex transform, and symmetry takes them apart
 * (Stockham's self-sorting method; W. Cochran et al., "What is the fast Fourier transform?", Proc. IEEE 1967).
 * Each magnitude has size / 2 values; the first, at 0 Hz, is nought.
 */
export function magnitudes(a: usize, b: usize, magA: usize, magB: usize): void {
  const bytes = <usize>size << 2;
  for (let i: usize = 0; i < bytes; i += 16) {
    const w = v128.load(win + i);
    v128.store(re + i, f32x4.mul(v128.load(a + i), w));
    v128.store(im + i, f32x4.mul(v128.load(b + i), w));
  }
  let xr = re;
  let xi = im;
  let yr = spareRe;
  let yi = spareIm;
  let t = twiddles;
  let stride: i32 = 1;
  let n = size;
  while (n > 1) {
    const m = n >> 2;
    if (n === 2) stageTwo(xr, xi, yr, yi, stride);
    else if (stride === 1) stageFirst(xr, xi, yr, yi, m, t);
    else stageWide(xr, xi, yr, yi, m, stride, t);
    let swap = xr;
    xr = yr;
    yr = swap;
    swap = xi;
    xi = yi;
    yi = swap;
    t += <usize>(24 * m);
    n = m;
    stride <<= 2;
  }
  const half = f32x4.splat(0.5);
  const halfBytes = bytes >> 1;
  for (let k: usize = 4; k < halfBytes; k += 16) {
    // The last step reaches beyond the half; what it writes there is never read.
    const back = bytes - k - 12;
    const ar = v128.load(xr + k);
    const ai = v128.load(xi + k);
    const br = reversed(xr + back);
    const bi = reversed(xi + back);
    const p = f32x4.add(ar, br);
    const q = f32x4.sub(ai, bi);
    v128.store(magA + k, f32x4.mul(half, f32x4.sqrt(f32x4.add(f32x4.mul(p, p), f32x4.mul(q, q)))));
    const u = f32x4.add(ai, bi);
    const v = f32x4.sub(br, ar);
    v128.store(magB + k, f32x4.mul(half, f32x4.sqrt(f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v)))));
  }
  store<f32>(magA, 0);
  store<f32>(magB, 0);
}

/**
 * One frame's magnitudes to log band levels, written to `now`, and to `point`: the rises in the low, mid and high bands
 * against the levels at `before`, log energy, and log energy of the low bands. Levels of two bands each are added up in
 * `pooled`, and rises of four bands each behind them, in `pooledRises`.
 */
export function hear(magnitude: usize, now: usize, before: usize, point: usize, pooled: usize, pooledRises: usize): void {
  let sum: f32 = 0;
  let lowSum: f32 = 0;
  let k = weights;
  for (let b: i32 = 0; b < bands; b++) {
    let value: f32 = 0;
    let bin = magnitude + (<usize>load<u32>(firstBin + (<usize>b << 2)) << 2);
    const to = weights + (<usize>load<u32>(at + (<usize>(b + 1) << 2)) << 2);
    for (; k < to; k += 4, bin += 4) value += load<f32>(k) * load<f32>(bin);
    const level = Mathf.log(1 + value) * <f32>0.4342944819;
    store<f32>(now + (<usize>b << 2), level);
    const pool = pooled + (<usize>(b >> 1) << 2);
    store<f32>(pool, load<f32>(pool) + level);
    sum += value * value;
    if (b < firstMid) lowSum += value * value;
  }
  let low: f32 = 0;
  let mid: f32 = 0;
  let high: f32 = 0;
  for (let b: i32 = 0; b < bands; b++) {
    const here = <usize>b << 2;
    let was = load<f32>(before + here);
    if (b > 0) was = max(was, load<f32>(before + here - 4));
    if (b + 1 < bands) was = max(was, load<f32>(before + here + 4));
    const rise = max(<f32>0, load<f32>(now + here) - was);
    const pool = pooledRises + (<usize>(b >> 2) << 2);
    store<f32>(pool, load<f32>(pool) + rise);
    if (b < firstMid) low += rise;
    else if (b < firstHigh) mid += rise;
    else high += rise;
  }
  store<f32>(point, low);
  store<f32>(point, mid, 4);
  store<f32>(point, high, 8);
  store<f32>(point, Mathf.log(0.001 + sum / <f32>bands), 12);
  store<f32>(point, Mathf.log(0.001 + lowSum / <f32>max(1, firstMid)), 16);
}
