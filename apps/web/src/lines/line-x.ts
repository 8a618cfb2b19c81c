import type { Line } from '@bluster/core';

/** Where a time of a line lies, pixels from its left. */
export function lineX(line: Line, time: number, width: number): number {
  return ((time - line.from) / line.span) * width;
}
