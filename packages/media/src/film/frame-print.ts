import { PRINT_BYTES, PRINT_SIDE } from '@bluster/core';

/** Every so many pixels and rows are looked at, but in large frames no more rows of a field than about so many: enough for a mean. */
const STEP = 2;
const ROWS_A_FIELD = 12;

/**
 * The print of a frame: the mean lightness of each of its fields.
 * @param frame planes of video; its lightness stands first, row by row
 * @param print PRINT_BYTES, written to
 */
export function printFrame(frame: Uint8Array, width: number, height: number, print: Uint8Array): void {
  const down = Math.max(STEP, Math.floor(height / PRINT_SIDE / ROWS_A_FIELD));
  for (let row = 0; row < PRINT_SIDE; row++) {
    const [top, bottom] = [Math.floor((row * height) / PRINT_SIDE), Math.ceil(((row + 1) * height) / PRINT_SIDE)];
    for (let column = 0; column < PRINT_SIDE; column++) {
      const [left, right] = [Math.floor((column * width) / PRINT_SIDE), Math.ceil(((column + 1) * width) / PRINT_SIDE)];
      let sum = 0;
      let count = 0;
      for (let y = top; y < bottom; y += down) {
        const end = y * width + right;
        for (let at = y * width + left; at < end; at += STEP) sum += frame[at]!;
        count += Math.ceil((right - left) / STEP);
      }
      print[row * PRINT_SIDE + column] = Math.round(sum / count);
    }
  }
}

/** Prints of frames that come one after the other; room for them is made as they come. */
export class FramePrints {
  private all: Uint8Array;
  private count = 0;

  constructor(
    private readonly width: number,
    private readonly height: number,
    expected: number,
  ) {
    this.all = new Uint8Array(Math.max(1, expected) * PRINT_BYTES);
  }

  push(frame: Uint8Array): void {
    if (this.all.length < (this.count + 1) * PRINT_BYTES) {
      const more = new Uint8Array(2 * this.all.length);
      more.set(this.all);
      this.all = more;
    }
    printFrame(frame, this.width, this.height, this.all.subarray(this.count * PRINT_BYTES, (this.count + 1) * PRINT_BYTES));
    this.count++;
  }

  /** PRINT_BYTES for each frame */
  result(): Uint8Array {
    return this.all.subarray(0, this.count * PRINT_BYTES);
  }
}
