import type { Framing } from '../montage/document.ts';

/** A rectangle in pixels. */
export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Which part of a picture goes where on the screen. */
export interface Framed {
  readonly source: Rect;
  readonly target: Rect;
}

const even = (value: number): number => Math.max(2, 2 * Math.round(value / 2));

/**
 * Fill covers the whole screen and crops what hangs over, evenly on both sides; fit shows all of the picture, with
 * ground beside it. Pixels are even numbers, as 4:2:0 video wants them.
 */
export function frame(width: number, height: number, screen: { width: number; height: number }, framing: Framing): Framed {
  const wider = width * screen.height > height * screen.width;
  const whole: Rect = { x: 0, y: 0, width, height };
  if (framing === 'fill') {
    const w = wider ? Math.min(width, even((height * screen.width) / screen.height)) : width;
    const h = wider ? height : Math.min(height, even((width * screen.height) / screen.width));
    const x = 2 * Math.floor((width - w) / 4);
    const y = 2 * Math.floor((height - h) / 4);
    return { source: { x, y, width: w, height: h }, target: { x: 0, y: 0, width: screen.width, height: screen.height } };
  }
  const w = wider ? screen.width : Math.min(screen.width, even((screen.height * width) / height));
  const h = wider ? Math.min(screen.height, even((screen.width * height) / width)) : screen.height;
  return {
    source: whole,
    target: { x: 2 * Math.floor((screen.width - w) / 4), y: 2 * Math.floor((screen.height - h) / 4), width: w, height: h },
  };
}
