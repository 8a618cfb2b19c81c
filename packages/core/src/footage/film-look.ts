import { BLOCK, BlockFollower } from './block-motion.ts';
import { lookBytes } from './small-frame.ts';

const { abs, floor, hypot, max, min, round } = Math;

/** Cells that a picture's signature is taken in. */
export const CELL_COLUMNS = 8;
export const CELL_ROWS = 6;
/** Y, U and V of each cell. */
export const SIGNATURE = CELL_COLUMNS * CELL_ROWS * 3;
/** Parts of the picture whose motion is summed by itself, half of each shared with its neighbours. */
const REGION_COLUMNS = 5;
const REGION_ROWS = 3;
/** How much of a moving thing's size counts in its motion: 1 none, 0 all of it. */
const AREA_POWER = 0.7;
export const REGIONS = REGION_COLUMNS * REGION_ROWS;

/** What was seen in a clip, frame by frame. */
export interface FilmLook {
  readonly frames: number;
  /** mean colours of the cells, SIGNATURE values a frame */
  readonly signatures: Uint8Array;
  /** how much moves from the frame before to this one, against the camera: mean over blocks, parts of the picture's width */
  readonly movement: Float32Array;
  /** the camera's own motion from the frame before, parts of the width */
  readonly camera: Float32Array;
  /** what motion cannot explain of a frame, mean of levels 0 to 255 */
  readonly unexplained: Float32Array;
  /** sums of motion in each region, x and y in turn, REGIONS pairs a frame, parts of the width */
  readonly momentum: Float32Array;
  /** mean luma, 0 to 1 */
  readonly brightness: Float32Array;
  /** how much fine detail there is, 0 to 1 */
  readonly sharpness: Float32Array;
}

/** A list of numbers that grows. */
class Growing<T extends Float32Array | Uint8Array> {
  private length = 0;
  constructor(
    private data: T,
    private readonly make: (size: number) => T,
  ) {}
  push(values: ArrayLike<number>): void {
    if (this.length + values.length > this.data.length) {
      const wider = this.make(max(values.length, 2 * this.data.length));
      wider.set(this.data);
      this.data = wider;
    }
    this.data.set(values, this.length);
    this.length += values.length;
  }
  finish(): T {
    return this.data.slice(0, this.length) as T;
  }
}
const floats = (): Growing<Float32Array> => new Growing(new Float32Array(1024), (n) => new Float32Array(n));
const bytes = (): Growing<Uint8Array> => new Growing(new Uint8Array(1 << 16), (n) => new Uint8Array(n));

/** Median of values of which most are alike: the camera's motion among the blocks'. */
function median(values: number[]): number {
  if (values.length === 0) return 0;
  values.sort((a, b) => a - b);
  return values[values.length >> 1]!;
}

/** Looks at a clip's small pictures, one after the other. */
export class FilmLooker {
  private readonly luma: number;
  private readonly size: number;
  private readonly blocks: BlockFollower;
  private frames = 0;
  private readonly signatures = bytes();
  private readonly movement = floats();
  private readonly camera = floats();
  private readonly unexplained = floats();
  private readonly momentum = floats();
  private readonly brightness = floats();
  private readonly sharpness = floats();

