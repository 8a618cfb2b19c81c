import {
  blurLevels,
  GRAIN_COVER,
  GRAIN_TILE,
  grainStart,
  grainTile,
  halved,
  VIGNETTE_COVER,
  VIGNETTE_STOPS,
} from '@bluster/core/picture/optics';
import { changesColours, colourChange, colourTables, type ColourChange } from '@bluster/core/picture/colour-change';
import type { ColourCube, LookParts } from '@bluster/core';
import type { PaintContext, PaintImage, Pixels, Sheets } from './paint-context.ts';
import { recolourByTables } from './pixel-kernel.ts';

/** Whether a look does more than lie over the picture. */
export const reworks = (look: LookParts): boolean => look.blur > 0 || changesColours(look);

/** Changes the colours of pixels in place. */
function recolour({ data }: Pixels, change: ColourChange): void {
  // Neighbours often have the very same colour.
  let [last, colour] = [-1, 0];
  for (let i = 0; i < data.length; i += 4) {
    const now = (data[i]! << 16) | (data[i + 1]! << 8) | data[i + 2]!;
    if (now !== last) {
      colour = change(now);
      last = now;
    }
    data[i] = colour >> 16;
    data[i + 1] = (colour >> 8) & 255;
    data[i + 2] = colour & 255;
  }
}

function drawOnto<Image>(
  from: PaintImage<Image>,
  width: number,
  height: number,
  name: string,
  sheets: Sheets<Image>,
  alpha = 1,
): PaintImage<Image> {
  const { context, image } = sheets(`${name} ${width} ${height}`, width, height);
  context.imageSmoothingEnabled = true;
  context.imageSmoothingQuality = 'low';
  context.globalAlpha = alpha;
  context.drawImage(from.image, 0, 0, from.width, from.height, 0, 0, width, height);
  context.globalAlpha = 1;
  return { image, width, height };
}

/** How many levels of brightness a canvas loses each time it halves a picture, and doubles it again. */
interface Loss {
  readonly down: number;
  readonly up: number;
}

const losses = new WeakMap<object, Loss>();

/**
 * Canvases without a graphics card round down when they scale; a picture that is scaled ten times would come out darker. How much is
 * measured once.
 */
function lossOf<Image>(sheets: Sheets<Image>): Loss {
  const known = losses.get(sheets);
  if (known) return known;
  const size = 64;
  const tile = grainTile();
  const { context, image } = sheets('loss', size, size);
  const pixels = context.getImageData(0, 0, size, size);
  const meanOf = (name: string, side: number): number => {
    const { data } = sheets(name, side, side).context.getImageData(0, 0, side, side);
    let sum = 0;
    for (let i = 0; i < data.length; i += 4) sum += data[i]!;
    return sum / (side * side);
  };
  for (let i = 0; i < size * size; i++) {
    pixels.data[4 * i] = 128 + (tile[i]! >> 2);
    pixels.data[4 * i + 3] = 255;
  }
  context.putImageData(pixels, 0, 0);
  const small = drawOnto({ image, width: size, height: size }, size / 2, size / 2, 'loss', sheets);
  drawOnto(small, size, size, 'loss again', sheets);
  const [whole, half, again] = [
    meanOf('loss', size),
    meanOf(`loss ${size / 2} ${size / 2}`, size / 2),
    meanOf(`loss again ${size} ${size}`, size),
  ];
  const loss = { down: Math.max(0, whole - half), up: Math.max(0, half - again) };
  losses.set(sheets, loss);
  return loss;
}

/** Makes up for what scaling loses, in a picture that is small by now. */
function lightened<Image>(sheet: PaintContext<Image>, { width, height }: { width: number; height: number }, by: number): void {
  const add = Math.round(by);
  if (add === 0) return;
  const pixels = sheet.getImageData(0, 0, width, height);
  for (let i = 0; i < pixels.data.length; i += 4) for (let c = 0; c < 3; c++) pixels.data[i + c] = Math.min(255, pixels.data[i + c]! + add);
  sheet.putImageData(pixels, 0, 0);
}

/**
 * A picture out of focus: made smaller by halves, then larger again, so that only its large shapes are left.
 * @param name of the sheets to work on @param levels how often it is halved; parts lie between
 */
