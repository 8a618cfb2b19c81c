import type { TitleItem } from './titles.ts';

/** Letters as large as titles can be read where they are so many times as light as what lies behind, or the other way round (WCAG 2.2, 1.4.3). */
const LEAST_CONTRAST = 3;
/** A soft shadow darkens what lies around the letters by so much. */
const SHADOWED = 0.4;
/** Of light letters; dark ones have a light shadow. */
const DARK = 0.3;
/** About how wide a letter is, in sizes. */
const LETTER = 0.55;

/** Red, green and blue, 0 to 255. */
type Colour = readonly [number, number, number];

/** How light a colour is, 0 to 1 (relative luminance of WCAG 2.2). */
export function lightness([r, g, b]: Colour): number {
  const linear = (value: number): number => {
    const part = value / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b);
}

/** How far two lightnesses are apart (contrast ratio of WCAG 2.2): 1 for the same, 21 for black and white. */
export const contrast = (a: number, b: number): number => (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);

const colourOf = (hex: string): Colour => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)) as unknown as Colour;

const over = (below: Colour, above: Colour, part: number): Colour =>
  below.map((value, i) => value + (above[i]! - value) * part) as unknown as Colour;

/** What lies behind a title: pixels of the picture without it, red, green, blue and opacity. */
export interface Behind {
  readonly width: number;
  readonly height: number;
  readonly data: ArrayLike<number>;
}

/**
 * How much of what lies behind a title is too much like its letters for them to be read there: 0 to 1.
 * An outline that stands out from the letters always lets them be read; a plate lies over the picture, a shadow darkens it.
 * @param size of the montage's picture, pixels
 */
export function hardToRead(
  { x, y, size, step, widest, lines, colour, plate, outline, shadow }: TitleItem,
  { width, height, data }: Behind,
  shape: { readonly width: number; readonly height: number },
): number {
  const letters = lightness(colourOf(colour));
  if (outline && contrast(letters, lightness(colourOf(outline.colour))) >= LEAST_CONTRAST) return 0;
  const longest = Math.max(...lines.map((line) => line.reduce((sum, piece) => sum + piece.text.length, 0)));
  const [wide, tall] = [Math.min(widest, longest * LETTER * size), (1 + (lines.length - 1) * step) * size];
  const across = (value: number): number => Math.max(0, Math.min(width, Math.round((value / shape.width) * width)));
  const down = (value: number): number => Math.max(0, Math.min(height, Math.round((value / shape.height) * height)));
  const [left, right] = [across(x - wide / 2), Math.max(across(x - wide / 2) + 1, across(x + wide / 2))];
  const [top, foot] = [down(y - tall / 2), Math.max(down(y - tall / 2) + 1, down(y + tall / 2))];
  let [hard, all] = [0, 0];
  for (let row = top; row < Math.min(foot, height); row++)
    for (let column = left; column < Math.min(right, width); column++) {
      const at = 4 * (row * width + column);
      let ground: Colour = [data[at]!, data[at + 1]!, data[at + 2]!];
      if (plate) ground = over(ground, colourOf(plate.colour), plate.opacity);
      if (shadow) ground = over(ground, letters < DARK ? [255, 255, 255] : [0, 0, 0], SHADOWED);
      all++;
      if (contrast(letters, lightness(ground)) < LEAST_CONTRAST) hard++;
    }
  return all === 0 ? 0 : hard / all;
}
