import type { DrawList } from '@bluster/core/picture/draw-list';
import { BLACK, barred, mixPictures, overlaid, seenBy, veiled, type Overlay, type Size } from './frame-planes.ts';
import { titleOverlay } from './title-overlay.ts';

/** What becomes of the pictures of a frame, besides the pictures. */
export type Dressing = Pick<DrawList, 'camera' | 'veils' | 'bars' | 'titles'>;

/** One picture of a frame in planes, null for black, and how much of it is seen over what lies below. */
export interface LayerPicture {
  readonly picture: Uint8Array | null;
  readonly opacity: number;
}

let lastTitles = '';
let lastOverlay: Overlay | null = null;

/** Titles mostly stand for many frames. */
function overlayOf(titles: Dressing['titles'], size: Size): Overlay | null {
  const key = JSON.stringify([titles, size]);
  if (key !== lastTitles) {
    lastOverlay = titleOverlay(titles, size);
    lastTitles = key;
  }
  return lastOverlay;
}

/** A black picture. */
export function blackPicture({ width, height }: Size): Uint8Array {
  const picture = new Uint8Array((width * height * 3) / 2).fill(128);
  return picture.fill(BLACK, 0, width * height);
}

/** A frame of the film from its pictures: the same as the painter paints from the draw list, on planes. */
export function composeFrame(layers: readonly LayerPicture[], dressing: Dressing, size: Size): Uint8Array {
  let out = blackPicture(size);
  for (const { picture, opacity } of layers) if (picture) out = opacity >= 1 ? picture : mixPictures(out, picture, opacity);
  if (dressing.camera) out = seenBy(out, size, dressing.camera);
  for (const { colour, opacity } of dressing.veils) out = veiled(out, size, colour, opacity);
  if (dressing.bars.length > 0) out = barred(out, size, dressing.bars);
  const overlay = dressing.titles.length > 0 ? overlayOf(dressing.titles, size) : null;
  return overlay ? overlaid(out, size, overlay) : out;
}
