import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { layPicture, resized, type Placed } from './sample-planes.ts';
import type { Size } from './size.ts';

const noise = (length: number, seed: number): Uint8Array =>
  Uint8Array.from({ length }, (_, i) => ((i + 1) * (seed + 7919) * 2654435761) >>> 24);

/** A pixel of a plane between its pixels, bilinear, by the definition. */
function between(data: Uint8Array, start: number, { width, height }: Size, x: number, y: number): number {
  const held = (value: number, last: number): number => Math.max(0, Math.min(last, value));
  const [u, v] = [held(x, width - 1), held(y, height - 1)];
  const [iu, iv] = [Math.min(Math.floor(u), Math.max(0, width - 2)), Math.min(Math.floor(v), Math.max(0, height - 2))];
  const at = (i: number, j: number): number => data[start + Math.min(j, height - 1) * width + Math.min(i, width - 1)]!;
  const high = at(iu, iv) * (1 - (u - iu)) + at(iu + 1, iv) * (u - iu);
  const deep = at(iu, iv + 1) * (1 - (u - iu)) + at(iu + 1, iv + 1) * (u - iu);
  return high * (1 - (v - iv)) + deep * (v - iv);
}

/** How far a laid picture's brightness is from the definition at most, in steps of 8 bit; `stays` is what lay there before. */
function worst(size: Size, screen: Size, { target }: Placed, stays: number): number {
  const picture = noise(size.width * size.height * 1.5, size.width);
  const out = new Uint8Array(screen.width * screen.height * 1.5).fill(stays);
  layPicture(picture, size, out, screen, { target, turn: 0 });
  let most = 0;
  for (let y = 0; y < screen.height; y++)
    for (let x = 0; x < screen.width; x++) {
      const part = (at: number, from: number, length: number): number => Math.max(0, Math.min(at + 1, from + length) - Math.max(at, from));
      const cover = part(x, target.x, target.width) * part(y, target.y, target.height);
      const u = ((x + 0.5 - target.x) * size.width) / target.width - 0.5;
      const v = ((y + 0.5 - target.y) * size.height) / target.height - 0.5;
      const wanted = stays + (between(picture, 0, size, u, v) - stays) * cover;
      most = Math.max(most, Math.abs(out[y * screen.width + x]! - wanted));
    }
  return most;
}

// Parts are kept in 256ths across and down, and of what is covered: of noise, three steps at the most.
const CLOSE = 3;
const even = (least: number, most: number): fc.Arbitrary<number> => fc.integer({ min: least / 2, max: most / 2 }).map((half) => 2 * half);

test('a picture that is laid larger, smaller or beside the screen is what lies between its pixels', () => {
  const side = fc.double({ min: 0.7, max: 4, noNaN: true });
  const place = fc.double({ min: -60, max: 60, noNaN: true });
  fc.assert(
    fc.property(even(2, 64), even(2, 40), side, side, place, place, (width, height, wide, tall, x, y) => {
      const target = { x, y, width: width * wide, height: height * tall };
      return worst({ width, height }, { width: 62, height: 38 }, { target, turn: 0 }, 40) <= CLOSE;
    }),
    { numRuns: 300 },
  );
});

test('eight columns of a picture that is made much narrower are looked for one by one', () => {
  // Its chroma is 66 wide and would be halved; up to one and a half times as small nothing is.
  expect(
    worst({ width: 132, height: 8 }, { width: 90, height: 8 }, { target: { x: 0, y: 0, width: 89, height: 8 }, turn: 0 }, 0),
  ).toBeLessThanOrEqual(CLOSE);
});

test('a plane of one row or one column can be made larger', () => {
  const row = resized({ data: Uint8Array.of(0, 100, 200), start: 0, width: 3, height: 1 }, 6, 2);
  expect([...row.data]).toEqual([0, 25, 75, 125, 175, 200, 0, 25, 75, 125, 175, 200]);
  const column = resized({ data: Uint8Array.of(0, 100), start: 0, width: 1, height: 2 }, 3, 4);
  expect([...column.data]).toEqual([0, 0, 0, 25, 25, 25, 75, 75, 75, 100, 100, 100]);
});
