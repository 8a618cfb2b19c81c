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
    // Without this ffmpeg is quick, and two levels too dark.
    const exact = ['-sws_flags', 'accurate_rnd+full_chroma_int'];
    const all = ffmpeg(
      '-i',
      path,
      '-vf',
      `select=${wanted}`,
      ...exact,
      '-vsync',
      '0',
      '-frames:v',
      count,
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-',
    );
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

/** Brightness of each pixel of an RGBA picture, ITU-R BT.709, 0 to 255. */
export function brightnessOf(rgba: ArrayLike<number>): Float32Array {
  const out = new Float32Array(rgba.length / 4);
  for (let i = 0, k = 0; i < out.length; i++, k += 4) out[i] = 0.2126 * rgba[k]! + 0.7152 * rgba[k + 1]! + 0.0722 * rgba[k + 2]!;
  return out;
}

/** Brightness of each pixel of a picture in planes of video (limited range), 0 to 255. */
export function brightnessOfPlanes(planes: Uint8Array, { width, height }: { width: number; height: number }): Float32Array {
  const out = new Float32Array(width * height);
  for (let i = 0; i < out.length; i++) out[i] = ((planes[i]! - 16) * 255) / 219;
  return out;
}

/** How alike two pictures are by their brightness, dB: peak signal to noise, since a film keeps colour at half the size. */
export function brightnessLikeness(a: Float32Array, b: Float32Array): number {
  let error = 0;
  for (let i = 0; i < a.length; i++) error += (a[i]! - b[i]!) ** 2;
  return 10 * Math.log10(255 ** 2 / (error / a.length + 1e-9));
}

/** The same of two RGBA pictures. */
export const likeness = (a: ArrayLike<number>, b: ArrayLike<number>): number => brightnessLikeness(brightnessOf(a), brightnessOf(b));

/** A picture in planes of video (ITU-R BT.709, limited range) as RGBA; each pixel has the colour of its block of four. */
export function rgbaOf(planes: Uint8Array, { width, height }: { width: number; height: number }): Uint8ClampedArray {
  const pixels = width * height;
  const out = new Uint8ClampedArray(pixels * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const c = (y >> 1) * (width / 2) + (x >> 1);
      const light = ((planes[y * width + x]! - 16) * 255) / 219;
      const [blue, red] = [((planes[pixels + c]! - 128) * 255) / 224, ((planes[pixels * 1.25 + c]! - 128) * 255) / 224];
      const at = 4 * (y * width + x);
      out[at] = light + 1.5748 * red;
      out[at + 1] = light - 0.1873 * blue - 0.4681 * red;
      out[at + 2] = light + 1.8556 * blue;
      out[at + 3] = 255;
    }
  return out;
}
