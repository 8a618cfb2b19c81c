import { jsonObject, marksFormat } from './marks-format.ts';
import { inTime, MarkingError, type Marking, type ReadMarking } from '../../marks/marking.ts';
import { COLUMNS, marksOfRows, type Row } from './csv.ts';

/** A list that a file may hold, as objects; anything else in its place is an error. */
function listOf(file: object, name: string): readonly Readonly<Record<string, unknown>>[] {
  const list = (file as Record<string, unknown>)[name] ?? [];
  if (!Array.isArray(list)) throw new MarkingError(`"${name}" in this JSON file is not a list.`);
  return list.map((entry: unknown) => (typeof entry === 'object' && entry !== null ? (entry as Record<string, unknown>) : { time: entry }));
}

/**
 * Reads marks from parsed JSON: a list "marks", or what `bluster beats --format json` prints.
 * @throws MarkingError where there are none, naming what is wrong
 */
export function readMarksJson(file: object): ReadMarking {
  const found = [
    ...listOf(file, 'marks'),
    ...listOf(file, 'beats').map((b) => ({ ...b, kind: b.downbeat === true ? 'bar' : 'beat' })),
    ...listOf(file, 'drops').map((d) => ({ ...d, kind: 'drop' })),
    ...listOf(file, 'accents').map((a) => ({ ...a, kind: 'accent' })),
    ...listOf(file, 'sections').map((s) => ({ time: s.from, kind: 'section', label: s.name })),
  ];
  if (found.length === 0) throw new MarkingError('This JSON file holds no marks. It needs "marks": [{"kind": "beat", "time": 1.5}, ...].');
  const text = (value: unknown): string | undefined =>
    typeof value === 'string' ? value : typeof value === 'number' ? String(value) : undefined;
  const rows = found.map((entry): Row => Object.fromEntries(COLUMNS.map((c) => [c, text((entry as Record<string, unknown>)[c])])));
  return marksOfRows(rows, (i) => `Mark ${i + 1}`);
}

/** Writes all marks and sections as JSON. Nothing is lost. */
export function writeMarksJson({ marks, sections, length }: Marking): string {
  return `${JSON.stringify({ ...(length === undefined ? {} : { length }), marks: inTime(marks), sections }, null, 1)}\n`;
}

export const json = marksFormat({
  title: 'JSON',
  endings: ['json'],
  sniff: (file) => {
    const object = jsonObject(file.text) ?? {};
    return 'marks' in object || 'beats' in object;
  },
  read: ({ text }) => {
    let file: unknown;
    try {
      file = JSON.parse(text);
    } catch (error) {
      throw new MarkingError(`This JSON file is damaged: ${(error as Error).message}.`);
    }
    if (typeof file !== 'object' || file === null) throw new MarkingError('This JSON file holds no marks.');
    return readMarksJson(file);
  },
  write: writeMarksJson,
  loses: null,
});
