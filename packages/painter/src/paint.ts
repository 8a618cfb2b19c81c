import type { Camera, DrawList, PictureItem, Rect } from '@bluster/core';
import { paintTitle, type WriteContext } from './paint-title.ts';

/** The part of CanvasRenderingContext2D that painting needs; the browser's and Node's canvases both have it. */
export interface PaintContext<Image> extends WriteContext {
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

/** Pictures that are made this much smaller lose pixels between those that are looked at, unless they are averaged. */
const SHRUNK = 1.5;

/** Where a camera puts a place of the screen: enlarged about the screen's middle, then moved. */
function seenBy(camera: Camera | null, { x, y, width, height }: Rect, screen: { width: number; height: number }): Rect {
  if (!camera) return { x, y, width, height };
  const { zoom } = camera;
  return {
    x: (x - screen.width / 2) * zoom + screen.width / 2 + camera.x,
    y: (y - screen.height / 2) * zoom + screen.height / 2 + camera.y,
    width: width * zoom,
    height: height * zoom,
  };
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
  const cover = ({ x, y, width, height }: Rect): void => context.fillRect(x * scale, y * scale, width * scale, height * scale);
  const screen: Rect = { x: 0, y: 0, width: list.width, height: list.height };
  context.fillStyle = list.ground;
  cover(screen);
  context.imageSmoothingEnabled = true;
  let whole = true;
  for (const { item, found } of images) {
    if (!found) {
      whole = false;
      continue;
    }
    // Proxies are smaller than their clips: rectangles are scaled to the picture at hand.
    const sx = found.width / item.size.width;
    const sy = found.height / item.size.height;
    const { source } = item;
    const target = seenBy(list.camera, item.target, list);
    context.globalAlpha = item.opacity;
    // Where no graphics card helps, the better quality takes five times as long; it shows only in pictures that shrink.
    context.imageSmoothingQuality = (source.width * sx) / (target.width * scale) > SHRUNK ? 'medium' : 'low';
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
  for (const veil of list.veils) {
    context.globalAlpha = veil.opacity;
    context.fillStyle = veil.colour;
    cover(screen);
  }
  context.globalAlpha = 1;
  context.fillStyle = list.ground;
  list.bars.forEach(cover);
  for (const title of list.titles) paintTitle(context, title, scale);
  return whole;
}
