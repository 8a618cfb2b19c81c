import type { DrawList, PictureItem } from '@bluster/core';

/** The part of CanvasRenderingContext2D that painting needs; the browser's and Node's canvases both have it. */
export interface PaintContext<Image> {
  fillStyle: unknown;
  globalAlpha: number;
  imageSmoothingEnabled: boolean;
  imageSmoothingQuality: unknown;
  fillRect(x: number, y: number, width: number, height: number): void;
  drawImage(image: Image, sx: number, sy: number, sw: number, sh: number, dx: number, dy: number, dw: number, dh: number): void;
}

/** A picture ready to paint, in whatever size it was decoded. */
export interface PaintImage<Image> {
  readonly image: Image;
  readonly width: number;
  readonly height: number;
}

/**
 * Paints a draw list.
 * @param scale canvas pixels a montage pixel; the preview is smaller than the film
 * @param imageOf the decoded picture of an item, or null while it is not there: its place stays as it was painted below
 * @returns whether every picture was there
 */
export function paint<Image>(
  context: PaintContext<Image>,
  list: DrawList,
  scale: number,
  imageOf: (item: PictureItem) => PaintImage<Image> | null,
): boolean {
  const images = list.items.map((item) => ({ item, found: imageOf(item) }));
  context.fillStyle = list.ground;
  context.fillRect(0, 0, list.width * scale, list.height * scale);
  context.imageSmoothingEnabled = true;
  context.imageSmoothingQuality = 'medium';
  let whole = true;
  for (const { item, found } of images) {
    if (!found) {
      whole = false;
      continue;
    }
    // Proxies are smaller than their clips: rectangles are scaled to the picture at hand.
    const sx = found.width / item.size.width;
    const sy = found.height / item.size.height;
    const { source, target } = item;
    context.globalAlpha = item.opacity;
    context.drawImage(
      found.image,
      source.x * sx,
      source.y * sy,
      source.width * sx,
      source.height * sy,
      target.x * scale,
      target.y * scale,
      target.width * scale,
      target.height * scale,
    );
  }
  context.globalAlpha = 1;
  return whole;
}
