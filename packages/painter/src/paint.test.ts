import { expect, test } from '@jest/globals';
import { createCanvas, type Canvas } from '@napi-rs/canvas';
import type { DrawList } from '@bluster/core';
import { paint } from './paint.ts';
import { contextOf, nodeSheets } from './testing/node-sheets.ts';

const palette = { sheets: nodeSheets(), cubeOf: () => null };

const list: DrawList = {
  width: 64,
  height: 32,
  ground: '#000000',
  layers: [
    {
      shotId: 's',
      pictures: [
        {
          shotId: 's',
          assetId: 'a',
          kind: 'clip',
          frame: 3,
          opacity: 1,
          size: { width: 200, height: 200 },
          source: { x: 0, y: 50, width: 200, height: 100 },
          target: { x: 16, y: 0, width: 32, height: 32 },
          turn: 0,
          blur: 0,
        },
      ],
      ground: '#000000',
      opacity: 1,
      camera: null,
      within: null,
      look: null,
    },
  ],
  camera: null,
  mirror: null,
  look: null,
  seed: 0,
  veils: [],
  bars: [],
  titles: [],
};

/** A picture half the clip's size: red above, green in the middle half, blue below. */
function picture(): Canvas {
  const canvas = createCanvas(100, 100);
  const c = canvas.getContext('2d');
  [
    ['#ff0000', 0, 25],
    ['#00ff00', 25, 50],
    ['#0000ff', 75, 25],
  ].forEach(([colour, top, tall]) => {
    c.fillStyle = colour as string;
    c.fillRect(0, top as number, 100, tall as number);
  });
  return canvas;
}

const pixel = (canvas: Canvas, x: number, y: number): number[] => [...canvas.getContext('2d').getImageData(x, y, 1, 1).data.slice(0, 3)];

test('crops in the clip’s own pixels however large it was decoded, and scales to the canvas', () => {
  const canvas = createCanvas(128, 64);
  const image = picture();
  const whole = paint(contextOf(canvas), list, 2, { ...palette, imageOf: () => ({ image, width: 100, height: 100 }) });
  expect(whole).toBe(true);
  expect(pixel(canvas, 10, 32)).toEqual([0, 0, 0]);
  expect(pixel(canvas, 64, 32)).toEqual([0, 255, 0]);
  expect(pixel(canvas, 64, 6)).toEqual([0, 255, 0]);
  expect(pixel(canvas, 120, 32)).toEqual([0, 0, 0]);
});

test('says when a picture was not there', () => {
  const canvas = createCanvas(64, 32);
  expect(paint(contextOf(canvas), list, 1, { ...palette, imageOf: () => null })).toBe(false);
});
