import { Refusal } from '../../refusal/refusal.ts';

/** A file that holds no cut which can be read; the message says why and what to do. */
export class CutReadError extends Refusal {}

/** A stretch of a cut that was read. All in seconds. */
export interface ReadPiece {
  /** what the clip's file is called; null for black */
  readonly name: string | null;
  readonly length: number;
  /** the moment of the clip that is seen first, from its file's start */
  readonly from: number;
  /** clip seconds a second; 0 stands, negative backwards */
  readonly speed: number;
  /** how long the clip's file is, where the cut says so */
  readonly mediaLength: number | null;
}

/** A cut as a file has it: one line of pieces, one after the other. */
export interface ReadCut {
  readonly pieces: readonly ReadPiece[];
  /** what was in the file and is left out, a few words each */
  readonly notes: readonly string[];
}

/** As many pieces as a montage may have shots. */
export const MOST_PIECES = 20_000;

/** @throws CutReadError where nothing is left or too much */
export function readCutOf(pieces: readonly ReadPiece[], notes: readonly string[]): ReadCut {
  if (!pieces.some((piece) => piece.name !== null)) throw new CutReadError('There is no clip in this cut. Save it anew with its picture.');
  if (pieces.length > MOST_PIECES) throw new CutReadError(`This cut has ${pieces.length} pieces, and ${MOST_PIECES} are the most.`);
  return { pieces, notes: [...new Set(notes)] };
}
