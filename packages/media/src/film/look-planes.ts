import type { ColourCube, LookParts } from '@bluster/core';
import { changesColours, colourChange } from '@bluster/core/picture/colour-change';
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
import type { Size } from './frame-planes.ts';
import { planesOf, resized, type Plane } from './sample-planes.ts';

type CubeOf = (id: string) => ColourCube | null;

const clip = (value: number): number => (value < 0 ? 0 : value > 255 ? 255 : value);

/**
 * A picture with its colours changed: out of video's (BT.709, limited range) into red, green and blue, and back. Each pixel has its own
 * brightness and the colour of its block of four.
 */
function recoloured(picture: Uint8Array, { width, height }: Size, look: LookParts, cubeOf: CubeOf): Uint8Array {
  const change = colourChange(look, cubeOf);
  const out = new Uint8Array(picture.length);
  const pixels = width * height;
  const half = width / 2;
  for (let by = 0; by < height / 2; by++)
    for (let bx = 0; bx < half; bx++) {
      const c = by * half + bx;
      const [cb, cr] = [picture[pixels + c]! - 128, picture[pixels * 1.25 + c]! - 128];
      // ITU-R BT.709, in 16 bits of fraction.
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
    const mixed = new Uint8Array(now.width * now.height);
    for (let i = 0; i < mixed.length; i++) {
      const near = now.data[now.start + i]!;
      mixed[i] = near + (((far.data[far.start + i]! - near) * part + 128) >> 8);
    }
    now = { data: mixed, start: 0, width: now.width, height: now.height };
  }
  for (let n = whole - 1; n >= 0; n--) now = resized(now, steps[n]!.width, steps[n]!.height);
  return now;
}

/** A picture out of focus. @param blur 0 to 1 */
export function blurredPicture(picture: Uint8Array, size: Size, blur: number): Uint8Array {
  const levels = blurLevels(blur, size.height, 1);
  if (levels <= 0.01) return picture;
  const out = new Uint8Array(picture.length);
  for (const [n, plane] of planesOf(picture, size).entries()) {
    // Chroma is half as large already.
    const soft = n === 0 ? blurredPlane(plane, levels) : blurredPlane(plane, Math.max(0, levels - 1));
    out.set(soft.data.subarray(soft.start, soft.start + soft.width * soft.height), plane.start);
  }
  return out;
}

let mask: { readonly key: string; readonly luma: Uint16Array; readonly chroma: Uint16Array } | null = null;

/** What is left of each pixel's light, of 256. */
function maskOf({ width, height }: Size, strength: number): { luma: Uint16Array; chroma: Uint16Array } {
  const key = `${width} ${height} ${strength}`;
  if (mask?.key === key) return mask;
  const of = (w: number, h: number): Uint16Array => {
    const left = new Uint16Array(w * h);
    for (let y = 0; y < h; y++) {
      const dy = ((y + 0.5) / h) * 2 - 1;
      for (let x = 0; x < w; x++) {
        const dx = ((x + 0.5) / w) * 2 - 1;
        left[y * w + x] = Math.round(256 * (1 - VIGNETTE_COVER * strength * vignetteAt(Math.sqrt((dx * dx + dy * dy) / 2))));
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
  const out = new Uint8Array(picture.length);
  const pixels = luma.length;
  for (let i = 0; i < pixels; i++) out[i] = 16 + (((picture[i]! - 16) * luma[i]! + 128) >> 8);
  for (let n = 0; n < 2; n++) {
    const start = pixels * (1 + n / 4);
    for (let i = 0; i < chroma.length; i++) out[start + i] = 128 + (((picture[start + i]! - 128) * chroma[i]! + 128) >> 8);
  }
  return out;
}

/** A picture with grain over it: on brightness alone, as colour is kept at half the size. */
function grained(picture: Uint8Array, { width, height }: Size, strength: number, seed: number): Uint8Array {
  const out = Uint8Array.from(picture);
  const tile = grainTile();
  const start = grainStart(seed);
  const cover = Math.round((65536 / 255) * GRAIN_COVER * strength);
  for (let y = 0; y < height; y++) {
    const row = ((y + start.y) % GRAIN_TILE) * GRAIN_TILE;
    for (let x = 0; x < width; x++) {
      const n = tile[row + ((x + start.x) % GRAIN_TILE)]!;
      const i = y * width + x;
      const was = picture[i]!;
      out[i] = n > 0 ? was + (((235 - was) * n * cover + 32768) >> 16) : was - (((was - 16) * -n * cover + 32768) >> 16);
    }
  }
  return out;
}

/** A picture as a look makes it: its colours, out of focus, its edges, grain; in that order, as the painter does it. */
export function looked(picture: Uint8Array, size: Size, look: LookParts, seed: number, cubeOf: CubeOf): Uint8Array {
  let out = picture;
  if (changesColours(look)) out = recoloured(out, size, look, cubeOf);
  if (look.blur > 0) out = blurredPicture(out, size, look.blur);
  if (look.vignette > 0) out = vignetted(out, size, look.vignette);
  if (look.grain > 0) out = grained(out, size, look.grain, seed);
  return out;
}
