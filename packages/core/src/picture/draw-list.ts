import type { Montage } from '../document/montage.ts';
import { scoreOf } from '../score/score.ts';
import { framesPerSecond } from '../time/rate.ts';
import type { Veil } from '../finish/effects/effect-kind.ts';
import { struckAt, type Camera } from '../finish/firings.ts';
import { TRANSITIONS } from '../finish/transitions/all.ts';
import { frame as frameIt, letterboxBars, type Rect } from '../geometry/framing.ts';
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
  /** how all pictures together are enlarged and moved; null for not at all */
  readonly camera: Camera | null;
  /** what lies over the pictures */
  readonly veils: readonly Veil[];
  /** the parts of the screen that a letterbox covers in the ground's colour */
  readonly bars: readonly Rect[];
  readonly titles: readonly TitleItem[];
}

/** What lies behind pictures and shows in gaps. */
export const GROUND = '#000000';

const NO_VEILS: readonly Veil[] = [];

/**
 * The pictures of a layer. Where two frames of a clip are mixed, each is as strong as it has to be for both together to be
 * seen as much as the layer is.
 */
function itemsOf({ placed, source, blend, opacity }: Layer, montage: Montage): PictureItem[] {
  const { item, shot } = placed;
  const picture: PictureItem = {
    shotId: shot.id,
    assetId: item.assetId,
    kind: item.kind,
    frame: source,
    opacity,
    size: { width: item.width, height: item.height },
    ...frameIt(item.width, item.height, montage.shape, shot.framing, item.focus),
  };
  if (!blend) return [picture];
  const next = opacity * blend.part;
  const first = next < 1 ? 1 - (1 - opacity) / (1 - next) : 1;
  return [
    { ...picture, opacity: first },
    { ...picture, frame: blend.next, opacity: next },
  ];
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

/** Rough brightness of a colour, for which of two lies over the other. @param colour #rrggbb */
const brightness = (colour: string): number => [1, 3, 5].reduce((sum, at) => sum + parseInt(colour.slice(at, at + 2), 16), 0);

/** All veils of a frame, one a colour; the darker lie over the lighter. */
function veilsAt(montage: Montage, frame: number, struck: readonly Veil[]): readonly Veil[] {
  const transition = transitionAt(montage, frame);
  const colour = transition && TRANSITIONS[transition.transition.kind].veil;
  const veils = [
    ...struck,
    ...(transition && colour ? [{ colour, opacity: coveredPart(transition, frame) }] : []),
    { colour: GROUND, opacity: fadedPart(montage, frame) },
  ];
  if (veils.every((veil) => veil.opacity === 0)) return NO_VEILS;
  const together = new Map<string, number>();
  for (const veil of veils) together.set(veil.colour, 1 - (1 - (together.get(veil.colour) ?? 0)) * (1 - veil.opacity));
  return [...together]
    .flatMap(([one, opacity]) => (opacity > 0 ? [{ colour: one, opacity }] : []))
    .sort((a, b) => brightness(b.colour) - brightness(a.colour));
}

/**
 * What is on the screen at a frame of the montage.
 * Beyond the end, and in gaps, its list of pictures is empty.
 * @param frame of the montage, counted from 0
 * @returns pixels of the montage's shape
 * @example
 * drawListAt(montage, 70).items.map((i) => [i.assetId, i.frame]) // [["b", 10]]
 */
export function drawListAt(montage: Montage, frame: number): DrawList {
  const { width, height } = montage.shape;
  const struck = struckAt(montage, frame);
  return {
    width,
    height,
    ground: GROUND,
    items: layersAt(montage, frame).flatMap((layer) => itemsOf(layer, montage)),
    camera: struck.camera,
    veils: veilsAt(montage, frame, struck.veils),
    bars: letterboxBars(montage.shape, montage.letterbox),
    titles: titlesAt(montage, frame),
  };
}
