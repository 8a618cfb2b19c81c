// What both compositors have to do alike: how far a blur goes, how dark edges are, and how grain lies.

/** Along each edge a picture that is blurred as far as can be keeps about so many shapes. */
const SHAPES_LEFT = 9;

/**
 * How often a picture is halved (and enlarged again) to blur it; parts lie between two levels.
 * @param blur 0 to 1 @param height of the picture as it is painted, pixels @param scale painted pixels a montage pixel
 */
export function blurLevels(blur: number, height: number, scale: number): number {
  const most = Math.max(1, Math.log2(height / scale / SHAPES_LEFT));
  return Math.max(0, blur * most + Math.log2(scale));
}

/** The size of a picture at a level of blur: half as large each time. */
export const halved = (size: number): number => Math.max(1, Math.ceil(size / 2));

/** How dark the edges are, at places from the middle (0) to the corners (1): [place, part of the greatest darkness], straight between. */
export const VIGNETTE_STOPS: readonly (readonly [number, number])[] = Array.from({ length: 13 }, (_, i) => {
  const place = i / 12;
  const part = Math.max(0, (place - 0.35) / 0.65);
  return [place, part * part * (3 - 2 * part)];
});
/** How much of the corners is black at full strength. */
export const VIGNETTE_COVER = 0.92;

/** How dark it is so far from the middle, 0 to 1. @param place 0 in the middle, 1 in the corners */
export function vignetteAt(place: number): number {
  const at = Math.max(0, Math.min(VIGNETTE_STOPS.length - 1.000001, place * (VIGNETTE_STOPS.length - 1)));
  const low = Math.floor(at);
  const [a, b] = [VIGNETTE_STOPS[low]![1], VIGNETTE_STOPS[low + 1]![1]];
  return a + (b - a) * (at - low);
}

/** A tile of grain is so many pixels wide and high. */
export const GRAIN_TILE = 256;
/** How much of the picture the strongest grain covers. */
export const GRAIN_COVER = 0.4;

let noise: Int16Array | null = null;

/** Grain: a tile of numbers from -255 (black) over 0 (nothing) to 255 (white), always the same. */
export function grainTile(): Int16Array {
  if (noise) return noise;
  noise = new Int16Array(GRAIN_TILE ** 2);
  // A linear congruential generator (Numerical Recipes), so that it is the same everywhere.
  let state = 20_261_128;
  const next = (): number => (state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32;
  for (let i = 0; i < noise.length; i++) noise[i] = Math.round(255 * (next() + next() - 1));
  return noise;
}

/** Where the tile of grain begins in a frame, pixels. */
export const grainStart = (seed: number): { readonly x: number; readonly y: number } => ({
  x: (seed * 97) % GRAIN_TILE,
  y: (seed * 151) % GRAIN_TILE,
});
