import type { Framing } from '../document/montage.ts';

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

const CENTRE = { x: 0.5, y: 0.5 };
const even = (value: number): number => Math.max(2, 2 * Math.round(value / 2));

/** Where a crop of so many pixels starts, so that the focus is as near its middle as the picture's edges allow. */
const cropStart = (whole: number, part: number, focus: number): number =>
  2 * Math.floor(Math.max(0, Math.min(whole - part, focus * whole - part / 2)) / 2);

/**
 * Fill covers the whole screen and crops what hangs over, around the focus (parts of width and height); fit shows all of the picture, with
 * ground beside it. Pixels are even numbers, as 4:2:0 video wants them.
 * @param width, height of the picture, pixels
 * @returns the part of the picture that is seen and where it lies on the screen, pixels
 */
export function frame(width: number, height: number, screen: { width: number; height: number }, framing: Framing, focus = CENTRE): Framed {
  const wider = width * screen.height > height * screen.width;
  const whole: Rect = { x: 0, y: 0, width, height };
  if (framing === 'fill') {
    const w = wider ? Math.min(width, even((height * screen.width) / screen.height)) : width;
    const h = wider ? height : Math.min(height, even((width * screen.height) / screen.width));
    const [x, y] = [cropStart(width, w, focus.x), cropStart(height, h, focus.y)];
    return { source: { x, y, width: w, height: h }, target: { x: 0, y: 0, width: screen.width, height: screen.height } };
  }
  const w = wider ? screen.width : Math.min(screen.width, even((screen.height * width) / height));
  const h = wider ? Math.min(screen.height, even((screen.width * height) / width)) : screen.height;
  return {
    source: whole,
    target: { x: 2 * Math.floor((screen.width - w) / 4), y: 2 * Math.floor((screen.height - h) / 4), width: w, height: h },
  };
}

/**
 * How tall the bars above and below are that leave a picture of a given shape between them, or how wide those on its sides; even numbers
 * of pixels. @param aspect width to height
 */
export function barsAround(
  { width, height }: { width: number; height: number },
  aspect: number,
): { readonly tall: number; readonly wide: number } {
  const even2 = (room: number): number => Math.max(0, 2 * Math.round(room / 4));
  return { tall: even2(height - width / aspect), wide: even2(width - height * aspect) };
}
