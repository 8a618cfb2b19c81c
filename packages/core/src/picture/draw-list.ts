import type { Montage } from '../montage/document.ts';
import { scoreOf, slotAt, sourceFrame } from '../montage/score.ts';
import { frame as frameIt, type Rect } from './framing.ts';

/** One picture to paint: a frame of a clip, or a photo. Rectangles are in pixels of the clip and of the montage. */
export interface PictureItem {
  readonly assetId: string;
  readonly kind: 'clip' | 'photo';
  /** the clip's own frame, counted from 0 */
  readonly frame: number;
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
  const empty: DrawList = { width, height, ground: GROUND, items: [] };
  const slot = slotAt(scoreOf(montage), frame);
  if (!slot?.placed) return empty;
  const { item, shot } = slot.placed;
  const shown = sourceFrame(slot.placed, frame - slot.start.frame, montage);
  if (shown === null) return empty;
  const size = { width: item.width, height: item.height };
  const framed = frameIt(item.width, item.height, montage.shape, shot.framing, item.focus);
  return { ...empty, items: [{ assetId: item.assetId, kind: item.kind, frame: shown, size, ...framed }] };
}
