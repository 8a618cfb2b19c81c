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

/** Four rows of four values, stored column by column. */
// @ts-ignore: decorator
@inline
function storeColumns(to: usize, a: v128, b: v128, c: v128, d: v128): void {
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
  const cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  const abEnd = v128.shuffle<f32>(a, b, 2, 6, 3, 7);
  const cdEnd = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
  v128.store(to, v128.shuffle<f32>(ab, cd, 0, 1, 4, 5));
  v128.store(to, v128.shuffle<f32>(ab, cd, 2, 3, 6, 7), 16);
  v128.store(to, v128.shuffle<f32>(abEnd, cdEnd, 0, 1, 4, 5), 32);
  v128.store(to, v128.shuffle<f32>(abEnd, cdEnd, 2, 3, 6, 7), 48);
}

/** The first stage: four neighbouring transforms at a time, each with turns of its own, whose results are dealt out by turns. */
function stageFirst(xr: usize, xi: usize, yr: usize, yi: usize, m: i32, t: usize): void {
  const quarter = <usize>m << 2;
  for (let i: usize = 0; i < quarter; i += 16, t += 96) {
    // Cosine and sine of three turns each, of four transforms one after the other.
    const t0 = v128.load(t);
    const t1 = v128.load(t, 16);
    const t2 = v128.load(t, 32);
    const t3 = v128.load(t, 48);
    const t4 = v128.load(t, 64);
    const t5 = v128.load(t, 80);
    const first = v128.shuffle<f32>(t0, t1, 0, 1, 6, 7);
    const firstEnd = v128.shuffle<f32>(t3, t4, 0, 1, 6, 7);
    const second = v128.shuffle<f32>(t0, t2, 2, 3, 4, 5);
    const secondEnd = v128.shuffle<f32>(t3, t5, 2, 3, 4, 5);
    const third = v128.shuffle<f32>(t1, t2, 0, 1, 6, 7);
    const thirdEnd = v128.shuffle<f32>(t4, t5, 0, 1, 6, 7);
    const c1 = v128.shuffle<f32>(first, firstEnd, 0, 2, 4, 6);
    const s1 = v128.shuffle<f32>(first, firstEnd, 1, 3, 5, 7);
    const c2 = v128.shuffle<f32>(second, secondEnd, 0, 2, 4, 6);
    const s2 = v128.shuffle<f32>(second, secondEnd, 1, 3, 5, 7);
    const c3 = v128.shuffle<f32>(third, thirdEnd, 0, 2, 4, 6);
    const s3 = v128.shuffle<f32>(third, thirdEnd, 1, 3, 5, 7);
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
    const ur = f32x4.add(fr, hr);
    const ui = f32x4.add(fi, hi);
    const vr = f32x4.sub(er, gr);
    const vi = f32x4.sub(ei, gi);
    const wr = f32x4.sub(fr, hr);
    const wi = f32x4.sub(fi, hi);
    storeColumns(
      yr + 4 * i,
      f32x4.add(er, gr),
      f32x4.sub(f32x4.mul(ur, c1), f32x4.mul(ui, s1)),
      f32x4.sub(f32x4.mul(vr, c2), f32x4.mul(vi, s2)),
      f32x4.sub(f32x4.mul(wr, c3), f32x4.mul(wi, s3)),
    );
    storeColumns(
      yi + 4 * i,
      f32x4.add(ei, gi),
      f32x4.add(f32x4.mul(ur, s1), f32x4.mul(ui, c1)),
      f32x4.add(f32x4.mul(vr, s2), f32x4.mul(vi, c2)),
      f32x4.add(f32x4.mul(wr, s3), f32x4.mul(wi, c3)),
    );
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

/** Natural logarithms of four numbers of 1 and more (S. Moshier, Cephes Math Library, logf). */
// @ts-ignore: decorator
@inline
function logs(x: v128): v128 {
  const bits = i32x4.sub(i32x4.shr_u(x, 23), i32x4.splat(126));
  const half = v128.or(v128.and(x, i32x4.splat(0x007fffff)), i32x4.splat(0x3f000000));
  const small = f32x4.lt(half, f32x4.splat(0.70710678));
  // True is minus one.
  const exponent = f32x4.convert_i32x4_s(i32x4.add(bits, small));
  const m = f32x4.add(f32x4.sub(half, f32x4.splat(1)), v128.and(half, small));
  const z = f32x4.mul(m, m);
  let y = f32x4.splat(7.0376836292e-2);
  y = f32x4.add(f32x4.mul(y, m), f32x4.splat(-1.151461031e-1));
  y = f32x4.add(f32x4.mul(y, m), f32x4.splat(1.167699874e-1));
  y = f32x4.add(f32x4.mul(y, m), f32x4.splat(-1.2420140846e-1));
  y = f32x4.add(f32x4.mul(y, m), f32x4.splat(1.4249322787e-1));
  y = f32x4.add(f32x4.mul(y, m), f32x4.splat(-1.6668057665e-1));
  y = f32x4.add(f32x4.mul(y, m), f32x4.splat(2.0000714765e-1));
  y = f32x4.add(f32x4.mul(y, m), f32x4.splat(-2.4999993993e-1));
  y = f32x4.add(f32x4.mul(y, m), f32x4.splat(3.3333331174e-1));
  y = f32x4.mul(f32x4.mul(y, m), z);
  y = f32x4.add(y, f32x4.mul(exponent, f32x4.splat(-2.12194440e-4)));
  y = f32x4.sub(y, f32x4.mul(z, f32x4.splat(0.5)));
  return f32x4.add(f32x4.add(m, y), f32x4.mul(exponent, f32x4.splat(0.693359375)));
}

/** What `hear` weighs of the magnitudes in each band, written to `values`. */
function weigh(magnitude: usize, values: usize): void {
  let k = weights;
  for (let b: i32 = 0; b < bands; b++) {
    let bin = magnitude + (<usize>load<u32>(firstBin + (<usize>b << 2)) << 2);
    const to = weights + (<usize>load<u32>(at + (<usize>(b + 1) << 2)) << 2);
    let four = f32x4.splat(0);
    for (; k + 16 <= to; k += 16, bin += 16) four = f32x4.add(four, f32x4.mul(v128.load(k), v128.load(bin)));
    let value =
      f32x4.extract_lane(four, 0) + f32x4.extract_lane(four, 1) + (f32x4.extract_lane(four, 2) + f32x4.extract_lane(four, 3));
    for (; k < to; k += 4, bin += 4) value += load<f32>(k) * load<f32>(bin);
    store<f32>(values + (<usize>b << 2), value);
  }
  // Bands are taken four at a time: those beyond the last are silent.
  v128.store(values + (<usize>bands << 2), f32x4.splat(0));
}

/** A sum of values that lie side by side. */
// @ts-ignore: decorator
@inline
function sumOf(values: usize, first: i32, end: i32): f32 {
  let sum: f32 = 0;
  for (let b = first; b < end; b++) sum += load<f32>(values + (<usize>b << 2));
  return sum;
}

/**
 * One frame's magnitudes to log band levels, written to `now`, and to `point`: the rises in the low, mid and high bands
 * against the levels at `before`, log energy, and log energy of the low bands. Levels of two bands each are added up in
 * `pooled`, and rises of four bands each behind them, in `pooledRises`.
 */
export function hear(magnitude: usize, now: usize, before: usize, point: usize, pooled: usize, pooledRises: usize): void {
  // Where the transform has done its work there is room.
  const values = re;
  const rises = im;
  weigh(magnitude, values);
  let sum: f32 = 0;
  let lowSum: f32 = 0;
  for (let b: i32 = 0; b < bands; b++) {
    const value = load<f32>(values + (<usize>b << 2));
    sum += value * value;
    if (b < firstMid) lowSum += value * value;
  }
  const nought = f32x4.splat(0);
  const end = <usize>bands << 2;
  for (let here: usize = 0; here < end; here += 16) {
    const level = f32x4.mul(logs(f32x4.add(v128.load(values + here), f32x4.splat(1))), f32x4.splat(0.4342944819));
    v128.store(now + here, level);
    const pool = pooled + (here >> 1);
    const pairs = f32x4.add(v128.shuffle<f32>(level, level, 0, 2, 0, 2), v128.shuffle<f32>(level, level, 1, 3, 1, 3));
    v128.store64_lane(pool, f32x4.add(v128.load64_zero(pool), pairs), 0);
    // What was there, or in a neighbouring band; beyond the last it was silent.
    const was = v128.load(before + here);
    const below = here > 0 ? v128.load(before + here - 4) : v128.shuffle<f32>(was, was, 0, 0, 1, 2);
    const above = v128.load(before + here + 4);
    const rise = f32x4.max(nought, f32x4.sub(level, f32x4.max(was, f32x4.max(below, above))));
    v128.store(rises + here, rise);
    const poolRises = pooledRises + (here >> 2);
    const two = f32x4.add(rise, v128.shuffle<f32>(rise, rise, 2, 3, 0, 1));
    store<f32>(poolRises, load<f32>(poolRises) + f32x4.extract_lane(two, 0) + f32x4.extract_lane(two, 1));
  }
  store<f32>(point, sumOf(rises, 0, firstMid));
  store<f32>(point, sumOf(rises, firstMid, firstHigh), 4);
  store<f32>(point, sumOf(rises, firstHigh, bands), 8);
  store<f32>(point, Mathf.log(0.001 + sum / <f32>bands), 12);
  store<f32>(point, Mathf.log(0.001 + lowSum / <f32>max(1, firstMid)), 16);
}
