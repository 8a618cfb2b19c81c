/** A table of colours by red, green and blue, as in a .cube file: red runs fastest, then green, then blue. */
export interface ColourCube {
  /** colours along each edge */
  readonly size: number;
  /** three numbers a colour, 0 to 255 */
  readonly colours: Uint8Array;
}

/** What is done to a picture. Numbers that change nothing: 0, but 1 for contrast and saturation. */
export interface LookParts {
  /** stops: brightness doubles with each */
  readonly exposure: number;
  readonly contrast: number;
  /** 0 is black and white */
  readonly saturation: number;
  /** -1 is cold, 1 is warm */
  readonly warmth: number;
  /** how much black is lifted, 0 to 1 */
  readonly lift: number;
  /** how dark the edges are, 0 to 1 */
  readonly vignette: number;
  /** how far it is blurred, 0 to 1: at 1 hardly a shape is left */
  readonly blur: number;
  /** 0 to 1 */
  readonly grain: number;
  /** tables of colours by their ids, each with how much of it is seen; one after the other */
  readonly tables: readonly { readonly id: string; readonly part: number }[];
}

export const PLAIN_LOOK: LookParts = {
  exposure: 0,
  contrast: 1,
  saturation: 1,
  warmth: 0,
  lift: 0,
  vignette: 0,
  blur: 0,
  grain: 0,
  tables: [],
};

/** Two looks at once: of what covers, the one covers what the other has left. */
export function together(a: LookParts, b: Partial<LookParts>): LookParts {
  const over = (x: number, y: number | undefined): number => 1 - (1 - x) * (1 - (y ?? 0));
  return {
    exposure: a.exposure + (b.exposure ?? 0),
    contrast: a.contrast * (b.contrast ?? 1),
    saturation: a.saturation * (b.saturation ?? 1),
    warmth: Math.max(-1, Math.min(1, a.warmth + (b.warmth ?? 0))),
    lift: over(a.lift, b.lift),
    vignette: over(a.vignette, b.vignette),
    blur: Math.min(1, Math.hypot(a.blur, b.blur ?? 0)),
    grain: Math.min(1, Math.hypot(a.grain, b.grain ?? 0)),
    tables: b.tables && b.tables.length > 0 ? [...a.tables, ...b.tables] : a.tables,
  };
}

/** Whether a look changes anything that can be seen. */
export function isPlainLook(look: LookParts): boolean {
  return (
    Math.abs(look.exposure) < 1e-3 &&
    Math.abs(look.contrast - 1) < 1e-3 &&
    Math.abs(look.saturation - 1) < 1e-3 &&
    Math.abs(look.warmth) < 1e-3 &&
    look.lift < 1e-3 &&
    look.vignette < 1e-3 &&
    look.blur < 1e-3 &&
    look.grain < 1e-3 &&
    look.tables.every(({ part }) => part < 1e-3)
  );
}
