import type { Framing } from '../document/montage.ts';
import type { View } from '../finish/motion/view.ts';
import type { Rect } from './framing.ts';

interface Size {
  readonly width: number;
  readonly height: number;
}

const clamp = (value: number, low: number, high: number): number => (low > high ? 0.5 : Math.max(low, Math.min(high, value)));

/** Pixels of the frame a pixel of the picture, at a zoom of 1. */
export function framingScale(picture: Size, screen: Size, framing: Framing): number {
  const [across, down] = [screen.width / picture.width, screen.height / picture.height];
  return framing === 'fill' ? Math.max(across, down) : Math.min(across, down);
}

/** Half of the upright box around a turned frame, pixels of the frame. */
function reach(screen: Size, turn: number): { across: number; down: number } {
  const [c, s] = [Math.abs(Math.cos((turn * Math.PI) / 180)), Math.abs(Math.sin((turn * Math.PI) / 180))];
  return { across: (screen.width * c + screen.height * s) / 2, down: (screen.width * s + screen.height * c) / 2 };
}

/**
 * The nearest view in which no edge of the picture is in sight: as much larger and moved as it has to be.
 * @param picture, screen pixels
 */
export function covering(view: View, picture: Size, screen: Size): View {
  const scale = framingScale(picture, screen, 'fill');
  const { across, down } = reach(screen, view.turn);
  const least = Math.max(across / (picture.width * scale), down / (picture.height * scale)) * 2;
  const zoom = Math.max(view.zoom, least);
  const [halfX, halfY] = [across / (picture.width * scale * zoom), down / (picture.height * scale * zoom)];
  const [x, y] = [clamp(view.x, halfX, 1 - halfX), clamp(view.y, halfY, 1 - halfY)];
  return zoom === view.zoom && x === view.x && y === view.y ? view : { x, y, zoom, turn: view.turn };
}

/** Whether an edge of the picture is in sight, by more than a thousandth of a pixel. */
export function showsEdge(view: View, picture: Size, screen: Size): boolean {
  const scale = framingScale(picture, screen, 'fill') * view.zoom;
  const { across, down } = reach(screen, view.turn);
  const [left, top] = [view.x * picture.width * scale, view.y * picture.height * scale];
  const room = [left - across, picture.width * scale - left - across, top - down, picture.height * scale - top - down];
  return Math.min(...room) < -1e-3;
}

/** Where a picture lies on the screen in a view, before it is turned about the screen's middle; pixels of the screen. */
export function placeInView(view: View, picture: Size, screen: Size, framing: Framing): Rect {
  const scale = framingScale(picture, screen, framing) * view.zoom;
  const [width, height] = [picture.width * scale, picture.height * scale];
  return { x: screen.width / 2 - view.x * width, y: screen.height / 2 - view.y * height, width, height };
}

/**
 * A view on the way from one to another. The frame's own rectangle on the picture goes in straight lines, so where both ends
 * show no edge, nothing between them does.
 * @param part how far it has come, 0 to 1
 */
export function viewBetween(from: View, to: View, part: number): View {
  const mixed = (a: number, b: number): number => a + (b - a) * part;
  return {
    x: mixed(from.x, to.x),
    y: mixed(from.y, to.y),
    zoom: 1 / mixed(1 / from.zoom, 1 / to.zoom),
    turn: mixed(from.turn, to.turn),
  };
}
