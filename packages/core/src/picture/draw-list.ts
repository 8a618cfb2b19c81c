import type { Montage } from '../document/montage.ts';
import { scoreOf } from '../score/score.ts';
import { framesPerSecond } from '../time/rate.ts';
import { struckAt, type Camera, type Veil } from '../finish/effects.ts';
import { frame as frameIt, letterboxBars, type Rect } from '../geometry/framing.ts';
import { layersAt, type Layer } from './layers.ts';
import { titlesAt, type TitleItem } from '../finish/titles.ts';
import { coveredPart, transitionAt } from '../finish/transitions.ts';

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

/** Two veils of one colour at once. */
const together = (a: number, b: number): number => 1 - (1 - a) * (1 - b);

function veilsAt(montage: Montage, frame: number, struck: { readonly white: number; readonly black: number }): readonly Veil[] {
  const transition = transitionAt(montage, frame);
  const kind = transition?.transition.kind;
  const covered = transition && kind !== 'dissolve' ? coveredPart(transition, frame) : 0;
  const white = together(struck.white, kind === 'white' ? covered : 0);
  const black = together(together(struck.black, kind === 'black' ? covered : 0), fadedPart(montage, frame));
  if (white === 0 && black === 0) return NO_VEILS;
  return [
    { colour: '#ffffff' as const, opacity: white },
    { colour: '#000000' as const, opacity: black },
  ].filter((veil) => veil.opacity > 0);
}

/** What is on the screen at a frame of the montage. */
export function drawListAt(montage: Montage, frame: number): DrawList {
  const { width, height } = montage.shape;
  const struck = struckAt(montage, frame);
  return {
    width,
    height,
    ground: GROUND,
    items: layersAt(montage, frame).flatMap((layer) => itemsOf(layer, montage)),
    camera: struck.camera,
    veils: veilsAt(montage, frame, struck),
    bars: letterboxBars(montage.shape, montage.letterbox),
    titles: titlesAt(montage, frame),
  };
}
