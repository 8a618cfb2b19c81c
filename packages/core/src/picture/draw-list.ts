import type { Montage, Shot } from '../document/montage.ts';
import { onceFor } from '../lists/once-for.ts';
import { scoreOf } from '../score/score.ts';
import { framesPerSecond } from '../time/rate.ts';
import type { Veil } from '../finish/effects/effect-kind.ts';
import { struckAt, type Camera } from '../finish/firings.ts';
import { PLAIN_LOOK, isPlainLook, together, type LookParts } from '../finish/looks/look-parts.ts';
import { MIDDLE_VIEW } from '../finish/motion/view.ts';
import type { Way } from '../finish/motion/ways.ts';
import { standingView, viewAt } from '../finish/placed-moves.ts';
import type { Slot } from '../score/score.ts';
import { placedSpan, spanPart } from '../finish/placed-span.ts';
import { TRANSITIONS } from '../finish/transitions/all.ts';
import type { SeenPicture } from '../finish/transitions/transition-kind.ts';
import { lookAt, togetherOf } from '../finish/worn-looks.ts';
import { frame as frameIt, type Framed, type Rect } from '../geometry/framing.ts';
import { covering, placeInView, showsEdge } from '../geometry/view.ts';
import { barsAt } from '../finish/letterbox.ts';
import { layersAt, type Layer } from './layers.ts';
import { titlesAt, type TitleItem } from '../finish/titles.ts';
import { coveredPart, transitionAt } from '../finish/placed-transitions.ts';

/** One picture to paint: a frame of a clip, or a photo. Rectangles are in pixels of the clip and of the montage. */
export interface PictureItem {
  readonly shotId: string;
  readonly assetId: string;
  readonly kind: 'clip' | 'photo';
  /** the clip's own frame, counted from 0 */
  readonly frame: number;
  /** how much of it is seen over what lies below it in its layer, 0 to 1 */
  readonly opacity: number;
  /** size of the whole clip or photo that `source` is measured in */
  readonly size: { readonly width: number; readonly height: number };
  readonly source: Rect;
  /** it may reach beyond the screen */
  readonly target: Rect;
  /** how far it is turned about the middle of the screen, degrees clockwise */
  readonly turn: number;
  /** how far it is out of focus, 0 to 1 */
  readonly blur: number;
}

/** What is seen of one shot, a screen full of it: its pictures over a ground, and what becomes of them together. */
export interface DrawLayer {
  readonly shotId: string;
  /** from the back to the front */
  readonly pictures: readonly PictureItem[];
  /** what lies behind them, #rrggbb */
  readonly ground: string;
  /** how much of the layer is seen over what lies below, 0 to 1 */
  readonly opacity: number;
  /** how the layer is enlarged and moved on the screen; null for not at all */
  readonly camera: Camera | null;
  /** the part of the screen in which alone it is seen, even pixels; null for all */
  readonly within: Rect | null;
  /** what its pictures are made to look like; null for as they are */
  readonly look: LookParts | null;
}

/** All that is on the screen in one frame, from the back to the front. */
export interface DrawList {
  readonly width: number;
  readonly height: number;
  readonly ground: string;
  readonly layers: readonly DrawLayer[];
  /** how all pictures together are enlarged and moved; null for not at all */
  readonly camera: Camera | null;
  /** the half that is also seen in place of the other, turned over */
  readonly mirror: Way | null;
  /** what all of it is made to look like; null for as it is */
  readonly look: LookParts | null;
  /** of grain: which of its patterns */
  readonly seed: number;
  /** what lies over the pictures */
  readonly veils: readonly Veil[];
  /** the parts of the screen that a letterbox covers in the ground's colour */
  readonly bars: readonly Rect[];
  readonly titles: readonly TitleItem[];
}

/** What lies behind pictures and shows in gaps. */
export const GROUND = '#000000';
/** How far a picture is out of focus that stands behind itself. */
const BEHIND_BLUR = 0.55;

const NO_VEILS: readonly Veil[] = [];

/** The pictures of a list from the back to the front, whichever layers they are of. */
export const picturesIn = (list: DrawList): readonly PictureItem[] => list.layers.flatMap((layer) => layer.pictures);

const even = (value: number): number => 2 * Math.round(value / 2);

