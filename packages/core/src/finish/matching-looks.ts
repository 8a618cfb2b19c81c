import type { Montage, ShotLook } from '../document/montage.ts';
import { changeShots } from '../shots/shot-commands.ts';

/** What the colours of a picture are like on the whole. */
export interface ColourStats {
  /** mean brightness and how far it spreads (standard deviation), 0 to 1, by BT.709 */
  readonly brightness: number;
  readonly spread: number;
  /** how far red stands above blue, mean of the brightness, -1 to 1 */
  readonly warmth: number;
  /** mean distance from grey, 0 to 1 */
  readonly colour: number;
}

/** The colours of a picture on the whole. @param rgba four bytes a pixel; no pixels are black */
export function colourStats(rgba: ArrayLike<number>): ColourStats {
  let [sum, squares, warm, far] = [0, 0, 0, 0];
  const pixels = rgba.length / 4;
  for (let i = 0; i < rgba.length; i += 4) {
    const [r, g, b] = [rgba[i]! / 255, rgba[i + 1]! / 255, rgba[i + 2]! / 255];
    const grey = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    sum += grey;
    squares += grey * grey;
    warm += r - b;
    far += Math.max(r, g, b) - Math.min(r, g, b);
  }
  if (pixels === 0) return { brightness: 0, spread: 0, warmth: 0, colour: 0 };
  const brightness = sum / pixels;
  return { brightness, spread: Math.sqrt(Math.max(0, squares / pixels - brightness ** 2)), warmth: warm / pixels, colour: far / pixels };
}

const held = (value: number): number => Math.round(100 * Math.max(-1, Math.min(1, value))) / 100;
/** By how much full warmth raises red over blue in a picture of middle brightness; see the change of colours. */
const WARMTH_REACH = 0.46;

/** The looks that bring a picture's colours near to another's: its exposure, contrast, colour and warmth. */
export function looksBetween(from: ColourStats, to: ColourStats): ShotLook[] {
  const stops = Math.log2(Math.max(0.02, to.brightness) / Math.max(0.02, from.brightness));
  // What exposure does to the spread is not asked of contrast again.
  const spread = Math.max(0.02, from.spread * 2 ** stops);
  const contrast = Math.max(0.02, to.spread) / spread;
  const colour = Math.max(0.02, to.colour) / Math.max(0.02, from.colour * 2 ** stops * contrast);
  const warmth = (to.warmth - from.warmth * 2 ** stops) / (WARMTH_REACH * Math.max(0.1, to.brightness));
  const looks: ShotLook[] = [
    { kind: 'exposure', strength: held(stops / 2) },
    { kind: 'contrast', strength: held(contrast < 1 ? (contrast - 1) / 0.8 : contrast - 1) },
    { kind: 'saturation', strength: held(colour - 1) },
    { kind: 'warmth', strength: held(warmth) },
  ];
  return looks.filter(({ strength }) => Math.abs(strength) >= 0.02);
}

/** The montage with the colours of a shot brought near to those wanted; its other looks stay. */
export function matchingLooks(montage: Montage, shotId: string, from: ColourStats, to: ColourStats): Montage {
  const looks = looksBetween(from, to);
  const matched = new Set(['exposure', 'contrast', 'saturation', 'warmth']);
  return changeShots(montage, [shotId], ({ looks: old, ...shot }) => {
    const all = [...(old ?? []).filter((l) => !matched.has(l.kind)), ...looks];
    return all.length > 0 ? { ...shot, looks: all } : shot;
  });
}
