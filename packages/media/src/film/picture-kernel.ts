import { firstFree, instanceOf, type GrowingCode } from '@bluster/core/music/compiled';
import { PICTURES_WASM } from './pictures.wasm.ts';
import { spares } from './spare-planes.ts';

/** What the compiled code offers; addresses in bytes. */
interface Exports extends GrowingCode {
  mix(below: number, above: number, out: number, length: number, part: number): void;
  veil(below: number, value: number, out: number, length: number, part: number): void;
  mixMasked(below: number, above: number, out: number, length: number, parts: number): void;
  veilMasked(below: number, value: number, out: number, length: number, parts: number): void;
  halve(from: number, width: number, height: number, out: number): void;
  sample(...layout: number[]): void;
  sampleTurned(...layout: number[]): void;
  setColours(...parts: number[]): void;
  recolour(from: number, out: number, width: number, height: number): void;
}

/** Vectors may reach so many bytes beyond what they are asked for. */
const BEYOND = 32;

/** Memory of the compiled code, laid out anew for each piece of work. */
export class PictureKernel {
  readonly code = instanceOf<Exports>(PICTURES_WASM);
  private next = 0;
  private bytes = new Uint8Array(this.code.memory.buffer);

  /** Begins a piece of work that needs so many bytes at the most: what lay in memory is forgotten. */
  begin(most: number): this {
    this.next = firstFree(this.code);
    if (this.code.reach(this.next + most + 64 * BEYOND) === 0) throw new Error('There is not enough memory to put a frame together.');
    if (this.bytes.buffer !== this.code.memory.buffer) this.bytes = new Uint8Array(this.code.memory.buffer);
    return this;
  }

  /** Room for so many bytes; what is in it is anything. @returns its address */
  room(length: number): number {
    const here = this.next;
    this.next += 16 * Math.ceil((length + BEYOND) / 16);
    return here;
  }

  /** Bytes put into memory. @returns their address */
  put(values: Uint8Array | Uint16Array | Int32Array): number {
    const here = this.room(values.byteLength);
    this.bytes.set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength), here);
    return here;
  }

  /** A copy of bytes out of memory, for the frame that is being made. */
  take(at: number, length: number): Uint8Array {
    return this.takeInto(at, spares.lend(length));
  }

  /** As many bytes out of memory as there is room for. @returns where they were put */
  takeInto(at: number, to: Uint8Array): Uint8Array {
    to.set(this.bytes.subarray(at, at + to.length));
    return to;
  }
}

/** One for all work of a thread. */
export const kernel = new PictureKernel();
