import type { Camera, Rect, Way } from '@bluster/core';
import { videoColourOf } from './video-colour.ts';

// Pictures here are planes of 8 bit one after the other, luma and two of chroma at half its size (4:2:0), in the limited
// range of video: black is 16 and white 235, no colour is 128.

/** A size in pixels, even in both directions. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

export const BLACK = 16;
const GREY = 128;

/** One picture with a part of another over it. */
export function mixPictures(below: Uint8Array, above: Uint8Array, part: number): Uint8Array {
  const out = new Uint8Array(below.length);
  const weight = Math.round(part * 256);
  for (let i = 0; i < out.length; i++) out[i] = below[i]! + (((above[i]! - below[i]!) * weight + 128) >> 8);
  return out;
}

/** A picture with so much of a colour (#rrggbb) over it. */
export function veiled(picture: Uint8Array, { width, height }: Size, colour: string, part: number): Uint8Array {
  const out = new Uint8Array(picture.length);
  const weight = Math.round(part * 256);
  const pixels = width * height;
  const { luma, blue, red } = videoColourOf(colour);
  const cover = (from: number, to: number, value: number): void => {
    for (let i = from; i < to; i++) out[i] = picture[i]! + (((value - picture[i]!) * weight + 128) >> 8);
  };
  cover(0, pixels, luma);
  cover(pixels, pixels * 1.25, blue);
  cover(pixels * 1.25, out.length, red);
  return out;
}

/** For each pixel of a row or column the one of the source to its left, and how much of the next is in it (of 256). */
function sampled(size: number, zoom: number, shift: number): { at: Int32Array; part: Int32Array } {
  const [at, part] = [new Int32Array(size), new Int32Array(size)];
  const middle = size / 2;
  for (let i = 0; i < size; i++) {
    const exact = Math.max(0, Math.min(size - 1, (i + 0.5 - middle - shift) / zoom + middle - 0.5));
    at[i] = Math.min(size - 2, Math.floor(exact));
    part[i] = Math.round((exact - at[i]!) * 256);
  }
  return { at, part };
}

function enlargePlane(from: Uint8Array, to: Uint8Array, start: number, { width, height }: Size, camera: Camera): void {
  const across = sampled(width, camera.zoom, camera.x);
  const down = sampled(height, camera.zoom, camera.y);
  for (let y = 0; y < height; y++) {
    const top = start + down.at[y]! * width;
    const low = down.part[y]!;
    const row = start + y * width;
    for (let x = 0; x < width; x++) {
      const i = top + across.at[x]!;
      const part = across.part[x]!;
      const above = from[i]! * (256 - part) + from[i + 1]! * part;
      const below = from[i + width]! * (256 - part) + from[i + width + 1]! * part;
      to[row + x] = (above * (256 - low) + below * low + 32768) >> 16;
    }
  }
}

/** A picture as a camera sees it: enlarged about its middle and moved, bilinear. */
export function seenBy(picture: Uint8Array, size: Size, camera: Camera): Uint8Array {
  const out = new Uint8Array(picture.length);
  const half = { width: size.width / 2, height: size.height / 2 };
  const pixels = size.width * size.height;
  enlargePlane(picture, out, 0, size, camera);
  const halfway = { zoom: camera.zoom, x: camera.x / 2, y: camera.y / 2 };
  for (const plane of [0, 1]) enlargePlane(picture, out, pixels + (plane * pixels) / 4, half, halfway);
  return out;
}

/** A picture of one colour, #rrggbb. */
export function filled({ width, height }: Size, colour: string): Uint8Array {
  const { luma, blue, red } = videoColourOf(colour);
  const pixels = width * height;
  const out = new Uint8Array(pixels * 1.5);
  out.fill(luma, 0, pixels);
  out.fill(blue, pixels, pixels * 1.25);
  return out.fill(red, pixels * 1.25);
}

/** For each row of each plane that a part of the screen covers (even pixels): where it begins in a picture, and how long it is. */
function* rowsOf({ width, height }: Size, { x, y, width: wide, height: tall }: Rect): Generator<readonly [number, number]> {
  const pixels = width * height;
  for (let row = y; row < y + tall; row++) yield [row * width + x, wide];
  for (const plane of [pixels, pixels * 1.25])
    for (let row = y / 2; row < (y + tall) / 2; row++) yield [plane + (row * width) / 2 + x / 2, wide / 2];
}

/** Blackens parts of the screen, even in place and size. */
export function barred(picture: Uint8Array, size: Size, bars: readonly Rect[]): Uint8Array {
  const out = Uint8Array.from(picture);
  const luma = size.width * size.height;
  for (const bar of bars) for (const [start, length] of rowsOf(size, bar)) out.fill(start < luma ? BLACK : GREY, start, start + length);
  return out;
}

/** One picture with a part of another over it, in a part of the screen (even pixels) alone. */
export function mixWithin(below: Uint8Array, above: Uint8Array, part: number, size: Size, within: Rect): Uint8Array {
  const out = Uint8Array.from(below);
  const weight = Math.round(part * 256);
  for (const [start, length] of rowsOf(size, within))
    for (let i = start; i < start + length; i++) out[i] = below[i]! + (((above[i]! - below[i]!) * weight + 128) >> 8);
  return out;
}

/** A picture with one of its halves also in place of the other, turned over. */
export function mirrored(picture: Uint8Array, size: Size, kept: Way): Uint8Array {
  const out = Uint8Array.from(picture);
  const pixels = size.width * size.height;
  for (const [n, plane] of [0, pixels, pixels * 1.25].entries()) {
    const [w, h] = n === 0 ? [size.width, size.height] : [size.width / 2, size.height / 2];
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const [ox, oy] = [w - 1 - x, h - 1 - y];
        const from =
          kept === 'left'
            ? x > ox
              ? y * w + ox
              : -1
            : kept === 'right'
              ? x < ox
                ? y * w + ox
                : -1
              : kept === 'up'
                ? y > oy
                  ? oy * w + x
                  : -1
                : y < oy
                  ? oy * w + x
                  : -1;
        if (from >= 0) out[plane + y * w + x] = picture[plane + from]!;
      }
  }
  return out;
}

/** What is written over a picture: planes like its own, of some of its rows, and how much each pixel covers (0 to 255). */
export interface Overlay {
  /** the first row and the first one after it, even */
  readonly top: number;
  readonly bottom: number;
  readonly luma: Uint8Array;
  readonly chroma: readonly [Uint8Array, Uint8Array];
  readonly cover: Uint8Array;
  readonly chromaCover: Uint8Array;
}

function lay(out: Uint8Array, start: number, over: Uint8Array, cover: Uint8Array): void {
  for (let i = 0; i < over.length; i++) {
    const c = cover[i]!;
    if (c > 0) out[start + i] = Math.round((out[start + i]! * (255 - c) + over[i]! * c) / 255);
  }
}

/** A picture with something written over it. */
export function overlaid(picture: Uint8Array, { width, height }: Size, over: Overlay): Uint8Array {
  const out = Uint8Array.from(picture);
  const pixels = width * height;
  lay(out, over.top * width, over.luma, over.cover);
  over.chroma.forEach((plane, i) => lay(out, pixels * (1 + i / 4) + (over.top * width) / 4, plane, over.chromaCover));
  return out;
}
