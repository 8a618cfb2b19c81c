import type { Camera, Rect, Way } from '@bluster/core';
import { kernel } from './picture-kernel.ts';
import { planesOf, sampleOnto } from './sample-planes.ts';
import type { Size } from './size.ts';
import { spares } from './spare-planes.ts';
import { videoColourOf } from './video-colour.ts';

export type { Size } from './size.ts';

// Pictures here are planes of 8 bit one after the other, luma and two of chroma at half its size (4:2:0), in the limited
// range of video: black is 16 and white 235, no colour is 128.

export const BLACK = 16;
const GREY = 128;

/** One picture with a part of another over it. */
export function mixPictures(below: Uint8Array, above: Uint8Array, part: number): Uint8Array {
  const { length } = below;
  const work = kernel.begin(3 * length);
  const [a, b, out] = [work.put(below), work.put(above), work.room(length)];
  work.code.mix(a, b, out, length, Math.round(part * 256));
  return work.take(out, length);
}

/** A picture with so much of a colour (#rrggbb) over it. */
export function veiled(picture: Uint8Array, { width, height }: Size, colour: string, part: number): Uint8Array {
  const { length } = picture;
  const pixels = width * height;
  const { luma, blue, red } = videoColourOf(colour);
  const work = kernel.begin(2 * length);
  const [from, out] = [work.put(picture), work.room(length)];
  const weight = Math.round(part * 256);
  // What a stretch writes beyond its end is written anew by the next.
  work.code.veil(from, luma, out, pixels, weight);
  work.code.veil(from + pixels, blue, out + pixels, pixels / 4, weight);
  work.code.veil(from + pixels * 1.25, red, out + pixels * 1.25, pixels / 4, weight);
  return work.take(out, length);
}

/** A picture as a camera sees it: enlarged about its middle and moved, bilinear; its edges go on where it does not reach. */
export function seenBy(picture: Uint8Array, size: Size, { zoom, x, y }: Camera): Uint8Array {
  const out = spares.copyOf(picture);
  const [width, height] = [size.width * zoom, size.height * zoom];
  const target: Rect = { x: (size.width - width) / 2 + x, y: (size.height - height) / 2 + y, width, height };
  sampleOnto(planesOf(picture, size), out, size, { target, turn: 0 }, 'edges go on');
  return out;
}

/** A picture of one colour, #rrggbb. */
export function filled({ width, height }: Size, colour: string): Uint8Array {
  const { luma, blue, red } = videoColourOf(colour);
  const pixels = width * height;
  const out = spares.lend(pixels * 1.5);
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
  const out = spares.copyOf(picture);
  const luma = size.width * size.height;
  for (const bar of bars) for (const [start, length] of rowsOf(size, bar)) out.fill(start < luma ? BLACK : GREY, start, start + length);
  return out;
}

/** One picture with a part of another over it, in a part of the screen (even pixels) alone. */
export function mixWithin(below: Uint8Array, above: Uint8Array, part: number, size: Size, within: Rect): Uint8Array {
  const out = spares.copyOf(below);
  const weight = Math.round(part * 256);
  for (const [start, length] of rowsOf(size, within))
    for (let i = start; i < start + length; i++) out[i] = below[i]! + (((above[i]! - below[i]!) * weight + 128) >> 8);
  return out;
}

/** A picture with one of its halves also in place of the other, turned over. */
export function mirrored(picture: Uint8Array, size: Size, kept: Way): Uint8Array {
  const out = spares.copyOf(picture);
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

/** What is written over a picture: planes like its own, of some of its rows, and how much of each pixel they cover, of 256. */
export interface Overlay {
  /** the first row and the first one after it, even */
  readonly top: number;
  readonly bottom: number;
  readonly luma: Uint8Array;
  readonly chroma: readonly [Uint8Array, Uint8Array];
  readonly cover: Uint16Array;
  readonly chromaCover: Uint16Array;
}

/** A picture with something written over it. */
export function overlaid(picture: Uint8Array, { width, height }: Size, over: Overlay): Uint8Array {
  const out = spares.copyOf(picture);
  const pixels = width * height;
  const lay = (start: number, above: Uint8Array, cover: Uint16Array): void => {
    const { length } = above;
    const work = kernel.begin(5 * length);
    const [a, b, to] = [work.put(out.subarray(start, start + length)), work.put(above), work.room(length)];
    work.code.mixMasked(a, b, to, length, work.put(cover));
    work.takeInto(to, out.subarray(start, start + length));
  };
  lay(over.top * width, over.luma, over.cover);
  over.chroma.forEach((plane, i) => lay(pixels * (1 + i / 4) + (over.top * width) / 4, plane, over.chromaCover));
  return out;
}
