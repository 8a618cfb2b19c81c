import type { ColourCube, LookParts } from '../finish/looks/look-parts.ts';

/** How a colour changes: red, green and blue in one number (0xrrggbb) become another such number. */
export type ColourChange = (colour: number) => number;

/** How much red is raised and blue lowered by the greatest warmth, as factors; green stays about where it is. */
const WARMTH = [0.18, 0.02, -0.28] as const;
/** The grey that black is lifted to. */
const LIFTED = [82, 84, 92] as const;
/** The same, #rrggbb. */
export const LIFTED_COLOUR = `#${LIFTED.map((level) => level.toString(16)).join('')}`;
/** Brightness by ITU-R BT.709, of 32768. */
const [RED, GREEN, BLUE] = [6966, 23436, 2366];

const byte = (value: number): number => (value < 0 ? 0 : value > 255 ? 255 : value);

/** Whether a look does anything to colours alone. */
export function changesColours(look: LookParts): boolean {
  return (
    look.exposure !== 0 || look.contrast !== 1 || look.saturation !== 1 || look.warmth !== 0 || look.lift !== 0 || look.tables.length > 0
  );
}

/** What becomes of each level from 0 to 255. */
const levels = (of: (level: number) => number): Uint8Array => Uint8Array.from({ length: 256 }, (_, i) => Math.round(byte(of(i))));

/** The numbers of a change of colours, tables apart: levels are multiplied and held, in this order. */
export interface ColourSteps {
  readonly gain: number;
  readonly contrast: number;
  readonly saturation: number;
  /** of red, green and blue */
  readonly warm: readonly [number, number, number];
  /** how much of the picture is kept when black is lifted, and what is added: levels of red, green and blue */
  readonly kept: number;
  readonly lift: readonly [number, number, number];
}

export function colourSteps({ exposure, contrast, saturation, warmth, lift }: LookParts): ColourSteps {
  return {
    gain: 2 ** exposure,
    contrast,
    saturation,
    warm: WARMTH.map((by) => 1 + by * warmth) as unknown as ColourSteps['warm'],
    kept: 1 - lift,
    lift: LIFTED.map((to) => to * lift) as unknown as ColourSteps['lift'],
  };
}

/** A colour from a cube, between the four of its neighbours that lie around it (tetrahedral). */
function cubed({ size, colours }: ColourCube, part: number): ColourChange {
  const last = size - 1;
  // Place in the cube of each level, and how far it lies towards the next, of 256.
  const low = Uint8Array.from({ length: 256 }, (_, i) => Math.min(last - 1, Math.floor((i * last) / 255)));
  const far = Int32Array.from({ length: 256 }, (_, i) => Math.round(256 * ((i * last) / 255 - low[i]!)));
  const [right, up, deep] = [3, 3 * size, 3 * size * size];
  const share = Math.round(256 * part);
  return (colour) => {
    const [r, g, b] = [colour >> 16, (colour >> 8) & 255, colour & 255];
    const [fr, fg, fb] = [far[r]!, far[g]!, far[b]!];
    const origin = 3 * ((low[b]! * size + low[g]!) * size + low[r]!);
    // The way from the near corner to the far one goes along the axes in the order of how far the colour lies along each.
    let [first, second] = [right, up];
    let [a, m, z] = [fr, fg, fb];
    if (fr >= fg) {
      if (fg < fb) {
        if (fr >= fb) [second, a, m, z] = [deep, fr, fb, fg];
        else [first, second, a, m, z] = [deep, right, fb, fr, fg];
      }
    } else if (fb >= fg) [first, second, a, m, z] = [deep, up, fb, fg, fr];
    else if (fb >= fr) [first, second, a, m, z] = [up, deep, fg, fb, fr];
    else [first, second, a, m, z] = [up, right, fg, fr, fb];
    const [i1, i2, i3] = [origin + first, origin + first + second, origin + right + up + deep];
    let out = 0;
    for (let c = 0; c < 3; c++) {
      const found =
        (colours[origin + c]! * (256 - a) + colours[i1 + c]! * (a - m) + colours[i2 + c]! * (m - z) + colours[i3 + c]! * z + 128) >> 8;
      const was = (colour >> (16 - 8 * c)) & 255;
      out = (out << 8) | (was + (((found - was) * share + 128) >> 8));
    }
    return out;
  };
}

/** What a look without tables of colours does, as tables of levels. */
export interface ColourTables {
  /** what becomes of each level of red, green and blue at first */
  readonly before: Uint8Array;
  /** how colourful it then becomes about its brightness, of 256 */
  readonly saturation: number;
  /** what becomes of the levels of red, of green and of blue after that */
  readonly after: readonly [Uint8Array, Uint8Array, Uint8Array];
}

interface Levels extends Omit<ColourTables, 'after'> {
  readonly warm: readonly Uint8Array[];
  readonly lifted: readonly Uint8Array[];
}

function levelsOf(look: LookParts): Levels {
  const { gain, contrast, warm, kept, lift } = colourSteps(look);
  return {
    before: levels((level) => (byte(level * gain) - 127.5) * contrast + 127.5),
    saturation: Math.round(look.saturation * 256),
    warm: warm.map((by) => levels((level) => level * by)),
    lifted: lift.map((add) => levels((level) => level * kept + add)),
  };
}

/** The same as colourChange, for those who change many pixels at once; null where a table of colours is in the look. */
export function colourTables(look: LookParts): ColourTables | null {
  if (look.tables.some(({ part }) => part > 0)) return null;
  const { before, saturation, warm, lifted } = levelsOf(look);
  const after = warm.map((table, n) => table.map((level) => lifted[n]![level]!));
  return { before, saturation, after: after as unknown as ColourTables['after'] };
}

/**
 * What a look does to colours, each held to what can be shown: exposure in stops, contrast about middle grey, saturation by BT.709
 * brightness, warmth, tables of colours, lifted black; in that order.
 * @param cubeOf a table of colours by its id; one that is not there changes nothing
 */
export function colourChange(look: LookParts, cubeOf: (id: string) => ColourCube | null): ColourChange {
  const { before, saturation, warm, lifted } = levelsOf(look);
  const [red, green, blue] = warm as [Uint8Array, Uint8Array, Uint8Array];
  const [black, mid, light] = lifted as [Uint8Array, Uint8Array, Uint8Array];
  const cubes = look.tables.flatMap(({ id, part }) => {
    const cube = cubeOf(id);
    return cube && part > 0 ? [cubed(cube, part)] : [];
  });
  return (colour) => {
    let [r, g, b] = [before[colour >> 16]!, before[(colour >> 8) & 255]!, before[colour & 255]!];
    if (saturation !== 256) {
      const grey = (RED * r + GREEN * g + BLUE * b + 16384) >> 15;
      r = byte(grey + (((r - grey) * saturation + 128) >> 8));
      g = byte(grey + (((g - grey) * saturation + 128) >> 8));
      b = byte(grey + (((b - grey) * saturation + 128) >> 8));
    }
    if (cubes.length === 0) return (black[red[r]!]! << 16) | (mid[green[g]!]! << 8) | light[blue[b]!]!;
    let now = (red[r]! << 16) | (green[g]! << 8) | blue[b]!;
    for (const cube of cubes) now = cube(now);
    return (black[now >> 16]! << 16) | (mid[(now >> 8) & 255]! << 8) | light[now & 255]!;
  };
}
