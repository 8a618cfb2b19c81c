/** How loud something is, after EBU R 128 and ITU-R BS.1770-5. */
export interface Loudness {
  /** over all, LUFS; null where all of it is silence */
  readonly integrated: number | null;
  /** the loudest three seconds, LUFS */
  readonly shortTerm: number | null;
  /** how far soft and loud parts lie apart (EBU Tech 3342), LU */
  readonly range: number;
  /** the highest peak between samples too, dBTP; null where all of it is silence */
  readonly peak: number | null;
}

/** Filters of second order: y = b0 x + b1 x1 + b2 x2 - a1 y1 - a2 y2. */
type Biquad = readonly [b0: number, b1: number, b2: number, a1: number, a2: number];

/** The two filters of K weighting at a rate (Hz), from the analogue ones that BS.1770 gives coefficients of for 48 kHz. */
export function kWeighting(rate: number): readonly [Biquad, Biquad] {
  const shelf = ((): Biquad => {
    const [f, gain, q] = [1681.974450955533, 3.999843853973347, 0.7071752369554196];
    const k = Math.tan((Math.PI * f) / rate);
    const high = 10 ** (gain / 20);
    const band = high ** 0.4996667741545416;
    const a0 = 1 + k / q + k * k;
    return [
      (high + (band * k) / q + k * k) / a0,
      (2 * (k * k - high)) / a0,
      (high - (band * k) / q + k * k) / a0,
      (2 * (k * k - 1)) / a0,
      (1 - k / q + k * k) / a0,
    ];
  })();
  const [f, q] = [38.13547087602444, 0.5003270373238773];
  const k = Math.tan((Math.PI * f) / rate);
  const a0 = 1 + k / q + k * k;
  return [shelf, [1, -2, 1, (2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0]];
}

/** Steps of the gates, seconds, and how many of them make 400 ms and three seconds. */
const STEP_S = 0.1;
const MOMENT_STEPS = 4;
const SHORT_STEPS = 30;
/** Nothing below this counts, LUFS. */
const ABSOLUTE_GATE = -70;
const GATE = { integrated: -10, range: -20 } as const;

/** Loudness (LUFS) of a weighted power, that of all channels together. */
export const loudnessOf = (power: number): number => -0.691 + 10 * Math.log10(power);
const powerOf = (loudness: number): number => 10 ** ((loudness + 0.691) / 10);
const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;

/** Between two samples so many more are looked at for peaks. */
const OVERSAMPLED = 4;
/** Samples on each side that a value between two is made from. */
const REACH = 6;

/** Values between samples by windowed sinc, one list of weights for each place. */
const BETWEEN = Array.from({ length: OVERSAMPLED - 1 }, (_, n) => {
  const at = (n + 1) / OVERSAMPLED;
  const weights = Float64Array.from({ length: 2 * REACH }, (__, i) => {
    const x = i - REACH + 1 - at;
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * Math.cos((Math.PI * x) / (2 * (REACH + 0.5))) ** 2;
  });
  const sum = weights.reduce((a, b) => a + b, 0);
  return weights.map((w) => w / sum);
});
/** Only near samples as loud as this, beside the loudest so far, can there be a higher peak. */
const NEAR_PEAK = 0.6;

/** Measures the loudness of sound that comes piece by piece. Two channels, interleaved, 1 is full scale. */
export class LoudnessMeter {
  private readonly filters: readonly [Biquad, Biquad];
  /** of each channel: two samples that came, two after the first filter, two after the second */
  private readonly past = [new Float64Array(6), new Float64Array(6)] as const;
  private readonly step: number;
  private readonly powers: number[] = [];
  private sum = 0;
  private inStep = 0;
  private peak = 0;
  /** the last samples of each channel, for peaks across pieces */
  private tail = new Float32Array(0);

  /** @param rate Hz */
  constructor(rate: number) {
    this.filters = kWeighting(rate);
    this.step = Math.round(rate * STEP_S);
  }

  push(samples: Float32Array): void {
    this.weigh(samples);
    this.lookForPeaks(samples);
  }

  /** One channel through both filters, in place of `to`. The filters' past is kept from piece to piece. */
  private filtered(samples: Float32Array, channel: 0 | 1, to: Float64Array): void {
    const [shelf, pass] = this.filters;
    const [b0, b1, b2, a1, a2] = [shelf[0], shelf[1], shelf[2], shelf[3], shelf[4]];
    const [c0, c1, c2, d1, d2] = [pass[0], pass[1], pass[2], pass[3], pass[4]];
    const past = this.past[channel];
    let [x1, x2, y1, y2, z1, z2] = [past[0]!, past[1]!, past[2]!, past[3]!, past[4]!, past[5]!];
    for (let i = 0; i < to.length; i++) {
      const x = samples[2 * i + channel]!;
      const y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2;
      const z = c0 * y + c1 * y1 + c2 * y2 - d1 * z1 - d2 * z2;
      x2 = x1;
      x1 = x;
      y2 = y1;
      y1 = y;
      z2 = z1;
      z1 = z;
      to[i] = z;
    }
    past.set([x1, x2, y1, y2, z1, z2]);
  }

  private weigh(samples: Float32Array): void {
    const frames = samples.length >> 1;
    const [left, right] = [new Float64Array(frames), new Float64Array(frames)];
    this.filtered(samples, 0, left);
    this.filtered(samples, 1, right);
    for (let i = 0; i < frames; i++) {
      this.sum += left[i]! * left[i]! + right[i]! * right[i]!;
      if (++this.inStep < this.step) continue;
      this.powers.push(this.sum / this.step);
      this.sum = 0;
      this.inStep = 0;
    }
  }

  private lookForPeaks(samples: Float32Array): void {
    const all = new Float32Array(this.tail.length + samples.length);
    all.set(this.tail);
    all.set(samples, this.tail.length);
    const frames = all.length >> 1;
    let { peak } = this;
    const heard = (value: number): void => {
      const loud = value < 0 ? -value : value;
      if (loud > peak) peak = loud;
    };
    for (let i = 0; i < samples.length; i++) heard(samples[i]!);
    for (let channel = 0; channel < 2; channel++)
      for (let i = REACH - 1; i + REACH < frames; i++) {
        const [a, b] = [all[2 * i + channel]!, all[2 * i + 2 + channel]!];
        const least = NEAR_PEAK * peak;
        if (a < least && a > -least && b < least && b > -least) continue;
        for (let n = 0; n < BETWEEN.length; n++) {
          const weights = BETWEEN[n]!;
          let value = 0;
          for (let k = 0; k < weights.length; k++) value += weights[k]! * all[2 * (i - REACH + 1 + k) + channel]!;
          heard(value);
        }
      }
    this.peak = peak;
    this.tail = all.slice(Math.max(0, all.length - 2 * (2 * REACH - 1)));
  }

  /** What was heard so far. */
  result(): Loudness {
    const windows = (steps: number): number[] => {
      const out: number[] = [];
      for (let i = steps; i <= this.powers.length; i++) out.push(mean(this.powers.slice(i - steps, i)));
      return out.filter((power) => power > powerOf(ABSOLUTE_GATE));
    };
    const gated = (all: readonly number[], below: number): number[] => {
      if (all.length === 0) return [];
      const gate = powerOf(loudnessOf(mean(all)) + below);
      return all.filter((power) => power > gate);
    };
    const moments = gated(windows(MOMENT_STEPS), GATE.integrated);
    const short = windows(SHORT_STEPS);
    const ranged = gated(short, GATE.range).sort((a, b) => a - b);
    const at = (part: number): number => loudnessOf(ranged[Math.round((ranged.length - 1) * part)]!);
    return {
      integrated: moments.length > 0 ? loudnessOf(mean(moments)) : null,
      shortTerm: short.length > 0 ? loudnessOf(short.reduce((most, power) => Math.max(most, power), 0)) : null,
      range: ranged.length > 0 ? at(0.95) - at(0.1) : 0,
      peak: this.peak > 0 ? 20 * Math.log10(this.peak) : null,
    };
  }
}
