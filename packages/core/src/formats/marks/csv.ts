import { marksFormat } from './marks-format.ts';
import { BANDS } from '../../music/accents.ts';
import { MARK_KINDS } from '../../marks/kinds/all.ts';
import Papa from 'papaparse';
import { inTime, MarkingError, secondsIn, type FileMark, type FileSection, type Marking, type ReadMarking } from '../../marks/marking.ts';
import { sectionName } from '../../document/section-name.ts';

export const COLUMNS = ['time', 'kind', 'label', 'band', 'strength', 'confidence'] as const;
/** What a table of marks holds in a row. */
export type Row = Readonly<Partial<Record<(typeof COLUMNS)[number], string>>>;

/**
 * Marks and sections from rows of text.
 * @param where says which row one is, for messages
 * @throws MarkingError naming the row that cannot be read
 */
export function marksOfRows(rows: readonly Row[], where: (i: number) => string): ReadMarking {
  const marks: FileMark[] = [];
  const sections: FileSection[] = [];
  for (const [i, row] of rows.entries()) {
    const time = secondsIn(row.time ?? '', where(i));
    const kind = (row.kind ?? 'beat').trim();
    if (kind === 'section') {
      const name = sectionName(row.label);
      if (!name) throw new MarkingError(`${where(i)} is a section without a name. Give it one, such as "A" or "chorus".`);
      sections.push({ from: time, name });
      continue;
    }
    const known = MARK_KINDS.find((k) => k === kind);
    if (!known)
      throw new MarkingError(
        `${where(i)} is of a kind that is not known: "${kind.slice(0, 30)}". Kinds are ${MARK_KINDS.join(', ')} and section.`,
      );
    const part = (value: string | undefined): number | undefined =>
      value === undefined || value === '' ? undefined : Math.min(1, Math.max(0, Number(value) || 0));
    const band = BANDS.find((b) => b === row.band);
    const strength = part(row.strength);
    const confidence = part(row.confidence);
    marks.push({
      kind: known,
      time,
      ...(known === 'cue' ? { label: row.label ?? '' } : {}),
      ...(band ? { band } : {}),
      ...(strength === undefined ? {} : { strength }),
      ...(confidence === undefined ? {} : { confidence }),
    });
  }
  return { marks: inTime(marks), sections, notes: [] };
}

/**
 * Reads comma-separated values (RFC 4180) with a heading. Only the column "time" (seconds) is needed; without "kind",
 * times are beats.
 * @throws MarkingError naming the row that cannot be read
 */
export function readMarksCsv(text: string): ReadMarking {
  const { data, meta } = Papa.parse<Row>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (h) => h.trim().toLowerCase(),
  });
  if (!meta.fields?.includes('time'))
    throw new MarkingError(
      `The first line of a CSV file of marks names its columns, and one of them must be "time". Columns that are read: ${COLUMNS.join(', ')}.`,
    );
  const read = marksOfRows(data, (i) => `Row ${i + 2}`);
  if (read.marks.length + read.sections.length === 0) throw new MarkingError('There are no marks in this file below its heading.');
  return read;
}

/** Writes all marks and sections as comma-separated values. Nothing is lost but beyond the microsecond. */
export function writeMarksCsv({ marks, sections }: Marking): string {
  const rows = [
    ...inTime(marks).map((m) => ({ ...m, time: m.time.toFixed(6) })),
    ...sections.map((s) => ({ time: s.from.toFixed(6), kind: 'section', label: s.name })),
  ];
  return `${Papa.unparse(rows, { columns: [...COLUMNS], newline: '\n' })}\n`;
}

export const csv = marksFormat({
  title: 'Comma-separated values',
  endings: ['csv'],
  sniff: () => false,
  read: (file) => readMarksCsv(file.text),
  write: writeMarksCsv,
  loses: null,
});
