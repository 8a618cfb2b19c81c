import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { TitlePiece } from '@bluster/core/finish/titles';
import { composeFrame, blackPicture, type ComposedLayer } from './compose-frame.ts';
import { barred, mixPictures, overlaid, seenBy, veiled, type Overlay, type Size } from './frame-planes.ts';
import { titleOverlay } from './title-overlay.ts';

const WHITE = 235;
const SIZE: Size = { width: 16, height: 8 };
const BYTES = (SIZE.width * SIZE.height * 3) / 2;
const picture = fc.uint8Array({ minLength: BYTES, maxLength: BYTES });
const part = fc.double({ min: 0, max: 1, noNaN: true });
const PLAIN = { camera: null, mirror: null, look: null, seed: 0, veils: [], bars: [], titles: [] } as const;
const layer = (shown: Uint8Array | null, opacity: number): ComposedLayer => ({
  pictures: [{ picture: shown, size: SIZE, placed: null, opacity: 1, blur: 0 }],
  ground: '#000000',
  opacity,
  camera: null,
  within: null,
  look: null,
});

/** Luma by place; no colour. */
const drawn = (luma: (x: number, y: number) => number, { width, height }: Size = SIZE): Uint8Array => {
  const out = new Uint8Array((width * height * 3) / 2).fill(128);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[y * width + x] = luma(x, y);
  return out;
};

