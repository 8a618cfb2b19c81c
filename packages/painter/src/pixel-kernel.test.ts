import { expect, test } from '@jest/globals';
import { PLAIN_LOOK, type LookParts } from '@bluster/core/finish/looks/look-parts';
import { colourChange, colourTables } from '@bluster/core/picture/colour-change';
import fc from 'fast-check';
import { pixelsOfVideo, recolourByTables } from './pixel-kernel.ts';

/** Red, green and blue of a colour of video by ITU-R BT.709 in limited range, by the definition. */
function colourOf(y: number, cb: number, cr: number): [number, number, number] {
  const light = (y - 16) / 219;
  const [b, r] = [(cb - 128) / 224, (cr - 128) / 224];
  const colour = [light + 1.5748 * r, light - 0.187324 * b - 0.468124 * r, light + 1.8556 * b];
  return colour.map((c) => Math.max(0, Math.min(255, 255 * c))) as [number, number, number];
}

test('a frame of video becomes the pixels that BT.709 says, within a level, wherever its planes lie', () => {
  const level = fc.integer({ min: 0, max: 255 });
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 13 }),
      fc.integer({ min: 1, max: 4 }),
      fc.integer({ min: 0, max: 9 }),
      fc.array(level, { minLength: 16, maxLength: 64 }),
      (halfWidth, halfHeight, more, noise) => {
        const [width, height] = [2 * halfWidth, 2 * halfHeight];
        const [stride, chromaStride] = [width + more, halfWidth + more];
        const layout = [
          { offset: 3, stride },
          { offset: 3 + stride * height, stride: chromaStride },
          { offset: 3 + stride * height + chromaStride * halfHeight, stride: chromaStride },
        ] as const;
        const frame = Uint8Array.from({ length: layout[2].offset + chromaStride * halfHeight }, (_, i) => noise[(i * 7) % noise.length]!);
        const out = new Uint8ClampedArray(4 * width * height);
        pixelsOfVideo(frame, layout, width, height, out);
        const wrong: number[][] = [];
        for (let y = 0; y < height; y++)
          for (let x = 0; x < width; x++) {
            const [cb, cr] = [1, 2].map((n) => frame[layout[n]!.offset + (y >> 1) * chromaStride + (x >> 1)]!) as [number, number];
            const wanted = colourOf(frame[3 + y * stride + x]!, cb, cr);
            const got = out.subarray(4 * (y * width + x), 4 * (y * width + x) + 4);
            if (got[3] !== 255 || wanted.some((c, n) => Math.abs(got[n]! - c) > 1)) wrong.push([x, y, ...got]);
          }
        expect(wrong).toEqual([]);
      },
    ),
  );
});

test('colours changed by tables are those that are changed one by one', () => {
  const look = fc.record({
    exposure: fc.double({ min: -2, max: 2, noNaN: true }),
    contrast: fc.double({ min: 0, max: 2, noNaN: true }),
    saturation: fc.double({ min: 0, max: 2, noNaN: true }),
    warmth: fc.double({ min: -1, max: 1, noNaN: true }),
    lift: fc.double({ min: 0, max: 1, noNaN: true }),
  });
  const colours = fc.array(fc.integer({ min: 0, max: 0xffffff }), { minLength: 1, maxLength: 40 });
  fc.assert(
    fc.property(look, colours, (parts, list) => {
      const whole: LookParts = { ...PLAIN_LOOK, ...parts };
      const pixels = Uint8ClampedArray.from(list.flatMap((c) => [c >> 16, (c >> 8) & 255, c & 255, 77]));
      recolourByTables(pixels, colourTables(whole)!);
      const change = colourChange(whole, () => null);
      const got = list.map((_, i) => [...pixels.subarray(4 * i, 4 * i + 4)]);
      expect(got.map(([r, g, b, a]) => [(r! << 16) | (g! << 8) | b!, a])).toEqual(list.map((c) => [change(c), 77]));
    }),
  );
});
