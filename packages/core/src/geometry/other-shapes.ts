import { frame } from './framing.ts';
import { framesPerSecond, sameRate } from '../time/rate.ts';
import type { FootageItem, Shape } from '../document/montage.ts';

/** What becomes of footage whose size or rate is not the montage's. */
export interface OtherShape {
  readonly item: FootageItem;
  /** the part of its picture that is cropped away, 0 to 1; with fill */
  readonly cropped: number;
  /** the part of the screen that is left empty beside it, 0 to 1; with fit */
  readonly empty: number;
  /** how much it is enlarged, 1 is pixel for pixel */
  readonly enlarged: number;
  /** frames of the clip for each frame of the montage; null where the rates are the same or it is a photo */
  readonly framesEach: number | null;
}

/**
 * The footage that is of another shape or rate than the montage, and what is done to it as it is framed now.
 * @returns in story order, parts of the picture from 0 to 1; none where all are alike
 */
export function otherShapes(footage: readonly FootageItem[], shape: Shape): OtherShape[] {
  return footage.flatMap((item) => {
    const fill = frame(item.width, item.height, shape, 'fill', item.focus);
    const fit = frame(item.width, item.height, shape, 'fit');
    const cropped = Math.max(0, 1 - (fill.source.width * fill.source.height) / (item.width * item.height));
    const empty = Math.max(0, 1 - (fit.target.width * fit.target.height) / (shape.width * shape.height));
    const enlarged = item.framing === 'fill' ? shape.width / fill.source.width : fit.target.width / item.width;
    const otherRate = item.kind === 'clip' && !sameRate(item.rate, shape.rate);
    // A pixel or two by which even sides differ is no other shape.
    if (cropped < 0.01 && empty < 0.01 && enlarged < 1.01 && !otherRate) return [];
    return [{ item, cropped, empty, enlarged, framesEach: otherRate ? framesPerSecond(item.rate) / framesPerSecond(shape.rate) : null }];
  });
}
