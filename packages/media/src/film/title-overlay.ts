import { createCanvas } from '@napi-rs/canvas';
import type { TitleItem } from '@bluster/core/finish/titles';
import { paintTitle } from '@bluster/painter';
import type { Overlay, Size } from './frame-planes.ts';
import { loadTitleFaces, type FaceFiles } from './title-faces.ts';
import { videoColour } from './video-colour.ts';

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
  const [luma, cover] = [new Uint8Array(pixels), new Uint8Array(pixels)];
  const [blue, red, chromaCover] = [new Uint8Array(pixels / 4), new Uint8Array(pixels / 4), new Uint8Array(pixels / 4)];
  for (let i = 0; i < pixels; i++) {
    const p = 4 * (top * width + i);
    luma[i] = videoColour(data[p]!, data[p + 1]!, data[p + 2]!).luma;
    cover[i] = data[p + 3]!;
  }
  for (let y = 0; y < bottom - top; y += 2)
    for (let x = 0; x < width; x += 2) {
      let [r, g, b, sum] = [0, 0, 0, 0];
      for (const [dx, dy] of [
        [0, 0],
        [1, 0],
        [0, 1],
        [1, 1],
      ] as const) {
        const p = 4 * ((top + y + dy) * width + x + dx);
        const a = data[p + 3]!;
        r += data[p]! * a;
        g += data[p + 1]! * a;
        b += data[p + 2]! * a;
        sum += a;
      }
      const i = ((y / 2) * width) / 2 + x / 2;
      chromaCover[i] = Math.round(sum / 4);
      if (sum === 0) continue;
      const mean = videoColour(r / sum, g / sum, b / sum);
      blue[i] = mean.blue;
      red[i] = mean.red;
    }
  return { top, bottom, luma, cover, chroma: [blue, red], chromaCover };
}
