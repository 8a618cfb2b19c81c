import type { Marking, ReadMarking } from '../../marks/marking.ts';
import { captions } from './captions.ts';
import { csv } from './csv.ts';
import { jams } from './jams.ts';
import { json } from './json.ts';
import { labels } from './label-track.ts';
import { lrc } from './lrc.ts';
import type { MarksFile, MarksFormatDefinition } from './marks-format.ts';
import { midi } from './midi.ts';
import { text } from './text.ts';

/** Every format of marks, in the order in which they are offered. */
export const MARKS_FORMATS = { text, labels, csv, jams, midi, lrc, json, captions };

export type MarksFormat = keyof typeof MARKS_FORMATS;
/** The formats that can be written. */
export const WRITTEN_FORMATS = (Object.keys(MARKS_FORMATS) as MarksFormat[]).filter((format) => MARKS_FORMATS[format].write);

/**
 * Writes marks in a format that can be written. @param title of the song
 * @returns text, or bytes for formats that are no text
 * @throws Error for a format that is read only: MARKS_FORMATS says which are written
 */
export function writeMarks(format: MarksFormat, marking: Marking, title = ''): string | Uint8Array {
  const { write } = MARKS_FORMATS[format];
  if (!write) throw new Error(`marks are not written as ${format}`);
  return write(marking, title);
}

/** One sentence on what a format will not hold of these marks; empty where it holds them all. */
export function lostIn(format: MarksFormat, marking: Marking): string {
  const { title, loses } = MARKS_FORMATS[format];
  return loses?.of(marking) ? `${title} cannot hold ${loses.what}; the rest is written.` : '';
}

/**
 * Reads marks from a file of any of the formats, told by what stands in it, else by its name; plain text is what is left.
 * @throws MarkingError with a sentence where it cannot be read
 * @example
 * readMarks('song.beats.txt', new TextEncoder().encode('0.5\n1.0\n')).marks // two beats
 */
export function readMarks(name: string, bytes: Uint8Array): ReadMarking {
  const file: MarksFile = { bytes, text: decode(bytes) };
  const formats: MarksFormatDefinition[] = Object.values(MARKS_FORMATS);
  const lower = name.toLowerCase();
  const told =
    formats.find((format) => format.sniff(file)) ?? formats.find(({ endings }) => endings.some((ending) => lower.endsWith(`.${ending}`)));
  return (told ?? text).read(file);
}

/** UTF-8, or UTF-16 where a byte order mark says so. */
function decode(bytes: Uint8Array): string {
  const { TextDecoder } = globalThis as unknown as { TextDecoder: new (label: string) => { decode(bytes: Uint8Array): string } };
  const utf16 = bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : null;
  return new TextDecoder(utf16 ?? 'utf-8').decode(bytes).replace(/^\uFEFF/, '');
}