/** How the picture of a slot is framed so many frames after the slot's start; its target may reach beyond the frame. */
export function framedAt(montage: Montage, slot: Slot, into: number): Framed & { readonly turn: number } {
  const { item, shot } = slot.placed!;
  const view = viewAt(montage, slot, into);
  if (!view) return { ...frameIt(item.width, item.height, montage.shape, shot.framing, item.focus), turn: 0 };
  const source: Rect = { x: 0, y: 0, width: item.width, height: item.height };
  return { source, target: placeInView(view, item, montage.shape, shot.framing), turn: view.turn };
}

/** The picture itself, out of focus and filling the frame, behind one that leaves some of it free. */
function behind(layer: Layer, montage: Montage): Pick<PictureItem, 'source' | 'target' | 'turn' | 'blur'> | null {
  const { item, shot } = layer.placed;
  if (shot.border !== 'blurred') return null;
  const { shape } = montage;
  const view = viewAt(montage, layer.slot, layer.into) ?? standingView(shot, item);
  // As large as the framing makes it, in terms of filling.
  const fill = Math.max(shape.width / item.width, shape.height / item.height);
  const fit = shot.framing === 'fill' ? fill : Math.min(shape.width / item.width, shape.height / item.height);
  if (!showsEdge({ ...view, zoom: (view.zoom * fit) / fill }, item, shape)) return null;
  const target = placeInView(covering({ ...MIDDLE_VIEW, ...item.focus, zoom: 1.04 }, item, shape), item, shape, 'fill');
  return { source: { x: 0, y: 0, width: item.width, height: item.height }, target, turn: 0, blur: BEHIND_BLUR };
}

/** What is drawn of a layer. Where two frames of a clip are mixed, the second lies over the first. */
function drawn(layer: Layer, montage: Montage): DrawLayer {
  const { placed, source, blend, seen } = layer;
  const { item, shot } = placed;
  const { shape } = montage;
  const picture: PictureItem = {
    shotId: shot.id,
    assetId: item.assetId,
    kind: item.kind,
    frame: source,
    opacity: 1,
    size: { width: item.width, height: item.height },
    ...framedAt(montage, layer.slot, layer.into),
    blur: 0,
  };
  const back = behind(layer, montage);
  const pictures = [
    ...(back ? [{ ...picture, ...back }] : []),
    picture,
    ...(blend ? [{ ...picture, frame: blend.next, opacity: blend.part }] : []),
  ];
  const { camera, within } = onScreen(seen, shot.inset, shape);
  const own = togetherOf(shot.looks);
  const look = seen.blur ? together(own ?? PLAIN_LOOK, { blur: seen.blur }) : own;
  return {
    shotId: shot.id,
    pictures,
    ground: shot.border === undefined || shot.border === 'blurred' ? GROUND : shot.border,
    opacity: (seen.opacity ?? 1) * (shot.opacity ?? 1),
    camera,
    within,
    look: look && !isPlainLook(look) ? look : null,
  };
}

/**
 * Where a layer lies on the screen, and the part of it in which it is seen: what it was given, or where it lies when it was moved.
 * @param inset of a picture in the picture
 */
function onScreen(
  { x = 0, y = 0, zoom = 1, within }: SeenPicture,
  inset: Shot['inset'],
  { width, height }: { readonly width: number; readonly height: number },
): Pick<DrawLayer, 'camera' | 'within'> {
  const size = inset?.size ?? 1;
  // All of it stays in the frame.
  const stand = (at: number): number => Math.max(size / 2, Math.min(1 - size / 2, at)) - 0.5;
  const [right, down] = inset ? [stand(inset.x), stand(inset.y)] : [0, 0];
  // Whole pixels of chroma, so that film and preview agree where an edge goes over the screen.
  const [dx, dy] = [even((right + x * size) * width), even((down + y * size) * height)];
  const camera = dx !== 0 || dy !== 0 || Math.abs(zoom * size - 1) > 1e-6 ? { zoom: zoom * size, x: dx, y: dy } : null;
  const moved = x !== 0 || y !== 0;
  if (!within && !moved && !inset) return { camera, within: null };
  const part = within ?? {
    x: Math.max(0, x),
    y: Math.max(0, y),
    width: 1 - Math.min(1, Math.abs(x)),
    height: 1 - Math.min(1, Math.abs(y)),
  };
  const side = (from: number, long: number, middle: number, whole: number): readonly [number, number] => {
    const at = (value: number): number => (0.5 + middle + (value - 0.5) * size) * whole;
    // Of a picture in the picture only whole pixels: none of it lies half beside itself.
    return inset
      ? [2 * Math.ceil(at(from) / 2 - 1e-6), 2 * Math.floor(at(from + long) / 2 + 1e-6)]
      : [even(at(from)), even(at(from + long))];
  };
  const [left, end] = side(part.x, part.width, right, width);
  const [top, foot] = side(part.y, part.height, down, height);
  return { camera, within: { x: left, y: top, width: Math.max(0, end - left), height: Math.max(0, foot - top) } };
}

