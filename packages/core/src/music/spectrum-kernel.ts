import { firstFree, instanceOf, type CompiledCode } from './compiled.ts';
import { SPECTRUM_WASM } from './spectrum.wasm.ts';

/** What the compiled code offers; addresses in bytes. */
interface Exports extends CompiledCode {
  setup(...layout: number[]): void;
  magnitudes(a: number, b: number, magA: number, magB: number): void;
  hear(magnitude: number, now: number, before: number, point: number, pooled: number, pooledRises: number): void;
}

/** Triangular filters laid end to end: filter b covers bins first[b] on, with weights from at[b] to at[b + 1]. */
export interface FilterBank {
  readonly count: number;
  readonly first: Uint32Array;
  readonly at: Uint32Array;
  readonly weights: Float32Array;
  /** middle of each filter, Hz */
  readonly hz: readonly number[];
}

/** How many values `hear` tells: rises in the low, mid and high bands, log energy, log energy of the low bands. */
export const POINT_SIZE = 5;

/** Windows of samples in, band levels and rises out; the work is done by compiled code in memory of its own. */
export class SpectrumKernel {
  private readonly exports: Exports;
  private readonly floats: Float32Array;
  private readonly inputAt: readonly [number, number];
  /** where the samples of the two windows are to be written */
  readonly inputs: readonly [Float32Array, Float32Array];
  private readonly magnitudeAt: readonly [number, number];
  private readonly rows: readonly number[];
  /** what was heard before the song: nothing */
  private readonly silence: number;
  private readonly pointAt: number;
  private readonly point: Float32Array;
  private readonly pooledAt: number;
  /**
   * What has been pooled of the frames heard since it was last filled with noughts: levels of two bands each, then rises of
   * four bands each, added up.
   */
  readonly pooled: Float32Array;
  /** how many pooled levels there are, and how many pooled rises behind them */
  readonly pools: readonly [number, number];

  /**
   * @param window one value a sample, a power of two of them, at least 16
   * @param firstMid the first band that is not low, and the first that is high
   * @param history of how many frames band levels are kept
   */
  constructor(window: Float32Array, bank: FilterBank, firstMid: number, firstHigh: number, history: number) {
    this.exports = instanceOf<Exports>(SPECTRUM_WASM);
    const { buffer } = this.exports.memory;
    this.floats = new Float32Array(buffer);

    const size = window.length;
    let next = firstFree(this.exports);
    const room = (values: number): number => {
      const here = next;
      next += 4 * Math.ceil((values + 4) / 4) * 4; // four more: vectors may reach beyond the end
      return here;
    };
    const put = (values: Float32Array | Uint32Array): number => {
      const here = room(values.length);
      if (values instanceof Float32Array) this.floats.set(values, here / 4);
      else new Uint32Array(buffer).set(values, here / 4);
      return here;
    };
    const view = (at: number, values: number): Float32Array => this.floats.subarray(at / 4, at / 4 + values);
    this.inputAt = [room(size), room(size)];
    this.inputs = [view(this.inputAt[0], size), view(this.inputAt[1], size)];
    this.magnitudeAt = [room(size / 2), room(size / 2)];
    this.rows = Array.from({ length: history }, () => room(bank.count));
    this.silence = room(bank.count);
    this.pointAt = room(POINT_SIZE);
    this.point = view(this.pointAt, POINT_SIZE);
    this.pools = [Math.ceil(bank.count / 2), Math.ceil(bank.count / 4)];
    this.pooledAt = room(this.pools[0] + this.pools[1]);
    this.pooled = view(this.pooledAt, this.pools[0] + this.pools[1]);
    const windowAt = put(window);
    const scratch = room(4 * size);
    const layout = [windowAt, scratch, put(twiddles(size)), put(bank.first), put(bank.at), put(bank.weights)];
    if (next > buffer.byteLength) throw new RangeError(`A window of ${size} samples is too long.`);
    this.exports.setup(size, bank.count, firstMid, firstHigh, ...layout);
  }

  /** Transforms both windows. */
  transform(): void {
    this.exports.magnitudes(...this.inputAt, ...this.magnitudeAt);
  }

  /** Magnitudes of a window after `transform`, one a bin below half the rate. */
  magnitude(which: 0 | 1): Float32Array {
    const half = this.inputs[0].length / 2;
    return this.floats.subarray(this.magnitudeAt[which] / 4, this.magnitudeAt[which] / 4 + half);
  }

  /**
   * Takes a transformed window as frame n, and tells what rose since a frame before.
   * @returns POINT_SIZE values, which hold until the next call
   */
  hear(which: 0 | 1, n: number, lag: number): Float32Array {
    const { exports, rows, pointAt, pooledAt } = this;
    const before = n >= lag ? rows[(n - lag) % rows.length]! : this.silence;
    exports.hear(this.magnitudeAt[which], rows[n % rows.length]!, before, pointAt, pooledAt, pooledAt + 4 * this.pools[0]);
    return this.point;
  }

  /** The first band levels of frame n, which must be among the last that were heard. */
  levels(n: number, count: number): Float32Array {
    const at = this.rows[n % this.rows.length]! / 4;
    return this.floats.subarray(at, at + count);
  }
}

/** The turns of each stage of a transform in steps of four: cosine and negative sine, three times for each of n / 4 places. */
function twiddles(size: number): Float32Array {
  const turns: number[] = [];
  for (let n = size; n >= 4; n /= 4)
    for (let p = 0; p < n / 4; p++)
      for (let k = 1; k < 4; k++) turns.push(Math.cos((2 * Math.PI * k * p) / n), -Math.sin((2 * Math.PI * k * p) / n));
  return Float32Array.from(turns);
}
