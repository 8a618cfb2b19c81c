import type { Rect } from '@bluster/core';
import type { Size } from './frame-planes.ts';

/** How a picture lies on the screen: where, before it is turned about the screen's middle by so many degrees clockwise. */
export interface Placed {
  readonly target: Rect;
  readonly turn: number;
}

/** A plane of 8 bit. */
export interface Plane {
  readonly data: Uint8Array;
  /** where it begins in `data` */
  readonly start: number;
  readonly width: number;
  readonly height: number;
}

/** Where the rows or columns of a screen lie in a picture. */
interface Sampled {
  /** the pixel to the left of each, and how much of the next is in it, of 256 */
  readonly at: Int32Array;
  readonly part: Int32Array;
  /** how much of each the picture covers, of 256: less than all at its edges */
  readonly cover: Int32Array;
  readonly first: number;
  readonly end: number;
}

function sampled(size: number, from: number, length: number, pixels: number): Sampled {
  const [at, part, cover] = [new Int32Array(size), new Int32Array(size), new Int32Array(size)];
  const first = Math.max(0, Math.floor(from + 1e-6));
  const end = Math.min(size, Math.ceil(from + length - 1e-6));
  const last = Math.max(0, pixels - 2);
  for (let i = first; i < end; i++) {
    const exact = Math.max(0, Math.min(pixels - 1, ((i + 0.5 - from) * pixels) / length - 0.5));
    at[i] = Math.min(last, Math.floor(exact));
    part[i] = Math.round((exact - at[i]!) * 256);
    cover[i] = Math.round(256 * (Math.min(i + 1, from + length) - Math.max(i, from)));
  }
  return { at, part, cover, first, end };
}

/** Samples a plane into another through a placing in the target's own pixels, bilinear; what lies beside it stays as it is. */
export function samplePlane(from: Plane, to: Plane, { target, turn }: Placed): void {
  if (turn !== 0) turned(from, to, { target, turn });
  else upright(from, to, target);
}

function upright(from: Plane, to: Plane, target: Rect): void {
  const across = sampled(to.width, target.x, target.width, from.width);
  const down = sampled(to.height, target.y, target.height, from.height);
  const { data } = from;
  const out = to.data;
  const next = from.width > 1 ? 1 : 0;
  const below = from.height > 1 ? from.width : 0;
  for (let y = down.first; y < down.end; y++) {
    const top = from.start + down.at[y]! * from.width;
    const low = down.part[y]!;
    const row = to.start + y * to.width;
    const tall = down.cover[y]!;
    for (let x = across.first; x < across.end; x++) {
      const i = top + across.at[x]!;
      const part = across.part[x]!;
      const high = data[i]! * (256 - part) + data[i + next]! * part;
      const deep = data[i + below]! * (256 - part) + data[i + below + next]! * part;
      const found = (high * (256 - low) + deep * low + 32768) >> 16;
      const covered = tall * across.cover[x]!;
      const was = out[row + x]!;
      out[row + x] = covered >= 65536 ? found : was + (((found - was) * covered + 32768) >> 16);
    }
  }
}

function turned(from: Plane, to: Plane, { target, turn }: Placed): void {
  const angle = (-turn * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [midX, midY] = [to.width / 2, to.height / 2];
  const [scaleX, scaleY] = [from.width / target.width, from.height / target.height];
  const [lastX, lastY] = [from.width - 1, from.height - 1];
  const { data } = from;
  for (let y = 0; y < to.height; y++) {
    const dy = y + 0.5 - midY;
    for (let x = 0; x < to.width; x++) {
      const dx = x + 0.5 - midX;
      const u = (cos * dx - sin * dy + midX - target.x) * scaleX - 0.5;
      const v = (sin * dx + cos * dy + midY - target.y) * scaleY - 0.5;
      // How far it is from the picture's edges, in pixels of the screen: half a pixel inside it is covered.
      const inside = Math.min((u + 0.5) / scaleX, (lastX + 0.5 - u) / scaleX, (v + 0.5) / scaleY, (lastY + 0.5 - v) / scaleY) + 0.5;
      if (inside <= 0) continue;
      const [cu, cv] = [Math.max(0, Math.min(lastX, u)), Math.max(0, Math.min(lastY, v))];
      const [iu, iv] = [Math.min(Math.max(0, lastX - 1), Math.floor(cu)), Math.min(Math.max(0, lastY - 1), Math.floor(cv))];
      const [pu, pv] = [Math.round((cu - iu) * 256), Math.round((cv - iv) * 256)];
      const i = from.start + iv * from.width + iu;
      const nx = lastX > 0 ? 1 : 0;
      const ny = lastY > 0 ? from.width : 0;
      const high = data[i]! * (256 - pu) + data[i + nx]! * pu;
      const deep = data[i + ny]! * (256 - pu) + data[i + ny + nx]! * pu;
      const found = (high * (256 - pv) + deep * pv + 32768) >> 16;
      const o = to.start + y * to.width + x;
      to.data[o] = inside >= 1 ? found : to.data[o]! + Math.round((found - to.data[o]!) * inside);
    }
  }
}

/** A plane in another size, bilinear: exactly half the size is the mean of four. */
export function resized(from: Plane, width: number, height: number): Plane {
  if (from.width === width && from.height === height) return from;
  const to: Plane = { data: new Uint8Array(width * height), start: 0, width, height };
  if (from.width === 2 * width && from.height === 2 * height) {
    for (let y = 0; y < height; y++) {
      let i = from.start + 2 * y * from.width;
      const row = y * width;
      for (let x = 0; x < width; x++, i += 2)
        to.data[row + x] = (from.data[i]! + from.data[i + 1]! + from.data[i + from.width]! + from.data[i + from.width + 1]! + 2) >> 2;
    }
    return to;
  }
  upright(from, to, { x: 0, y: 0, width, height });
  return to;
}

/** The three planes of a picture (4:2:0). */
export function planesOf(picture: Uint8Array, { width, height }: Size): readonly [Plane, Plane, Plane] {
  const pixels = width * height;
  const half = { width: width / 2, height: height / 2 };
  return [
    { data: picture, start: 0, width, height },
    { data: picture, start: pixels, ...half },
    { data: picture, start: pixels * 1.25, ...half },
  ];
}

/** As much smaller than this a picture loses pixels between those that are looked at, unless it is halved first. */
const SHRUNK = 1.5;

/** Lays a picture of any size on a screen's picture, where it is placed (in pixels of the screen); what lies beside it stays. */
export function layPicture(picture: Uint8Array, size: Size, out: Uint8Array, screen: Size, { target, turn }: Placed): void {
  const to = planesOf(out, screen);
  planesOf(picture, size).forEach((plane, n) => {
    const scale = n === 0 ? 1 : 0.5;
    const own: Rect = { x: target.x * scale, y: target.y * scale, width: target.width * scale, height: target.height * scale };
    let from = plane;
    while (from.width / own.width > SHRUNK && from.width > 2 && from.height > 2)
      from = resized(from, Math.ceil(from.width / 2), Math.ceil(from.height / 2));
    samplePlane(from, to[n]!, { target: own, turn });
  });
}