export function blurred<Image>(picture: PaintImage<Image>, levels: number, sheets: Sheets<Image>, name: string): PaintImage<Image> {
  if (levels <= 0.01) return picture;
  const whole = Math.floor(levels);
  const part = levels - whole;
  const farther = part > 0.01;
  const steps: PaintImage<Image>[] = [picture];
  for (let n = 0; n < whole + (farther ? 1 : 0); n++) {
    const from = steps[n]!;
    steps.push(drawOnto(from, halved(from.width), halved(from.height), `${name} down ${n}`, sheets));
  }
  let now = steps[whole]!;
  if (farther) {
    // What it was itself, and over it some of what is one level farther out of focus.
    now = drawOnto(now, now.width, now.height, `${name} mix ${whole}`, sheets);
    drawOnto(steps[whole + 1]!, now.width, now.height, `${name} mix ${whole}`, sheets, part);
  }
  if (whole > 0) {
    const { down, up } = lossOf(sheets);
    const { context } = sheets(
      `${name} ${farther ? `mix ${whole}` : `down ${whole - 1}`} ${now.width} ${now.height}`,
      now.width,
      now.height,
    );
    lightened(context, now, down * whole + up * whole + (farther ? part * (down + up) : 0));
  }
  for (let n = whole - 1; n >= 0; n--) now = drawOnto(now, steps[n]!.width, steps[n]!.height, `${name} up ${n}`, sheets);
  return now;
}

/** Which strength of darker edges is painted on a sheet: a gradient takes many times as long as a picture. */
const darkened = new WeakMap<object, number>();

/** The edges of what was painted are darkened. @param width, height in the context's own measure */
export function paintVignette<Image>(
  context: PaintContext<Image>,
  strength: number,
  width: number,
  height: number,
  sheets: Sheets<Image>,
): void {
  const sheet = sheets(`edges ${width} ${height}`, width, height);
  if (darkened.get(sheet.context) !== strength) {
    const own = sheet.context;
    own.clearRect(0, 0, width, height);
    const gradient = own.createRadialGradient(0, 0, 0, 0, 0, 1);
    for (const [place, part] of VIGNETTE_STOPS)
      gradient.addColorStop(place, `rgba(0,0,0,${(VIGNETTE_COVER * strength * part).toFixed(4)})`);
    own.save();
    own.translate(width / 2, height / 2);
    // The corners lie on the circle.
    own.scale((width / 2) * Math.SQRT2, (height / 2) * Math.SQRT2);
    own.fillStyle = gradient;
    own.fillRect(-1, -1, 2, 2);
    own.restore();
    darkened.set(own, strength);
  }
  context.globalAlpha = 1;
  context.drawImage(sheet.image, 0, 0, width, height, 0, 0, width, height);
}

/** Grain over what was painted, pixel by pixel of the canvas. */
export function paintGrain<Image>(
  context: PaintContext<Image>,
  strength: number,
  seed: number,
  width: number,
  height: number,
  sheets: Sheets<Image>,
): void {
  const { context: own, image } = sheets('grain', GRAIN_TILE, GRAIN_TILE);
  const pixels = own.getImageData(0, 0, GRAIN_TILE, GRAIN_TILE);
  const tile = grainTile();
  for (let i = 0; i < tile.length; i++) {
    const n = tile[i]!;
    pixels.data[4 * i] = pixels.data[4 * i + 1] = pixels.data[4 * i + 2] = n > 0 ? 255 : 0;
    pixels.data[4 * i + 3] = Math.abs(n);
  }
  own.putImageData(pixels, 0, 0);
  const start = grainStart(seed);
  context.globalAlpha = GRAIN_COVER * strength;
  for (let y = -start.y; y < height; y += GRAIN_TILE)
    for (let x = -start.x; x < width; x += GRAIN_TILE) context.drawImage(image, 0, 0, GRAIN_TILE, GRAIN_TILE, x, y, GRAIN_TILE, GRAIN_TILE);
  context.globalAlpha = 1;
}

/**
 * What a look makes of a painted sheet, but for what merely lies over it: its colours (in place), and out of focus.
 * @param scale canvas pixels a montage pixel
 */
export function reworked<Image>(
  sheet: { readonly context: PaintContext<Image>; readonly image: Image },
  look: LookParts,
  size: { readonly width: number; readonly height: number },
  scale: number,
  sheets: Sheets<Image>,
  name: string,
  cubeOf: (id: string) => ColourCube | null,
): PaintImage<Image> {
  const { width, height } = size;
  if (changesColours(look)) {
    const pixels = sheet.context.getImageData(0, 0, width, height);
    const tables = colourTables(look);
    if (tables) recolourByTables(pixels.data, tables);
    else recolour(pixels, colourChange(look, cubeOf));
    sheet.context.putImageData(pixels, 0, 0);
  }
  return blurred({ image: sheet.image, width, height }, blurLevels(look.blur, height, scale), sheets, name);
}
