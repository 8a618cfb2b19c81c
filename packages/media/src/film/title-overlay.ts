import { createCanvas } from '@napi-rs/canvas';
import type { TitleItem } from '@bluster/core/finish/titles';
import { paintTitle } from '@bluster/painter';
import type { Overlay, Size } from './frame-planes.ts';
import { loadTitleFaces, type FaceFiles } from './title-faces.ts';
import { videoColour, videoLuma } from './video-colour.ts';

/** Of 255 to of 256. */
const of256 = (cover: number): number => cover + (cover >> 7);

/**
 * Titles as they lie over a picture: painted as the preview paints them, in the colours of video (BT.709, limited range).
 * Null where nothing is seen.
 * @param files typefaces of the montage's own
 */
export function titleOverlay(titles: readonly TitleItem[], { width, height }: Size, files: FaceFiles = {}): Overlay | null {
  loadTitleFaces(titles, files);
  const canvas = createCanvas(width, height);
  const context = canvas.getContext('2d');
  for (const title of titles) paintTitle(context, title, 1);
  const { data } = context.getImageData(0, 0, width, height);
  const inked = (row: number): boolean => {
    for (let i = 4 * row * width + 3; i < 4 * (row + 1) * width; i += 4) if (data[i]! > 0) return true;
    return false;
  };
  let [top, bottom] = [0, height];
  while (top < bottom && !inked(top)) top++;
  while (bottom > top && !inked(bottom - 1)) bottom--;
  if (top === bottom) return null;
  top -= top % 2;
  bottom += bottom % 2;

  const pixels = (bottom - top) * width;
  const [luma, cover] = [new Uint8Array(pixels), new Uint16Array(pixels)];
  const [blue, red, chromaCover] = [new Uint8Array(pixels / 4), new Uint8Array(pixels / 4), new Uint16Array(pixels / 4)];
  const start = 4 * top * width;
  for (let i = 0; i < pixels; i++) {
    const p = start + 4 * i;
    const seen = data[p + 3]!;
    if (seen === 0) continue;
    luma[i] = videoLuma(data[p]!, data[p + 1]!, data[p + 2]!);
    cover[i] = of256(seen);
  }
  const half = width / 2;
  for (let c = 0; c < pixels / 4; c++) {
    const first = 2 * width * Math.floor(c / half) + 2 * (c % half);
    let [r, g, b, sum] = [0, 0, 0, 0];
    for (let k = 0; k < 4; k++) {
      const i = first + (k >> 1) * width + (k & 1);
      if (cover[i] === 0) continue;
      const p = start + 4 * i;
      const a = data[p + 3]!;
      r += data[p]! * a;
      g += data[p + 1]! * a;
      b += data[p + 2]! * a;
      sum += a;
    }
    if (sum === 0) continue;
    chromaCover[c] = of256(Math.round(sum / 4));
    const mean = videoColour(r / sum, g / sum, b / sum);
    blue[c] = mean.blue;
    red[c] = mean.red;
  }
  return { top, bottom, luma, cover, chroma: [blue, red], chromaCover };
}
