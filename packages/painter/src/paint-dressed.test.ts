import { expect, test } from '@jest/globals';
import { createCanvas, type Canvas } from '@napi-rs/canvas';
import type { DrawList } from '@bluster/core';
import type { TitleItem, TitlePiece } from '@bluster/core/finish/titles';
import { paint } from './paint.ts';
import { contextOf, nodeSheets } from './testing/node-sheets.ts';

const palette = { sheets: nodeSheets(), cubeOf: () => null };

/** White on the left, red on the right. */
function halves(): Canvas {
  const canvas = createCanvas(64, 32);
  const c = canvas.getContext('2d');
  c.fillStyle = '#ffffff';
  c.fillRect(0, 0, 32, 32);
  c.fillStyle = '#ff0000';
  c.fillRect(32, 0, 32, 32);
  return canvas;
}

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
          kind: 'photo',
          frame: 0,
          opacity: 1,
          size: { width: 64, height: 32 },
          source: { x: 0, y: 0, width: 64, height: 32 },
          target: { x: 0, y: 0, width: 64, height: 32 },
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

function painted(more: Partial<DrawList>, scale = 1): (x: number, y: number) => number[] {
  const canvas = createCanvas(64 * scale, 32 * scale);
  const image = halves();
  expect(paint(contextOf(canvas), { ...list, ...more }, scale, { ...palette, imageOf: () => ({ image, width: 64, height: 32 }) })).toBe(
    true,
  );
  return (x, y) => [
    ...canvas
      .getContext('2d')
      .getImageData(x * scale, y * scale, 1, 1)
      .data.slice(0, 3),
  ];
}

test('a camera enlarges all pictures about the middle and moves them', () => {
  const near = painted({ camera: { zoom: 2, x: 0, y: 0 } });
  expect([near(29, 16), near(35, 16)]).toEqual([
    [255, 255, 255],
    [255, 0, 0],
  ]);
  const moved = painted({ camera: { zoom: 2, x: 10, y: 0 } }, 2);
  expect([moved(39, 16), moved(45, 16)]).toEqual([
    [255, 255, 255],
    [255, 0, 0],
  ]);
});

test('veils cover as much as they are opaque, bars all, and the next picture is painted as if they had not been', () => {
  const dimmed = painted({ veils: [{ colour: '#000000', opacity: 0.5 }] });
  expect(Math.abs(dimmed(5, 16)[0]! - 128)).toBeLessThanOrEqual(1);
  const both = painted({ veils: [{ colour: '#ffffff', opacity: 1 }], bars: [{ x: 0, y: 0, width: 64, height: 8 }] });
  expect([both(50, 4), both(50, 12)]).toEqual([
    [0, 0, 0],
    [255, 255, 255],
  ]);
  expect(painted({})(50, 12)).toEqual([255, 0, 0]);
});

test('a dissolve shows both pictures', () => {
  const [layer] = list.layers;
  const half = painted({ layers: [{ ...layer!, opacity: 0.25 }] });
  expect(Math.abs(half(5, 16)[0]! - 64)).toBeLessThanOrEqual(1);
});

test('a title is written around its middle in its colour, and made smaller where it is too wide', () => {
  const title = {
    titleId: 't',
    x: 32,
    y: 16,
    size: 16,
    widest: 60,
    face: 'plain',
    weight: 800,
    colour: '#00ff00',
    spacing: 0,
    step: 1.15,
    outline: null,
    plate: null,
    shadow: true,
  };
  const whole = (text: string): TitlePiece[] => [{ text, opacity: 1, below: 0, scale: 1 }];
  const seen = (lines: string[], more: Partial<TitleItem> = {}): [number, number] => {
    const at = painted({ layers: [], titles: [{ ...title, ...more, lines: lines.map(whole) }] });
    const columns = Array.from({ length: 64 }, (_, x) => Array.from({ length: 32 }, (_, y) => at(x, y)[1]!).some((g) => g > 200));
    return [columns.indexOf(true), columns.lastIndexOf(true)];
  };
  const [left, right] = seen(['HH']);
  expect(Math.abs((left + right) / 2 - 32)).toBeLessThan(3);
  const [first, last] = seen(['HHHHHHHHHHHH']);
  expect(first).toBeGreaterThanOrEqual(1);
  expect(last).toBeLessThanOrEqual(62);
  // Nor does its plate leave the picture.
  const plated = seen(['HHHHHHHHHHHH'], { widest: 50, plate: { colour: '#00ff00', opacity: 1 } });
  expect(plated).toEqual([7, 56]);
});

test('the blurred border of a photo is made once; another photo, another place and a clip have their own', () => {
  const [one, other] = [halves(), createCanvas(64, 32)];
  const plain = other.getContext('2d');
  plain.fillStyle = '#2040a0';
  plain.fillRect(0, 0, 64, 32);
  const picture = list.layers[0]!.pictures[0]!;
  let drawn = 0;
  /** Sheets that count how often a picture is drawn out of focus: each time it is halved. */
  const counting = (): ReturnType<typeof nodeSheets> => {
    const own = nodeSheets();
    return (name, width, height) => {
      if (name.startsWith('behind down 0')) drawn++;
      return own(name, width, height);
    };
  };
  const pixels = (image: Canvas, more: Partial<typeof picture>, sheets: ReturnType<typeof nodeSheets>): Buffer => {
    const canvas = createCanvas(64, 32);
    const layers = [{ ...list.layers[0]!, pictures: [{ ...picture, blur: 0.5, ...more }] }];
    paint<Canvas>(contextOf(canvas), { ...list, layers }, 1, {
      sheets,
      cubeOf: () => null,
      imageOf: () => ({ image, width: 64, height: 32 }),
    });
    return canvas.toBuffer('image/png');
  };
  const kept = counting();
  const shown = [
    [one, {}, true],
    [one, {}, false],
    [other, {}, true],
    [one, { target: { x: -10, y: 0, width: 84, height: 42 } }, true],
    [one, { kind: 'clip' }, true],
    [other, { kind: 'clip' }, true],
    [one, {}, true],
  ] as const;
  for (const [image, more, anew] of shown) {
    drawn = 0;
    const seen = pixels(image, more, kept);
    expect(drawn > 0).toBe(anew);
    expect(seen).toEqual(pixels(image, more, nodeSheets()));
  }
});
