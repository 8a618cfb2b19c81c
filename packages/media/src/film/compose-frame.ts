import type { ColourCube } from '@bluster/core';
import type { DrawLayer, DrawList } from '@bluster/core/picture/draw-list';
import { barred, filled, mirrored, mixPictures, mixWithin, overlaid, seenBy, veiled, type Overlay, type Size } from './frame-planes.ts';
import { blurredPicture, looked } from './look-planes.ts';
import { layPicture, type Placed } from './sample-planes.ts';
import type { FaceFiles } from './title-faces.ts';
import { spares } from './spare-planes.ts';
import { titleOverlay } from './title-overlay.ts';

/** What becomes of the pictures of a frame, besides the pictures. */
export type Dressing = Omit<DrawList, 'width' | 'height' | 'ground' | 'layers'>;

/** One picture of a layer, in planes. */
export interface LayerPicture {
  /** null for black */
  readonly picture: Uint8Array | null;
  readonly size: Size;
  /** where it lies on the screen; null where it is as large as that and lies as it should */
  readonly placed: Placed | null;
  readonly opacity: number;
  readonly blur: number;
}

/** What is seen of one shot. */
export type ComposedLayer = Omit<DrawLayer, 'pictures' | 'shotId'> & { readonly pictures: readonly LayerPicture[] };

/** Tables of colours by their ids. */
export type Cubes = Readonly<Record<string, ColourCube>>;

/** What a montage brings along for its dressing. */
export interface DressingFiles {
  readonly cubes: Cubes;
  readonly faces: FaceFiles;
}

export const NO_FILES: DressingFiles = { cubes: {}, faces: {} };

const BLACK_COLOUR = '#000000';

let lastTitles = '';
let lastOverlay: Overlay | null = null;

/** Titles mostly stand for many frames. */
function overlayOf(titles: Dressing['titles'], size: Size, faces: FaceFiles): Overlay | null {
  const key = JSON.stringify([titles, size]);
  if (key !== lastTitles) {
    lastOverlay = titleOverlay(titles, size, faces);
    lastTitles = key;
  }
  return lastOverlay;
}

/** A black picture. */
export const blackPicture = (size: Size): Uint8Array => filled(size, BLACK_COLOUR);

/** One picture over what was painted below it. */
function laid(below: Uint8Array, { picture, size, placed, opacity, blur }: LayerPicture, screen: Size): Uint8Array {
  if (!picture) return below;
  if (!placed) return opacity >= 1 ? picture : mixPictures(below, picture, opacity);
  const own = spares.copyOf(below);
  layPicture(picture, size, own, screen, placed);
  const soft = blur > 0 ? blurredPicture(own, screen, blur) : own;
  return opacity >= 1 ? soft : mixPictures(below, soft, opacity);
}

function layerPicture(layer: ComposedLayer, seed: number, size: Size, cubes: Cubes): Uint8Array {
  const [only] = layer.pictures;
  const whole = layer.pictures.length === 1 && !only!.placed && only!.opacity >= 1 ? only!.picture : null;
  let out = whole ?? layer.pictures.reduce((below, one) => laid(below, one, size), filled(size, layer.ground));
  if (layer.look) out = looked(out, size, layer.look, seed, (id) => cubes[id] ?? null);
  return layer.camera ? seenBy(out, size, layer.camera) : out;
}

/**
 * A frame of the film from its pictures: the same as the painter paints from the draw list, on planes.
 * @param into where it is put
 * @returns that
 */
export function composeFrame(
  layers: readonly ComposedLayer[],
  dressing: Dressing,
  size: Size,
  files: DressingFiles = NO_FILES,
  into: Uint8Array = new Uint8Array(size.width * size.height * 1.5),
): Uint8Array {
  into.set(composed(layers, dressing, size, files));
  spares.takeBack();
  return into;
}

function composed(layers: readonly ComposedLayer[], dressing: Dressing, size: Size, { cubes, faces }: DressingFiles): Uint8Array {
  let out: Uint8Array | null = null;
  for (const layer of layers) {
    // Of a clip that gave no picture nothing is seen, not its ground.
    if (layer.pictures.every(({ picture }) => picture === null)) continue;
    const picture = layerPicture(layer, dressing.seed, size, cubes);
    if (!layer.within && layer.opacity >= 1) out = picture;
    else if (!layer.within) out = mixPictures(out ?? blackPicture(size), picture, layer.opacity);
    else out = mixWithin(out ?? blackPicture(size), picture, layer.opacity, size, layer.within);
  }
  out ??= blackPicture(size);
  if (dressing.camera) out = seenBy(out, size, dressing.camera);
  if (dressing.mirror) out = mirrored(out, size, dressing.mirror);
  if (dressing.look) out = looked(out, size, dressing.look, dressing.seed, (id) => cubes[id] ?? null);
  for (const { colour, opacity } of dressing.veils) out = veiled(out, size, colour, opacity);
  if (dressing.bars.length > 0) out = barred(out, size, dressing.bars);
  const overlay = dressing.titles.length > 0 ? overlayOf(dressing.titles, size, faces) : null;
  return overlay ? overlaid(out, size, overlay) : out;
}
