/** A colour as video holds it: BT.709, 8 bit in limited range. */
export interface VideoColour {
  readonly luma: number;
  readonly blue: number;
  readonly red: number;
}

/** Brightness by ITU-R BT.709, of red, green and blue from 0 to 255. */
const brightness = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** The luma of a colour of red, green and blue (0 to 255), 16 to 235. */
export const videoLuma = (r: number, g: number, b: number): number => Math.round(16 + (219 * brightness(r, g, b)) / 255);

/** A colour of red, green and blue (0 to 255) as video holds it, by ITU-R BT.709. */
export function videoColour(r: number, g: number, b: number): VideoColour {
  const grey = brightness(r, g, b);
  return {
    luma: videoLuma(r, g, b),
    blue: Math.round(128 + ((b - grey) / 1.8556) * (224 / 255)),
    red: Math.round(128 + ((r - grey) / 1.5748) * (224 / 255)),
  };
}

/** The same of a colour written as #rrggbb. */
export function videoColourOf(colour: string): VideoColour {
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16)) as [number, number, number];
  return videoColour(r, g, b);
}