/** How much black the picture comes out of at the start of the montage, or goes into at its end. */
function fadedPart(montage: Montage, frame: number): number {
  const { in: fadeIn, out: fadeOut } = montage.pictureFades;
  if (fadeIn === 0 && fadeOut === 0) return 0;
  const fps = framesPerSecond(montage.shape.rate);
  const { frames } = scoreOf(montage);
  const left = Math.min(fadeIn > 0 ? frame / (fadeIn * fps) : 1, fadeOut > 0 ? (frames - 1 - frame) / (fadeOut * fps) : 1);
  return Math.max(0, Math.min(1, 1 - left));
}

/** The fades that are awake, with their frames; found once for each document. */
const placedFades = onceFor((montage: Montage) =>
  montage.fades.flatMap(({ colour, span }) => {
    const placed = placedSpan(montage, span);
    return placed ? [{ colour, placed }] : [];
  }),
);

/** The colours into which the picture has gone by itself. */
const fadesAt = (montage: Montage, frame: number): Veil[] =>
  placedFades(montage).flatMap(({ colour, placed }) => {
    const opacity = spanPart(placed, frame);
    return opacity > 0 ? [{ colour, opacity }] : [];
  });

/** Rough brightness of a colour, for which of two lies over the other. @param colour #rrggbb */
const brightness = (colour: string): number => [1, 3, 5].reduce((sum, at) => sum + parseInt(colour.slice(at, at + 2), 16), 0);

/** All veils of a frame, one a colour; the darker lie over the lighter. */
function veilsAt(montage: Montage, frame: number, struck: readonly Veil[]): readonly Veil[] {
  const transition = transitionAt(montage, frame);
  const colour = transition && TRANSITIONS[transition.transition.kind].veil;
  const veils = [
    ...struck,
    ...(transition && colour ? [{ colour, opacity: coveredPart(transition, frame) }] : []),
    ...fadesAt(montage, frame),
    { colour: GROUND, opacity: fadedPart(montage, frame) },
  ];
  if (veils.every((veil) => veil.opacity === 0)) return NO_VEILS;
  const all = new Map<string, number>();
  for (const veil of veils) all.set(veil.colour, 1 - (1 - (all.get(veil.colour) ?? 0)) * (1 - veil.opacity));
  return [...all]
    .flatMap(([one, opacity]) => (opacity > 0 ? [{ colour: one, opacity }] : []))
    .sort((a, b) => brightness(b.colour) - brightness(a.colour));
}

/**
 * What is on the screen at a frame of the montage.
 * Beyond the end, and in gaps, its list of layers is empty.
 * @param frame of the montage, counted from 0
 * @returns pixels of the montage's shape
 * @example
 * picturesIn(drawListAt(montage, 70)).map((i) => [i.assetId, i.frame]) // [["b", 10]]
 */
export function drawListAt(montage: Montage, frame: number): DrawList {
  const { width, height } = montage.shape;
  const struck = struckAt(montage, frame);
  const worn = lookAt(montage, frame);
  const look = struck.look ? together(worn ?? PLAIN_LOOK, struck.look) : worn;
  return {
    width,
    height,
    ground: GROUND,
    layers: layersAt(montage, frame).map((layer) => drawn(layer, montage)),
    camera: struck.camera,
    mirror: struck.mirror,
    look: look && !isPlainLook(look) ? look : null,
    seed: frame,
    veils: veilsAt(montage, frame, struck.veils),
    bars: barsAt(montage, frame),
    titles: titlesAt(montage, frame),
  };
}