  /** @param width of the small pictures, `height` likewise: see lookSize */
  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    this.luma = width * height;
    this.size = lookBytes({ width, height });
    this.blocks = new BlockFollower(width, height);
  }

  /** Takes the next picture, planar 4:2:0 as lookBytes says. */
  push(picture: Uint8Array): void {
    if (picture.length !== this.size) throw new RangeError(`a picture has ${this.size} bytes, not ${picture.length}`);
    this.frames++;
    this.signatures.push(this.signatureOf(picture));
    this.lookAtDetail(picture);
    this.lookAtMotion(picture);
  }

  finish(): FilmLook {
    return {
      frames: this.frames,
      signatures: this.signatures.finish(),
      movement: this.movement.finish(),
      camera: this.camera.finish(),
      unexplained: this.unexplained.finish(),
      momentum: this.momentum.finish(),
      brightness: this.brightness.finish(),
      sharpness: this.sharpness.finish(),
    };
  }

  private signatureOf(picture: Uint8Array): number[] {
    const cells: number[] = [];
    const plane = (start: number, width: number, height: number): void => {
      for (let row = 0; row < CELL_ROWS; row++)
        for (let column = 0; column < CELL_COLUMNS; column++) {
          const [x0, x1] = [floor((column * width) / CELL_COLUMNS), floor(((column + 1) * width) / CELL_COLUMNS)];
          const [y0, y1] = [floor((row * height) / CELL_ROWS), floor(((row + 1) * height) / CELL_ROWS)];
          let sum = 0;
          for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) sum += picture[start + y * width + x]!;
          cells.push(round(sum / max(1, (x1 - x0) * (y1 - y0))));
        }
    };
    plane(0, this.width, this.height);
    plane(this.luma, this.width / 2, this.height / 2);
    plane(this.luma * 1.25, this.width / 2, this.height / 2);
    return cells;
  }

  private lookAtDetail(picture: Uint8Array): void {
    const { width, height } = this;
    let [light, fine] = [0, 0];
    for (let y = 1; y < height - 1; y++)
      for (let at = y * width + 1; at < (y + 1) * width - 1; at++) {
        const v = picture[at]!;
        light += v;
        fine += abs(4 * v - picture[at - 1]! - picture[at + 1]! - picture[at - width]! - picture[at + width]!);
      }
    const count = (width - 2) * (height - 2);
    this.brightness.push([max(0, min(1, (light / count - 16) / 219))]);
    this.sharpness.push([min(1, fine / count / 60)]);
  }

  private lookAtMotion(picture: Uint8Array): void {
    const { width } = this;
    const field = this.blocks.push(picture);
    const sums = new Float32Array(2 * REGIONS);
    const counts = new Uint16Array(REGIONS);
    if (!field) {
      for (const curve of [this.movement, this.camera, this.unexplained]) curve.push([0]);
      this.momentum.push(sums);
      return;
    }
    const clear = [...field.clear.keys()].filter((b) => field.clear[b] === 1);
    const cameraX = median(clear.map((b) => field.x[b]!));
    const cameraY = median(clear.map((b) => field.y[b]!));
    let [moved, rest] = [0, 0];
    for (let b = 0; b < field.rest.length; b++) {
      rest += field.rest[b]!;
      if (field.clear[b] === 0) continue;
      const [x, y] = [field.x[b]! - cameraX, field.y[b]! - cameraY];
      const size = hypot(x, y);
      if (size < 0.25) continue;
      moved += size;
      const column = (b % field.columns) / field.columns;
      const row = floor(b / field.columns) / field.rows;
      // Each block counts in the regions it lies in: they overlap by half, so that nothing falls between them.
      for (let ry = 0; ry < REGION_ROWS; ry++) {
        if (abs(row + 0.5 / field.rows - (ry + 1) / (REGION_ROWS + 1)) > 1 / (REGION_ROWS + 1)) continue;
        for (let rx = 0; rx < REGION_COLUMNS; rx++) {
          if (abs(column + 0.5 / field.columns - (rx + 1) / (REGION_COLUMNS + 1)) > 1 / (REGION_COLUMNS + 1)) continue;
          const region = ry * REGION_COLUMNS + rx;
          counts[region]!++;
          sums[2 * region]! += x / width;
          sums[2 * region + 1]! += y / width;
        }
      }
    }
    // Something that passes a busy ground is followed in more blocks; that alone is no change of its motion.
    for (const [region, count] of counts.entries()) {
      sums[2 * region]! /= max(1, count) ** AREA_POWER;
      sums[2 * region + 1]! /= max(1, count) ** AREA_POWER;
    }
    this.movement.push([moved / field.rest.length / width]);
    this.camera.push([hypot(cameraX, cameraY) / width]);
    this.unexplained.push([rest / (field.rest.length * BLOCK * BLOCK)]);
    this.momentum.push(sums);
  }
}
