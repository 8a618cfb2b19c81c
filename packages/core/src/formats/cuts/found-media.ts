import { clipLength } from '../../document/footage-item.ts';
import type { FootageItem } from '../../document/montage.ts';
import type { RunStretch } from '../../shots/lay-run.ts';
import type { ReadCut, ReadPiece } from './read-cut.ts';

/** A clip that a cut names and that is not in the footage. */
export interface MissingMedia {
  readonly name: string;
  /** in how many pieces it is seen */
  readonly pieces: number;
}

/** A cut with the footage that it shows. */
export interface FoundCut {
  readonly run: readonly RunStretch[];
  /** in the order in which they are seen first; they stay black until they are pointed at */
  readonly missing: readonly MissingMedia[];
}

/** Lengths of one file that differ by less are the same, seconds. */
const SAME_LENGTH_S = 0.5;
const HOUR_S = 3600;

const bare = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[.][a-z0-9]{2,5}$/, '')
    .trim();
/** Reels of old lists are eight letters and figures. */
const reel = (name: string): string =>
  bare(name)
    .replace(/[^a-z0-9]/g, '')
    .slice(0, 8);

/** The footage that a piece shows: by its name, else without its ending, else by its reel; of several the one of its length. */
function itemFor(piece: ReadPiece, footage: readonly FootageItem[]): FootageItem | undefined {
  const name = piece.name!;
  const alike = [
    footage.filter((item) => item.name === name),
    footage.filter((item) => bare(item.name) === bare(name)),
    footage.filter((item) => name.length <= 8 && reel(item.name) === reel(name)),
  ].find((found) => found.length > 0);
  if (!alike) return undefined;
  const fits = alike.find((item) => piece.mediaLength !== null && Math.abs(clipLength(item) - piece.mediaLength) < SAME_LENGTH_S);
  return fits ?? alike[0];
}

/**
 * Finds the footage of a cut that was read.
 * @param pointed what stands for which missing name, asset ids by name
 */
export function findMedia(cut: ReadCut, footage: readonly FootageItem[], pointed: Readonly<Record<string, string>> = {}): FoundCut {
  const missing = new Map<string, number>();
  const run = cut.pieces.map((piece): RunStretch => {
    const { name, length, speed } = piece;
    const item = name === null ? undefined : (footage.find((f) => f.assetId === pointed[name]) ?? itemFor(piece, footage));
    if (name !== null && !item) missing.set(name, (missing.get(name) ?? 0) + 1);
    if (!item) return { assetId: null, in: 0, out: length };
    if (item.kind === 'photo') return { assetId: item.assetId, in: 0, out: length };
    // Lists may count a clip's time from an hour of its own.
    const whole = clipLength(item);
    const from = piece.from < whole ? piece.from : piece.from % HOUR_S < whole ? piece.from % HOUR_S : 0;
    const plain = Math.abs(speed - 1) < 1e-6;
    return { assetId: item.assetId, in: from, out: from + length * (plain ? 1 : speed), length, ...(plain ? {} : { speed }) };
  });
  return { run, missing: [...missing].map(([name, pieces]) => ({ name, pieces })) };
}
