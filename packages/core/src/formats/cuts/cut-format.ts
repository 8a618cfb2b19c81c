import type { Montage } from '../../document/montage.ts';
import type { FrameRate } from '../../time/rate.ts';
import type { ReadCut } from './read-cut.ts';

/** What a written montage is told of what is around it. */
export interface CutContext {
  /** what the project is called */
  readonly name: string;
  /** where a file lies, as a path from the document on; by its name alone where nothing is said */
  readonly placeOf?: (file: { readonly assetId: string; readonly name: string }) => string;
}

/** A way to hand a montage's cut to other programs: a format is one file here and one line in `all.ts`. */
export interface CutFormat {
  readonly title: string;
  /** what it is for, in a sentence */
  readonly says: string;
  /** of the file's name, without the point */
  readonly ending: string;
  /** MIME type */
  readonly type: string;
  readonly write: (montage: Montage, context: CutContext) => string;
  /**
   * Reads a cut from such a file; null where it holds none. @param rate of the montage, for files that do not say theirs
   * @throws CutReadError
   */
  readonly read: ((text: string, rate: FrameRate) => ReadCut) | null;
  /** What of this montage it cannot hold, a few words each; none where all of it goes along. */
  readonly loses: (montage: Montage) => readonly string[];
}

/** Defines a format. */
export function cutFormat(format: CutFormat): CutFormat {
  return format;
}
