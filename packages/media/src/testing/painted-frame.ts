import { createCanvas, ImageData, type Canvas } from '@napi-rs/canvas';
import { drawListAt, tableNamed, type Montage, type PictureItem } from '@bluster/core';
import { paint } from '@bluster/painter';
import { contextOf, nodeSheets } from '@bluster/painter/testing/node-sheets';
import { loadTitleFaces } from '../film/title-faces.ts';
import { ffmpeg } from './made-media.ts';

/** Frames that were read already: the same ones of a clip are painted again and again. */
const read = new Map<string, Buffer>();

/** One frame of a film or clip, RGBA. The file must not change while a test runs. */
export function filmedFrame(path: string, frame: number): Buffer {
  return filmedFrames(path, [frame])[0]!;
}

/** Several frames of a film or clip in one run, RGBA. */
export function filmedFrames(path: string, frames: readonly number[]): Buffer[] {
  const key = (frame: number): string => `${frame} ${path}`;
  const missing = [...new Set(frames)].filter((n) => !read.has(key(n))).sort((a, b) => a - b);
  if (missing.length > 0) {
    const wanted = missing.map((n) => `eq(n\\,${n})`).join('+');
    const count = String(missing.length);
    const all = ffmpeg('-i', path, '-vf', `select=${wanted}`, '-vsync', '0', '-frames:v', count, '-f', 'rawvideo', '-pix_fmt', 'rgba', '-');
    const bytes = all.length / missing.length;
    for (const [i, n] of missing.entries()) read.set(key(n), all.subarray(i * bytes, (i + 1) * bytes));
  }
  return frames.map((n) => read.get(key(n))!);
}

/** A frame of a montage as the painter paints it from its clips, RGBA. */
export function paintedFrame(montage: Montage, frame: number, pathOf: (assetId: string) => string): Uint8ClampedArray {
  const list = drawListAt(montage, frame);
  loadTitleFaces(list.titles);
  const canvas = createCanvas(list.width, list.height);
  const pictureOf = ({
    assetId,
    frame: source,
    size: { width, height },
  }: PictureItem): { image: Canvas; width: number; height: number } => {
    const image = createCanvas(width, height);
    image.getContext('2d').putImageData(new ImageData(new Uint8ClampedArray(filmedFrame(pathOf(assetId), source)), width, height), 0, 0);
    return { image, width, height };
  };
  paint(contextOf(canvas), list, 1, { imageOf: pictureOf, sheets: nodeSheets(), cubeOf: (id) => tableNamed(montage, id) });
  return canvas.getContext('2d').getImageData(0, 0, list.width, list.height).data;
}

/** How alike two RGBA pictures are, dB: peak signal to noise of their brightness, since a film keeps colour at half the size. */
export function likeness(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const bright = (p: ArrayLike<number>, i: number): number => 0.2126 * p[i]! + 0.7152 * p[i + 1]! + 0.0722 * p[i + 2]!;
  let error = 0;
  for (let i = 0; i < a.length; i += 4) error += (bright(a, i) - bright(b, i)) ** 2;
  return 10 * Math.log10(255 ** 2 / (error / (a.length / 4) + 1e-9));
}

/** A picture in planes of video (ITU-R BT.709, limited range) as RGBA; each pixel has the colour of its block of four. */
export function rgbaOf(planes: Uint8Array, { width, height }: { width: number; height: number }): Uint8ClampedArray {
  const out = new Uint8ClampedArray(width * height * 4);
  const pixels = width * height;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const c = (y >> 1) * (width / 2) + (x >> 1);
      const light = ((planes[y * width + x]! - 16) * 255) / 219;
      const [blue, red] = [((planes[pixels + c]! - 128) * 255) / 224, ((planes[pixels * 1.25 + c]! - 128) * 255) / 224];
      out.set([light + 1.5748 * red, light - 0.1873 * blue - 0.4681 * red, light + 1.8556 * blue, 255], 4 * (y * width + x));
    }
  return out;
}
