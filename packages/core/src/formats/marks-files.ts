import { readBeatText, writeBeatText, BeatTextError } from './beat-text.ts';
import { readJams, writeJams } from './jams.ts';
import { readLabelTrack, writeLabelTrack } from './label-track.ts';
import { inTime, MarkingError, type FileMark, type Marking, type ReadMarking } from '../marks/marking.ts';
import { readMarksCsv, writeMarksCsv } from './marks-csv.ts';
import { readMarksJson, writeMarksJson } from './marks-json.ts';
import { readMarksMidi, writeMarksMidi } from './marks-midi.ts';
import { readCaptions, readLrc, writeLrc } from './timed-words.ts';

export type MarksFormat = 'text' | 'labels' | 'csv' | 'jams' | 'midi' | 'lrc' | 'json';

/** The ways to write marks: what each is called, its file ending, and what it cannot hold. */
export const MARKS_FORMATS: { readonly [F in MarksFormat]: { readonly title: string; readonly ending: string; readonly loses: string } } = {
  text: { title: 'Plain text, one time a line', ending: 'txt', loses: 'kinds of marks, labels and sections' },
  labels: { title: 'Label track, tab-separated', ending: 'labels.txt', loses: '' },
  csv: { title: 'Comma-separated values', ending: 'csv', loses: '' },
  jams: { title: 'JAMS', ending: 'jams', loses: '' },
  midi: { title: 'Standard MIDI file', ending: 'mid', loses: 'confidences of beats' },
  lrc: { title: 'Timed lyrics (LRC)', ending: 'lrc', loses: 'everything but cues' },
  json: { title: 'JSON', ending: 'json', loses: '' },
};

/** Writes marks in a format. */
export function writeMarks(format: MarksFormat, marking: Marking, title = ''): string | Uint8Array {
  switch (format) {
    case 'text':
      return writeBeatText(inTime(marking.marks).map((m) => m.time));
    case 'labels':
      return writeLabelTrack(marking);
    case 'csv':
      return writeMarksCsv(marking);
    case 'jams':
      return writeJams(marking, title);
    case 'midi':
      return writeMarksMidi(marking);
    case 'lrc':
      return writeLrc(marking);
    case 'json':
      return writeMarksJson(marking);
  }
}

/** One sentence on what a format will not hold of these marks; empty where it holds them all. */
export function lostIn(format: MarksFormat, marking: Marking): string {
  const has = (test: (m: FileMark) => boolean): boolean => marking.marks.some(test);
  const lost = {
    text: has((m) => m.kind !== 'beat') || marking.sections.length > 0,
    labels: false,
    csv: false,
    jams: false,
    midi: has((m) => m.confidence !== undefined),
    lrc: has((m) => m.kind !== 'cue') || marking.sections.length > 0,
    json: false,
  }[format];
  return lost ? `${MARKS_FORMATS[format].title} cannot hold ${MARKS_FORMATS[format].loses}; the rest is written.` : '';
}

/**
 * Reads marks from a file of any of the formats, told by its name and its content.
 * @throws MarkingError with a sentence where it cannot be read
 */
export function readMarks(name: string, bytes: Uint8Array): ReadMarking {
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase() ?? '';
  if (ending === 'mid' || ending === 'midi' || startsWith(bytes, 'MThd')) return readMarksMidi(bytes);
  const text = decode(bytes);
  if (ending === 'srt' || ending === 'vtt' || text.startsWith('WEBVTT')) return readCaptions(text);
  if (ending === 'lrc') return readLrc(text);
  if (ending === 'csv') return readMarksCsv(text);
  if (ending === 'jams') return readJams(text);
  if (ending === 'json' || text.trimStart().startsWith('{')) return readJson(text);
  const firstLine = text.split(/\r?\n/).find((line) => line.trim() !== '' && !line.startsWith('#')) ?? '';
  if (/^[0-9.]+\t[0-9.]+\t/.test(firstLine)) return readLabelTrack(text);
  if (/^\[\d+:\d/.test(firstLine)) return readLrc(text);
  try {
    return { marks: readBeatText(text).map((time) => ({ kind: 'beat', time })), sections: [], notes: [] };
  } catch (error) {
    if (error instanceof BeatTextError) throw new MarkingError(error.message);
    throw error;
  }
}

function readJson(text: string): ReadMarking {
  let file: unknown;
  try {
    file = JSON.parse(text);
  } catch (error) {
    throw new MarkingError(`This JSON file is damaged: ${(error as Error).message}.`);
  }
  if (typeof file !== 'object' || file === null) throw new MarkingError('This JSON file holds no marks.');
  return 'annotations' in file ? readJams(text) : readMarksJson(file);
}

function startsWith(bytes: Uint8Array, text: string): boolean {
  return [...text].every((c, i) => bytes[i] === c.charCodeAt(0));
}

/** UTF-8, or UTF-16 where a byte order mark says so. */
function decode(bytes: Uint8Array): string {
  const { TextDecoder } = globalThis as unknown as { TextDecoder: new (label: string) => { decode(bytes: Uint8Array): string } };
  const utf16 = bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : null;
  return new TextDecoder(utf16 ?? 'utf-8').decode(bytes).replace(/^\uFEFF/, '');
}
