import { toMontageTime, type Line, type Mark, type SongPiece } from '@bluster/core';
import { lineX } from '../lines/line-x.ts';

/** How near the pointer must come to a mark to take hold of it, pixels. */
const GRAB_PX = 6;

/** A line of the song as it lies on the page; sizes in pixels. */
export interface LaidLine {
  readonly line: Line;
  readonly pieces: readonly SongPiece[];
  readonly width: number;
  /** of the sound; below it lie the accents */
  readonly height: number;
}

/**
 * The mark under the pointer, null where there is none. Accents are taken by their carets, below the sound; beats would be
 * hard to meet among them.
 */
export function markUnder(marks: readonly Mark[], { line, pieces, width, height }: LaidLine, x: number, y: number): Mark | null {
  let best: Mark | null = null;
  let distance = GRAB_PX;
  for (const mark of marks) {
    if ((mark.kind === 'accent') !== y > height) continue;
    const far = Math.abs(lineX(line, toMontageTime(pieces, mark.time) ?? -1, width) - x);
    if (far < distance) [best, distance] = [mark, far];
  }
  return best;
}
