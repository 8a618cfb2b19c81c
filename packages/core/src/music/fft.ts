/**
 * A complex discrete Fourier transform of one size, by the self-sorting method of Stockham in steps of four (W. Cochran
 * et al., "What is the fast Fourier transform?", Proc. IEEE 1967).
 * Ours, since the packages at hand work on plain arrays and took several times as long; transforms are most of detection.
 */
export class Fft {
  private readonly cos: Float64Array;
  private readonly sin: Float64Array;
  private readonly spareRe: Float64Array;
  private readonly spareIm: Float64Array;

  /** @param size a power of two */
  constructor(readonly size: number) {
    if (size < 2 || (size & (size - 1)) !== 0) throw new RangeError(`A transform's size must be a power of two, not ${size}.`);
    this.cos = Float64Array.from({ length: size }, (_, i) => Math.cos((2 * Math.PI * i) / size));
    this.sin = Float64Array.from({ length: size }, (_, i) => -Math.sin((2 * Math.PI * i) / size));
    this.spareRe = new Float64Array(size);
    this.spareIm = new Float64Array(size);
  }

  /** Transforms real and imaginary parts of `size` values each, in place. */
  transform(re: Float64Array, im: Float64Array): void {
    const { size, cos, sin } = this;
    let xr = re;
    let xi = im;
    let yr = this.spareRe;
    let yi = this.spareIm;
    let stride = 1;
    let n = size;
    for (; n >= 4; n /= 4, stride *= 4) {
      const m = n / 4;
      const quarter = stride * m;
      for (let p = 0; p < m; p++) {
        const c1 = cos[p * stride]!;
        const s1 = sin[p * stride]!;
        const c2 = cos[2 * p * stride]!;
        const s2 = sin[2 * p * stride]!;
        const c3 = cos[3 * p * stride]!;
        const s3 = sin[3 * p * stride]!;
        const to = 4 * p * stride;
        for (let q = 0, i = p * stride; q < stride; q++, i++) {
          const ar = xr[i]!;
          const ai = xi[i]!;
          const br = xr[i + quarter]!;
          const bi = xi[i + quarter]!;
          const cr = xr[i + 2 * quarter]!;
          const ci = xi[i + 2 * quarter]!;
          const dr = xr[i + 3 * quarter]!;
          const di = xi[i + 3 * quarter]!;
          const acr = ar + cr;
          const aci = ai + ci;
          const acr_ = ar - cr;
          const aci_ = ai - ci;
          const bdr = br + dr;
          const bdi = bi + di;
          const bdr_ = di - bi; // j (b - d), real part
          const bdi_ = br - dr;
          const o = to + q;
          yr[o] = acr + bdr;
          yi[o] = aci + bdi;
          let r = acr_ - bdr_;
          let v = aci_ - bdi_;
          yr[o + stride] = r * c1 - v * s1;
          yi[o + stride] = r * s1 + v * c1;
          r = acr - bdr;
          v = aci - bdi;
          yr[o + 2 * stride] = r * c2 - v * s2;
          yi[o + 2 * stride] = r * s2 + v * c2;
          r = acr_ + bdr_;
          v = aci_ + bdi_;
          yr[o + 3 * stride] = r * c3 - v * s3;
          yi[o + 3 * stride] = r * s3 + v * c3;
        }
      }
      [xr, yr] = [yr, xr];
      [xi, yi] = [yi, xi];
    }
    if (n === 2) {
      for (let q = 0; q < stride; q++) {
        const ar = xr[q]!;
        const ai = xi[q]!;
        const br = xr[q + stride]!;
        const bi = xi[q + stride]!;
        yr[q] = ar + br;
        yi[q] = ai + bi;
        yr[q + stride] = ar - br;
        yi[q + stride] = ai - bi;
      }
      xr = yr;
      xi = yi;
    }
    if (xr !== re) {
      re.set(xr);
      im.set(xi);
    }
  }
}
