import type { ColourCube, LookParts } from '@bluster/core';
import { changesColours, colourChange, colourSteps, LIFTED_COLOUR } from '@bluster/core/picture/colour-change';
import {
  blurLevels,
  GRAIN_COVER,
  GRAIN_TILE,
  grainStart,
  grainTile,
  halved,
  VIGNETTE_COVER,
  vignetteAt,
} from '@bluster/core/picture/optics';
import { mixPictures, veiled } from './frame-planes.ts';
import { kernel } from './picture-kernel.ts';
import type { Size } from './size.ts';
import { spares } from './spare-planes.ts';
import { planesOf, resized, type Plane } from './sample-planes.ts';

type CubeOf = (id: string) => ColourCube | null;

/** A picture with paler colours and lifted black, which needs no way through red, green and blue. */
function paled(picture: Uint8Array, { width, height }: Size, { saturation, lift }: LookParts): Uint8Array {
  const out = spares.copyOf(picture);
  const pixels = width * height;
  if (saturation < 1) {
    const work = kernel.begin(2 * pixels);
    const chroma = pixels / 2;
    const [from, to] = [work.put(out.subarray(pixels)), work.room(chroma)];
    work.code.veil(from, 128, to, chroma, Math.round(256 * (1 - saturation)));
    work.takeInto(to, out.subarray(pixels));
  }
  return lift > 0 ? veiled(out, { width, height }, LIFTED_COLOUR, lift) : out;
}

const isPaler = ({ exposure, contrast, warmth, saturation, tables }: LookParts): boolean =>
  exposure === 0 && contrast === 1 && warmth === 0 && saturation <= 1 && tables.length === 0;

/** A picture with its colours changed, by the compiled code: all but tables of colours. */
function recoloured(picture: Uint8Array, { width, height }: Size, look: LookParts): Uint8Array {
  const { gain, contrast, saturation, warm, kept, lift } = colourSteps(look);
  const work = kernel.begin(2 * picture.length);
  const [from, out] = [work.put(picture), work.room(picture.length)];
  work.code.setColours(gain, contrast, saturation, ...warm, kept, ...lift);
  work.code.recolour(from, out, width, height);
  return work.take(out, picture.length);
}

const clip = (value: number): number => (value < 0 ? 0 : value > 255 ? 255 : value);

/**
 * A picture with its colours changed one by one: out of video's (ITU-R BT.709, limited range, in 16 bits of fraction) into red, green and
 * blue, and back. Each pixel has its own brightness and the colour of its block of four.
 */
function recolouredByTable(picture: Uint8Array, { width, height }: Size, look: LookParts, cubeOf: CubeOf): Uint8Array {
  const change = colourChange(look, cubeOf);
  const out = spares.lend(picture.length);
  const pixels = width * height;
  const half = width / 2;
  for (let by = 0; by < height / 2; by++)
    for (let bx = 0; bx < half; bx++) {
      const c = by * half + bx;
      const [cb, cr] = [picture[pixels + c]! - 128, picture[pixels * 1.25 + c]! - 128];
      const [toR, toG, toB] = [117504 * cr, -13954 * cb - 34903 * cr, 138453 * cb];
      let [sumR, sumG, sumB] = [0, 0, 0];
      for (let k = 0; k < 4; k++) {
        const i = (2 * by + (k >> 1)) * width + 2 * bx + (k & 1);
        const y = 76309 * (picture[i]! - 16) + 32768;
        const colour = change((clip((y + toR) >> 16) << 16) | (clip((y + toG) >> 16) << 8) | clip((y + toB) >> 16));
        const [r, g, b] = [colour >> 16, (colour >> 8) & 255, colour & 255];
        out[i] = (11966 * r + 40254 * g + 4064 * b + 1081344) >> 16;
        sumR += r;
        sumG += g;
        sumB += b;
      }
      out[pixels + c] = (((-6596 * sumR - 22189 * sumG + 28784 * sumB) >> 2) + 8421376) >> 16;
      out[pixels * 1.25 + c] = (((28784 * sumR - 26145 * sumG - 2640 * sumB) >> 2) + 8421376) >> 16;
    }
  return out;
}

/** A plane out of focus: made smaller by halves, then larger again. @param levels how often; parts lie between */
function blurredPlane(plane: Plane, levels: number): Plane {
  const whole = Math.floor(levels);
  const part = Math.round((levels - whole) * 256);
  const steps = [plane];
  for (let n = 0; n < whole + (part > 2 ? 1 : 0); n++) steps.push(resized(steps[n]!, halved(steps[n]!.width), halved(steps[n]!.height)));
  let now = steps[whole]!;
  if (part > 2) {
    const far = resized(steps[whole + 1]!, now.width, now.height);
    const { start, width, height } = now;
    now = { data: mixPictures(now.data.subarray(start, start + width * height), far.data, part / 256), start: 0, width, height };
  }
  for (let n = whole - 1; n >= 0; n--) now = resized(now, steps[n]!.width, steps[n]!.height);
  return now;
}