describe('pictures in planes', () => {
  test('mixed, each byte lies between both, at the ends it is one of them', () => {
    fc.assert(
      fc.property(picture, picture, part, (a, b, p) => {
        const mixed = mixPictures(a, b, p);
        const wrong = [...mixed].filter((byte, i) => {
          const [from, to] = [a[i]!, b[i]!];
          return byte < Math.min(from, to) || byte > Math.max(from, to) || Math.abs(byte - (from + (to - from) * p)) > 1.1;
        });
        expect(mixed).toHaveLength(BYTES);
        expect(wrong).toEqual([]);
        expect(mixPictures(a, b, 0)).toEqual(a);
        expect(mixPictures(a, b, 1)).toEqual(b);
      }),
      { numRuns: 30 },
    );
  });
  test('a whole veil leaves nothing of the picture, none all of it', () => {
    fc.assert(
      fc.property(picture, (a) => {
        expect(veiled(a, SIZE, '#000000', 1)).toEqual(blackPicture(SIZE));
        expect(veiled(a, SIZE, '#ffffff', 1)).toEqual(drawn(() => WHITE));
        expect(veiled(a, SIZE, '#ffffff', 0)).toEqual(a);
      }),
      { numRuns: 20 },
    );
  });
  test('through a camera that does nothing they are what they were', () => {
    fc.assert(
      fc.property(picture, (a) => expect(seenBy(a, SIZE, { zoom: 1, x: 0, y: 0 })).toEqual(a)),
      { numRuns: 20 },
    );
  });
  test('twice as near, an edge stays in the middle and lines are as wide again; moved, they move', () => {
    const size = { width: 64, height: 32 };
    const edge = drawn((x) => (x < 32 ? 50 : 200), size);
    const near = seenBy(edge, size, { zoom: 2, x: 0, y: 0 });
    expect([near[0], near[29], near[34], near[63]]).toEqual([50, 50, 200, 200]);
    expect(Math.abs(near[31]! + near[32]! - 250)).toBeLessThanOrEqual(1);
    const moved = seenBy(edge, size, { zoom: 2, x: 8, y: 0 });
    expect([moved[37], moved[42]]).toEqual([50, 200]);
    const row = seenBy(
      drawn((_, y) => (y < 16 ? 30 : 90), size),
      size,
      { zoom: 1.5, x: 0, y: -4 },
    );
    expect([row[10 * 64], row[14 * 64]]).toEqual([30, 90]);
  });
  test('bars are black rows, and nothing else changes', () => {
    const bars = [
      { x: 0, y: 0, width: 16, height: 2 },
      { x: 0, y: 6, width: 16, height: 2 },
    ];
    const grey = Uint8Array.from(
      drawn(() => 100),
      (v, i) => (i >= SIZE.width * SIZE.height ? 90 : v),
    );
    const out = barred(grey, SIZE, bars);
    const rows = Array.from({ length: 8 }, (_, y) => out[y * 16 + 5]);
    expect(rows).toEqual([16, 16, 100, 100, 100, 100, 16, 16]);
    expect(Array.from({ length: 4 }, (_, y) => out[128 + y * 8 + 3])).toEqual([128, 90, 90, 128]);
  });
  test('what is written covers as much as it is opaque', () => {
    const over: Overlay = {
      top: 2,
      bottom: 4,
      luma: new Uint8Array(32).fill(235),
      cover: Uint16Array.from({ length: 32 }, (_, i) => (i < 16 ? 256 : 102)),
      chroma: [new Uint8Array(8).fill(128), new Uint8Array(8).fill(200)],
      chromaCover: new Uint16Array(8).fill(256),
    };
    const out = overlaid(
      drawn(() => 35),
      SIZE,
      over,
    );
    expect([1, 2, 3, 4].map((y) => out[y * 16])).toEqual([35, 235, 115, 35]);
    expect([out[128 + 8], out[160 + 8], out[160]]).toEqual([128, 200, 128]);
  });
  test('a title has its colour where it is whole, and lies in the middle where it is told to', () => {
    const size = { width: 320, height: 180 };
    const title = {
      titleId: 't',
      x: 160,
      y: 90,
      size: 60,
      widest: 300,
      face: 'plain',
      weight: 800,
      colour: '#ffffff',
      spacing: 0,
      step: 1.15,
      outline: null,
      plate: null,
      shadow: true,
    };
    const line = (text: string, opacity = 1): TitlePiece[] => [{ text, opacity, below: 0, scale: 1 }];
    const overlay = titleOverlay([{ ...title, lines: [line('III')] }], size)!;
    expect((overlay.top + overlay.bottom) / 2).toBeGreaterThan(80);
    expect((overlay.top + overlay.bottom) / 2).toBeLessThan(100);
    const whole = overlay.luma.filter((v, i) => overlay.cover[i] === 256 && v > 200);
    expect(whole.length).toBeGreaterThan(300);
    expect(new Set(whole.filter((v) => v === WHITE)).size).toBe(1);
    // Too wide a line is made smaller.
    const wide = titleOverlay([{ ...title, lines: [line('I'.repeat(60))] }], size)!;
    expect(wide.bottom - wide.top).toBeLessThan(overlay.bottom - overlay.top);
    expect(titleOverlay([{ ...title, lines: [line('III', 0)] }], size)).toBeNull();
  });
  test('a frame of nothing is black; of one whole picture, that picture', () => {
    fc.assert(
      fc.property(picture, part, (a, p) => {
        expect(composeFrame([], PLAIN, SIZE)).toEqual(blackPicture(SIZE));
        expect(composeFrame([layer(a, 1)], PLAIN, SIZE)).toEqual(a);
        expect(composeFrame([layer(a, p)], PLAIN, SIZE)).toEqual(mixPictures(blackPicture(SIZE), a, p));
        expect(composeFrame([layer(a, 1), layer(null, 1)], PLAIN, SIZE)).toEqual(a);
      }),
      { numRuns: 20 },
    );
  });
});

test('a veil has its own colour, whatever that is', () => {
  const grey = new Uint8Array((SIZE.width * SIZE.height * 3) / 2).fill(128);
  const coral = veiled(grey, SIZE, '#ff8a66', 1);
  const pixels = SIZE.width * SIZE.height;
  // By ITU-R BT.709: luma 0.2126 R + 0.7152 G + 0.0722 B, in limited range.
  expect([coral[0], coral[pixels], coral[pixels * 1.25]]).toEqual([154, 100, 181]);
});
