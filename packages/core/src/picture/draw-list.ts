import type { Montage } from '../montage/document.ts';
import { blendAt } from '../montage/placed-shot.ts';
import { shownAt } from '../montage/score.ts';
import { frame as frameIt, type Rect } from './framing.ts';

/** One picture to paint: a frame of a clip, or a photo. Rectangles are in pixels of the clip and of the montage. */
export interface PictureItem {
  readonly shotId: string;
  readonly assetId: string;
  readonly kind: 'clip' | 'photo';
  /** the clip's own frame, counted from 0 */
  readonly frame: number;
  /** how much of it is seen over what lies below, 0 to 1 */
  readonly opacity: number;
  /** size of the whole clip or photo that `source` is measured in */
  readonly size: { readonly width: number; readonly height: number };
  readonly source: Rect;
  readonly target: Rect;
}

/** All that is on the screen in one frame, from the back to the front. */
export interface DrawList {
  readonly width: number;
  readonly height: number;
  readonly ground: string;
  readonly items: readonly PictureItem[];
}

/** What lies behind pictures and shows in gaps. */
export const GROUND = '#000000';

/** What is on the screen at a frame of the montage. */
export function drawListAt(montage: Montage, frame: number): DrawList {
  const { width, height } = montage.shape;
  const shown = shownAt(montage, frame);
  if (!shown) return { width, height, ground: GROUND, items: [] };
  const { item, shot } = shown.placed;
  const picture: PictureItem = {
    shotId: shot.id,
    assetId: item.assetId,
    kind: item.kind,
    frame: shown.source,
    opacity: 1,
    size: { width: item.width, height: item.height },
    ...frameIt(item.width, item.height, montage.shape, shot.framing, item.focus),
  };
  const blend = blendAt(shown.placed, frame - shown.slot.start.frame, montage);
  const items = blend ? [picture, { ...picture, frame: blend.next, opacity: blend.part }] : [picture];
  return { width, height, ground: GROUND, items };
}
