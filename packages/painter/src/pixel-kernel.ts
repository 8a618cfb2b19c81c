import { firstFree, instanceOf, type GrowingCode } from '@bluster/core/music/compiled';
import type { ColourTables } from '@bluster/core/picture/colour-change';
import { PIXELS_WASM } from './pixels.wasm.ts';

/** What the compiled code offers; addresses in bytes. */
interface Exports extends GrowingCode {
  fromVideo(...layout: number[]): void;
  recolour(at: number, pixels: number, before: number, saturation: number, red: number, green: number, blue: number): void;
}

/** One plane among the bytes of a decoded frame: where it begins, and how many bytes lie from row to row. */
export interface PlaneLayout {
  readonly offset: number;
  readonly stride: number;
}

/** Vectors may reach so many bytes beyond what they are asked for. */
const BEYOND = 64;

const code = instanceOf<Exports>(PIXELS_WASM);
let bytes = new Uint8Array(code.memory.buffer);

/** Where memory is free that reaches so many bytes far. */
function room(length: number): number {
  const start = firstFree(code);
  if (code.reach(start + length + BEYOND) === 0) throw new Error('There is not enough memory to paint a frame.');
  if (bytes.buffer !== code.memory.buffer) bytes = new Uint8Array(code.memory.buffer);
  return start;
}

/**
 * A frame of video as pixels.
 * @param frame brightness, blue and red in planes of 8 bit, 4:2:0, as ITU-R BT.709 codes them, in limited range
 * @param into red, green, blue and opacity of each pixel: four bytes a pixel
 */
export function pixelsOfVideo(
  frame: Uint8Array,
  [luma, blue, red]: readonly [PlaneLayout, PlaneLayout, PlaneLayout],
  width: number,
  height: number,
  into: Uint8ClampedArray,
): void {
  const from = room(frame.length + BEYOND + into.length);
  bytes.set(frame, from);
  const out = 16 * Math.ceil((from + frame.length + BEYOND) / 16);
  code.fromVideo(from + luma.offset, luma.stride, from + blue.offset, from + red.offset, blue.stride, width, height, out);
  into.set(bytes.subarray(out, out + into.length));
}

/** Changes the colours of pixels in place, by tables. */
export function recolourByTables(pixels: ArrayLike<number> & { set(from: ArrayLike<number>): void }, tables: ColourTables): void {
  const { length } = pixels;
  const from = room(4 * 256 + length);
  const at = from + 4 * 256;
  const { before, saturation, after } = tables;
  [before, ...after].forEach((table, n) => bytes.set(table, from + 256 * n));
  bytes.set(pixels, at);
  code.recolour(at, length / 4, from, saturation, from + 256, from + 512, from + 768);
  pixels.set(bytes.subarray(at, at + length));
}
