import type { SoundColumns } from './sound-columns.ts';

/** So many columns of a sound are drawn at once. */
export const STRIP_COLUMNS = 512;
/** As many strips are kept: what a wide screen shows, twice. */
const MOST = 24;

/** A stretch of a sound as a picture, one pixel a column. */
interface SoundStrip {
  readonly picture: OffscreenCanvas;
  /** the first of its columns */
  readonly column: number;
}

/** The strips of a sound in one look, by their first columns; they go when the sound does. */
interface Drawn {
  readonly height: number;
  readonly colour: string;
  readonly strips: Map<number, SoundStrip>;
}
const drawn = new WeakMap<SoundColumns, Drawn>();

/** The strip in which a column of a sound lies; drawn when it is first asked for. @param height pixels of the screen */
export function soundStrip(columns: SoundColumns, column: number, height: number, colour: string): SoundStrip {
  let look = drawn.get(columns);
  if (look?.height !== height || look.colour !== colour) drawn.set(columns, (look = { height, colour, strips: new Map() }));
  const { strips } = look;
  const first = column - (column % STRIP_COLUMNS);
  const known = strips.get(first);
  if (known) return known;
  const picture = new OffscreenCanvas(STRIP_COLUMNS, Math.max(1, Math.round(height)));
  const c = picture.getContext('2d')!;
  const [middle, tall] = [height * 0.53, height * 0.3];
  c.fillStyle = colour;
  for (let n = first; n < Math.min(columns.count, first + STRIP_COLUMNS); n++) {
    const [top, bottom] = [middle - columns.high(n) * tall - 0.4, middle - columns.low(n) * tall + 0.4];
    c.fillRect(n - first, top, 1, bottom - top);
  }
  const strip = { picture, column: first };
  strips.set(first, strip);
  if (strips.size > MOST) strips.delete(strips.keys().next().value!);
  return strip;
}
