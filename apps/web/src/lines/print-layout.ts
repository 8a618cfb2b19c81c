import type { Line, PlacedShot, Slot } from '@bluster/core';
import { lineX } from './line-x.ts';

/** How far below the pegs' line of a score line its prints begin. */
export const PRINT_TOP = 15;
export const PRINT_HEIGHT = 46;
/** The white edge of a print. */
export const PRINT_EDGE = 2;
/** A picture of a print is at least this wide, however upright the film is. */
const NARROWEST_PICTURE = 30;

/** Where the part of a slot that lies on one line is, pixels from the line's left; times in montage seconds. */
export interface PrintPlace {
  readonly from: number;
  readonly to: number;
  readonly left: number;
  readonly wide: number;
  /** whether the slot's start and end lie on this line, or so near it that nothing of the slot can be seen on the next */
  readonly starts: boolean;
  readonly ends: boolean;
}

/** Narrower parts of a slot are not drawn: the frame or so by which a cut and its mark differ at the end of a line. */
export const NARROWEST_PRINT = 4;

export function printPlace(slot: Slot, line: Line, width: number, fps: number): PrintPlace {
  const from = Math.max(line.from, slot.start.frame / fps);
  const to = Math.min(line.to, slot.end.frame / fps);
  const left = lineX(line, from, width);
  const nearly = (NARROWEST_PRINT / width) * line.span;
  return {
    from,
    to,
    left,
    wide: lineX(line, to, width) - left,
    starts: slot.start.frame / fps > line.from - nearly,
    ends: slot.end.frame / fps < line.to + nearly,
  };
}

type Filled = Slot & { readonly placed: PlacedShot };

/** How far the pictures of a print reach: montage seconds until which the clip covers the slot on this line, and pixels. */
export function coveredPart({ placed, start }: Filled, line: Line, width: number, fps: number, { from, to, left }: PrintPlace): Covered {
  const coveredTo = Math.min(to, (start.frame + placed.coveredFrames) / fps);
  const covered = Math.max(0, lineX(line, Math.max(from, coveredTo), width) - left);
  return { coveredTo, width: Math.max(0, covered - 4 - 2 * PRINT_EDGE) };
}
interface Covered {
  readonly coveredTo: number;
  readonly width: number;
}

/**
 * The small pictures of a print: how far they reach, and the moment of the clip that each shows, clip seconds.
 * @param aspect of the film, width to height
 */
export function printPictures(
  slot: Filled,
  line: Line,
  width: number,
  fps: number,
  place: PrintPlace,
  aspect: number,
): Covered & { readonly times: readonly number[] } {
  const covered = coveredPart(slot, line, width, fps, place);
  const each = Math.max(NARROWEST_PICTURE, (PRINT_HEIGHT - 2 * PRINT_EDGE) * aspect);
  const count = Math.max(1, Math.round(covered.width / each));
  const { curve } = slot.placed;
  const into = place.from - slot.start.frame / fps;
  const times = Array.from({ length: count }, (_, i) => curve.source(into + ((i + 0.4) / count) * (covered.coveredTo - place.from)));
  return { ...covered, times };
}
