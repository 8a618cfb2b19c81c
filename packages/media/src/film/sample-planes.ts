import type { Rect } from '@bluster/core';
import { kernel } from './picture-kernel.ts';
import type { Size } from './size.ts';
import { spares } from './spare-planes.ts';

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

/** What becomes of a screen that a picture does not reach: it stays, or the picture's edges go on. */
export type Beside = 'stays' | 'edges go on';

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

function sampled(size: number, from: number, length: number, pixels: number, beside: Beside): Sampled {
  const [at, part, cover] = [new Int32Array(size), new Int32Array(size), new Int32Array(size)];
  const whole = beside === 'edges go on';
  const first = whole ? 0 : Math.max(0, Math.floor(from + 1e-6));
  const end = whole ? size : Math.min(size, Math.ceil(from + length - 1e-6));
  const last = Math.max(0, pixels - 2);
  for (let i = first; i < end; i++) {
    const exact = Math.max(0, Math.min(pixels - 1, ((i + 0.5 - from) * pixels) / length - 0.5));
    at[i] = Math.min(last, Math.floor(exact));
    part[i] = Math.round((exact - at[i]!) * 256);
    cover[i] = whole ? 256 : Math.round(256 * (Math.min(i + 1, from + length) - Math.max(i, from)));
  }
  return { at, part, cover, first, end };
}

const bytesOf = ({ data, start, width, height }: Plane): Uint8Array => data.subarray(start, start + width * height);

/** Samples a plane into another through a placing in the target's own pixels, bilinear. */
function samplePlane(from: Plane, to: Plane, { target, turn }: Placed, beside: Beside): void {
  const [input, output] = [bytesOf(from), bytesOf(to)];
  const work = kernel.begin(input.length + output.length + 22 * (to.width + to.height) + 4096);
  const [source, out] = [work.put(input), work.put(output)];
  if (turn === 0) {
    const across = sampled(to.width, target.x, target.width, from.width, beside);
    const down = sampled(to.height, target.y, target.height, from.height, beside);
    const columns = [work.put(across.at), work.put(across.part), work.put(across.cover), across.first, across.end];
    const rows = [work.put(down.at), work.put(down.part), work.put(down.cover), down.first, down.end];
    work.code.sample(source, from.width, from.height, out, to.width, ...columns, ...rows, work.room(10 * to.width + 256));
  } else {
    const angle = (-turn * Math.PI) / 180;
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    const [scaleX, scaleY] = [from.width / target.width, from.height / target.height];
    const [midX, midY] = [to.width / 2, to.height / 2];
    const [dx, dy] = [0.5 - midX, 0.5 - midY];
    const u = (cos * dx - sin * dy + midX - target.x) * scaleX - 0.5;
    const v = (sin * dx + cos * dy + midY - target.y) * scaleY - 0.5;
    const steps = [cos * scaleX, sin * scaleY, -sin * scaleX, cos * scaleY, scaleX, scaleY];
    work.code.sampleTurned(source, from.width, from.height, out, to.width, to.height, u, v, ...steps);
  }
  work.takeInto(out, output);
}

/** A plane in another size, bilinear: exactly half the size is the mean of four. */
export function resized(from: Plane, width: number, height: number): Plane {
  if (from.width === width && from.height === height) return from;
  if (from.width === 2 * width && from.height === 2 * height) {
    const input = bytesOf(from);
    const work = kernel.begin(2 * input.length);
    const [source, out] = [work.put(input), work.room(width * height)];
    work.code.halve(source, from.width, from.height, out);
    return { data: work.take(out, width * height), start: 0, width, height };
  }
  const to: Plane = { data: spares.lend(width * height), start: 0, width, height };
  samplePlane(from, to, { target: { x: 0, y: 0, width, height }, turn: 0 }, 'edges go on');
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

/** Lays the planes of a picture on a screen's picture, where it is placed (in pixels of the screen). */
export function sampleOnto(planes: readonly Plane[], out: Uint8Array, screen: Size, { target, turn }: Placed, beside: Beside): void {
  const to = planesOf(out, screen);
  planes.forEach((plane, n) => {
    const scale = n === 0 ? 1 : 0.5;
    const own: Rect = { x: target.x * scale, y: target.y * scale, width: target.width * scale, height: target.height * scale };
    let from = plane;
    while (from.width / own.width > SHRUNK && from.width > 2 && from.height > 2)
      from = resized(from, Math.ceil(from.width / 2), Math.ceil(from.height / 2));
    samplePlane(from, to[n]!, { target: own, turn }, beside);
  });
}

/** Lays a picture of any size on a screen's picture; what lies beside it stays. */
export function layPicture(picture: Uint8Array, size: Size, out: Uint8Array, screen: Size, placed: Placed): void {
  sampleOnto(planesOf(picture, size), out, screen, placed, 'stays');
}
