import { firstFree, instanceOf, type GrowingCode } from '../music/compiled.ts';
import { BLOCK_MOTION_WASM } from './block-motion.wasm.ts';

/** Side of a block, pixels. */
export const BLOCK = 8;

/** How the blocks of one picture moved to the next; pixels. */
export interface MotionField {
  readonly columns: number;
  readonly rows: number;
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** sum of differences that is left after the motion, each block */
  readonly rest: Float32Array;
  /** 1 where a block has enough detail to be followed, else 0 */
  readonly clear: Uint8Array;
}

/** What the compiled code offers; addresses in bytes. */
interface Exports extends GrowingCode {
  follow(from: number, to: number, width: number, height: number, x: number, y: number, rest: number, clear: number): void;
}

/** The code reads rows of eight pixels, and one pixel beside them. */
const BESIDE = 16;

/**
 * Follows each block from one picture to the next, to parts of a pixel: a diamond search (S. Zhu and K.-K. Ma, "A new
 * diamond search algorithm for fast block-matching motion estimation", IEEE TIP 2000) from where the block and its
 * neighbours went before.
 */
export class BlockFollower {
  private readonly code: Exports;
  /** addresses of two pictures: the one before, and the one that comes */
  private planes: readonly [number, number];
  private readonly lists: readonly [x: number, y: number, rest: number, clear: number];
  private readonly field: MotionField;
  private pictures = 0;

  /** @param width of the pictures, `height` likewise, pixels. @throws {RangeError} where there is no memory left */
  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    const [columns, rows] = [Math.floor(width / BLOCK), Math.floor(height / BLOCK)];
    const count = columns * rows;
    this.code = instanceOf<Exports>(BLOCK_MOTION_WASM);
    const lists = firstFree(this.code);
    const plane = lists + 4 * 4 * count;
    const bytes = width * height + BESIDE;
    if (this.code.reach(plane + 2 * bytes) === 0) throw new RangeError('There is no memory left.');
    this.planes = [plane, plane + bytes];
    this.lists = [lists, lists + 4 * count, lists + 8 * count, lists + 12 * count];
    const { buffer } = this.code.memory;
    this.field = {
      columns,
      rows,
      x: new Float32Array(buffer, this.lists[0], count),
      y: new Float32Array(buffer, this.lists[1], count),
      rest: new Float32Array(buffer, this.lists[2], count),
      clear: new Uint8Array(buffer, this.lists[3], count),
    };
  }

  /**
   * Takes the next picture.
   * @param luma of its pixels; what lies after width by height of them is not looked at
   * @returns how blocks moved to it from the one before, null for the first one. It is overwritten by the next.
   */
  push(luma: Uint8Array): MotionField | null {
    const [before, now] = this.planes;
    const size = this.width * this.height;
    if (luma.length < size) throw new RangeError(`a picture has ${size} pixels, not ${luma.length}`);
    new Uint8Array(this.code.memory.buffer, now, size).set(luma.subarray(0, size));
    this.planes = [now, before];
    if (this.pictures++ === 0) return null;
    this.code.follow(before, now, this.width, this.height, ...this.lists);
    return this.field;
  }
}
