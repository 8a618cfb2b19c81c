import { firstFree, instanceOf, type GrowingCode } from './compiled.ts';
import { HALF_RATE_WASM } from './half-rate.wasm.ts';

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

/** What the compiled code offers; addresses in bytes. */
interface Exports extends GrowingCode {
  deal(samples: number, first: number, second: number, scale: number, count: number): void;
  filter(even: number, odd: number, out: number, taps: number, count: number): void;
}

/** The most samples that are filtered at a time. */
const BLOCK = 1 << 15;
/** Samples before and after the middle one. */
const REACH = 2 * PAIRS - 1;
/** Of whole numbers of 16 bits, full scale. */
const FULL_16 = 32_768;

/**
 * Brings sound to half its rate as it comes, without delay: sample n of what comes out lies on sample 2 n of what went in.
 * What lies above a quarter of the rate is taken away by a half-band filter.
 */
export class HalfRate {
  private readonly code: Exports;
  private readonly at: { readonly even: number; readonly odd: number; readonly out: number; readonly taps: number; readonly given: number };
  /** where samples are put in */
  private readonly given: Int16Array;
  private readonly even: Float32Array;
  private readonly odd: Float32Array;
  private readonly out: Float32Array;
  /** samples that wait for those after them, beginning with silence before the first; an even one first */
  private held = REACH;

  constructor() {
    this.code = instanceOf<Exports>(HALF_RATE_WASM);
    const bytes = 4 * (BLOCK + 4 * REACH);
    const taps = firstFree(this.code);
    const [even, odd, out, given] = [0, 1, 2, 3].map((k) => taps + 64 + k * bytes) as [number, number, number, number];
    this.at = { taps, even, odd, out, given };
    if (this.code.reach(given + bytes) === 0) throw new RangeError('There is no memory left.');
    const { buffer } = this.code.memory;
    new Float32Array(buffer, taps, PAIRS).set(halfBand());
    this.given = new Int16Array(buffer, given, BLOCK);
    [this.even, this.odd, this.out] = [even, odd, out].map((at) => new Float32Array(buffer, at, bytes / 4)) as [
      Float32Array,
      Float32Array,
      Float32Array,
    ];
  }

  /** Takes samples of 16 bits, and gives those that can be told from them, -1 to 1. */
  push(samples: Int16Array): Float32Array {
    const given = new Float32Array(Math.max(0, Math.floor((this.held + samples.length - 2 * REACH - 1) / 2) + 1));
    let done = 0;
    for (let from = 0; from < samples.length; from += BLOCK) {
      const part = this.filterPart(samples.subarray(from, from + BLOCK));
      given.set(part, done);
      done += part.length;
    }
    return given;
  }

  /** What is left once the sound has ended. */
  finish(): Float32Array {
    return this.push(new Int16Array(REACH));
  }

  private filterPart(samples: Int16Array): Float32Array {
    const { code, at, even, odd, out, given } = this;
    // Dealt out by turns, the filter's samples lie side by side.
    const place = 4 * (this.held >> 1);
    const [first, second] = this.held % 2 === 0 ? [at.even + place, at.odd + place] : [at.odd + place, at.even + place + 4];
    given.set(samples);
    code.deal(at.given, first, second, 1 / FULL_16, samples.length);
    const all = this.held + samples.length;
    const count = Math.max(0, Math.floor((all - 2 * REACH - 1) / 2) + 1);
    code.filter(at.even, at.odd, at.out, at.taps, count);
    even.copyWithin(0, count, (all + 1) >> 1);
    odd.copyWithin(0, count, all >> 1);
    this.held = all - 2 * count;
    return out.subarray(0, count);
  }
}