/** A picture out of focus. @param blur 0 to 1 */
export function blurredPicture(picture: Uint8Array, size: Size, blur: number): Uint8Array {
  const levels = blurLevels(blur, size.height, 1);
  if (levels <= 0.01) return picture;
  const out = spares.lend(picture.length);
  for (const [n, plane] of planesOf(picture, size).entries()) {
    // Chroma is half as large already.
    const soft = n === 0 ? blurredPlane(plane, levels) : blurredPlane(plane, Math.max(0, levels - 1));
    out.set(soft.data.subarray(soft.start, soft.start + soft.width * soft.height), plane.start);
  }
  return out;
}

let mask: { readonly key: string; readonly luma: Uint16Array; readonly chroma: Uint16Array } | null = null;

/** How much of each pixel is black, of 256. */
function maskOf({ width, height }: Size, strength: number): { luma: Uint16Array; chroma: Uint16Array } {
  const key = `${width} ${height} ${strength}`;
  if (mask?.key === key) return mask;
  const of = (w: number, h: number): Uint16Array => {
    const left = new Uint16Array(w * h);
    for (let y = 0; y < h; y++) {
      const dy = ((y + 0.5) / h) * 2 - 1;
      for (let x = 0; x < w; x++) {
        const dx = ((x + 0.5) / w) * 2 - 1;
        left[y * w + x] = Math.round(256 * (VIGNETTE_COVER * strength * vignetteAt(Math.sqrt((dx * dx + dy * dy) / 2))));
      }
    }
    return left;
  };
  mask = { key, luma: of(width, height), chroma: of(width / 2, height / 2) };
  return mask;
}

/** A picture with its edges darkened. */
function vignetted(picture: Uint8Array, size: Size, strength: number): Uint8Array {
  const { luma, chroma } = maskOf(size, strength);
  const { length } = picture;
  const pixels = luma.length;
  const work = kernel.begin(2 * length + 2 * pixels + 2 * chroma.length);
  const [from, out, masks, small] = [work.put(picture), work.room(length), work.put(luma), work.put(chroma)];
  work.code.veilMasked(from, 16, out, pixels, masks);
  for (const start of [pixels, pixels * 1.25]) work.code.veilMasked(from + start, 128, out + start, chroma.length, small);
  return work.take(out, length);
}

/** The tile of grain in a strength, as what it covers with, and of each pixel how much of 256. */
interface Grain {
  readonly strength: number;
  readonly above: Uint8Array;
  readonly parts: Uint16Array;
}

let grain: Grain | null = null;

function grainOf(strength: number): Grain {
  if (grain?.strength === strength) return grain;
  const tile = grainTile();
  const cover = (256 / 255) * GRAIN_COVER * strength;
  grain = {
    strength,
    above: Uint8Array.from(tile, (n) => (n > 0 ? 235 : 16)),
    parts: Uint16Array.from(tile, (n) => Math.round(Math.abs(n) * cover)),
  };
  return grain;
}

/** A picture with grain over it: on brightness alone, as colour is kept at half the size. */
function grained(picture: Uint8Array, { width, height }: Size, strength: number, seed: number): Uint8Array {
  const { above, parts } = grainOf(strength);
  const start = grainStart(seed);
  const work = kernel.begin(2 * width * height + 3 * above.length);
  const out = spares.copyOf(picture);
  const pixels = width * height;
  const [from, to, over, masks] = [work.put(picture.subarray(0, pixels)), work.room(pixels), work.put(above), work.put(parts)];
  for (let y = 0; y < height; y++) {
    const row = ((y + start.y) % GRAIN_TILE) * GRAIN_TILE;
    for (let x = 0; x < width;) {
      const column = (x + start.x) % GRAIN_TILE;
      const length = Math.min(GRAIN_TILE - column, width - x);
      work.code.mixMasked(from + y * width + x, over + row + column, to + y * width + x, length, masks + 2 * (row + column));
      x += length;
    }
  }
  work.takeInto(to, out.subarray(0, pixels));
  return out;
}

/** A picture as a look makes it: its colours, out of focus, its edges, grain; in that order, as the painter does it. */
export function looked(picture: Uint8Array, size: Size, look: LookParts, seed: number, cubeOf: CubeOf): Uint8Array {
  let out = picture;
  if (changesColours(look)) {
    const byTable = look.tables.length > 0 || size.width % 4 !== 0;
    out = isPaler(look) ? paled(out, size, look) : byTable ? recolouredByTable(out, size, look, cubeOf) : recoloured(out, size, look);
  }
  if (look.blur > 0) out = blurredPicture(out, size, look.blur);
  if (look.vignette > 0) out = vignetted(out, size, look.vignette);
  if (look.grain > 0) out = grained(out, size, look.grain, seed);
  return out;
}
