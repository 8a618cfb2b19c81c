import type { Marking, ReadMarking } from '../../marks/marking.ts';

/** A file as it is told which format it has: its bytes, and those as text without a byte order mark. */
export interface MarksFile {
  readonly bytes: Uint8Array;
  readonly text: string;
}

/** A kind of file that holds marks: a format is one file here and one line in `all.ts`. */
export interface MarksFormatDefinition {
  readonly title: string;
  /** how names of such files end, the one that is written first; without the point, in small letters */
  readonly endings: readonly [string, ...string[]];
  /** whether a file is of this format, by what stands in it */
  readonly sniff: (file: MarksFile) => boolean;
  /** @throws MarkingError with a sentence where it cannot be read */
  readonly read: (file: MarksFile) => ReadMarking;
  /** null where such files are only read. @param title of the song */
  readonly write: ((marking: Marking, title: string) => string | Uint8Array) | null;
  /** what a written file cannot hold, in words, and whether that is so of some marks; null where it holds all */
  readonly loses: { readonly what: string; readonly of: (marking: Marking) => boolean } | null;
}

/** Defines a format. */
export function marksFormat(definition: MarksFormatDefinition): MarksFormatDefinition {
  return definition;
}

/** The first line in which something stands that is no comment. */
export function firstLine(text: string): string {
  return text.split(/\r?\n/).find((line) => line.trim() !== '' && !line.startsWith('#')) ?? '';
}

/** Parsed JSON where a text is an object; null where it is none, or damaged. */
export function jsonObject(text: string): object | null {
  if (!text.trimStart().startsWith('{')) return null;
  try {
    return JSON.parse(text) as object;
  } catch {
    return null;
  }
}
