/** Taps to each side of the middle that are not nought: every other one. */
const PAIRS = 8;

/** Half of a half-band low-pass: a windowed sinc, the taps at odd distances from the middle (Blackman's window). */
function halfBand(): Float32Array {
  const reach = 2 * PAIRS;
  const taps = Float32Array.from({ length: PAIRS }, (_, i) => {
    const n = 2 * i + 1;
    const window = 0.42 + 0.5 * Math.cos((Math.PI * n) / reach) + 0.08 * Math.cos((2 * Math.PI * n) / reach);
    return (Math.sin((Math.PI * n) / 2) / (Math.PI * n)) * window;
  });
  // At 0 Hz nothing is to change: the middle tap is a half, and so are all others together.
  const sum = 2 * taps.reduce((a, b) => a + b, 0);
  return taps.map((v) => (v * 0.5) / sum);
}

/**
 * Brings sound to half its rate as it comes, without delay: sample n of what comes out lies on sample 2 n of what went in.
 * What lies above a quarter of the rate is taken away by a half-band filter.
 */
export class HalfRate {
  private readonly taps = halfBand();
  /** what is still needed of the samples so far, beginning with silence before the first */
  private held = new Float32Array(2 * PAIRS - 1);

  /** Takes samples and gives those that can be told from them. */
  push(samples: Float32Array): Float32Array {
    const reach = 2 * PAIRS - 1;
    const all = new Float32Array(this.held.length + samples.length);
    all.set(this.held);
    all.set(samples, this.held.length);
    const count = Math.max(0, Math.floor((all.length - 2 * reach - 1) / 2) + 1);
    const out = new Float32Array(count);
    const [a, b, c, d, e, f, g, h] = this.taps as unknown as [number, number, number, number, number, number, number, number];
    for (let i = 0, m = reach; i < count; i++, m += 2)
      out[i] =
        0.5 * all[m]! +
        a * (all[m - 1]! + all[m + 1]!) +
        b * (all[m - 3]! + all[m + 3]!) +
        c * (all[m - 5]! + all[m + 5]!) +
        d * (all[m - 7]! + all[m + 7]!) +
        e * (all[m - 9]! + all[m + 9]!) +
        f * (all[m - 11]! + all[m + 11]!) +
        g * (all[m - 13]! + all[m + 13]!) +
        h * (all[m - 15]! + all[m + 15]!);
    this.held = all.slice(2 * count);
    return out;
  }

  /** What is left once the sound has ended. */
  finish(): Float32Array {
    return this.push(new Float32Array(2 * PAIRS - 1));
  }
}
