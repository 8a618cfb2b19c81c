import { MARK_KINDS, MARKS, plainKindOf } from '../../marks/kinds/all.ts';
import { firstLine, marksFormat } from './marks-format.ts';
import { BANDS } from '../../music/accents.ts';
import {
  inTime,
  linesOf,
  MarkingError,
  secondsIn,
  type FileMark,
  type FileSection,
  type Marking,
  type ReadMarking,
} from '../../marks/marking.ts';
import { sectionName } from '../../document/section-name.ts';

/** What stands before a cue's own word, so that a cue called "bar" is none. */
const CUE = 'cue: ';
const SECTION = 'section ';

/**
 * Reads a tab-separated label track: start, end and label in each line. Labels beat, bar, drop, "accent low 0.82" and
 * "section verse" are what they say; any other is a cue.
 * @throws MarkingError naming the line that cannot be read
 */
export function readLabelTrack(text: string): ReadMarking {
  const marks: FileMark[] = [];
  const sections: FileSection[] = [];
  let odd = 0;
  for (const [i, line] of linesOf(text).entries()) {
    // Lines that start with a backslash tell of frequencies, which marks have none of.
    if (line.trim() === '' || line.startsWith('\\')) continue;
    const [start, , label = ''] = line.split('\t');
    const time = secondsIn(start ?? '', `Line ${i + 1}`);
    const [first, second, third] = label.trim().split(/\s+/);
    if (label.startsWith(SECTION)) {
      const name = sectionName(label.slice(SECTION.length));
      if (name) sections.push({ from: time, name });
      else odd++;
      continue;
    }
    const counting = MARK_KINDS.find((kind) => kind === first && MARKS[kind].counts);
    const moment = counting ?? plainKindOf(first);
    if (moment && second === undefined) marks.push({ kind: moment, time });
    else if (counting && Number(second) >= 0 && third === undefined)
      marks.push({ kind: counting, time, confidence: Math.min(1, Number(second)) });
    else if (first === 'accent' && BANDS.some((b) => b === second))
      marks.push({
        kind: 'accent',
        time,
        band: BANDS.find((b) => b === second)!,
        ...(third === undefined ? {} : { strength: Math.min(1, Math.max(0, Number(third) || 0)) }),
      });
    else marks.push({ kind: 'cue', time, label: label.startsWith(CUE) ? label.slice(CUE.length) : label.trim() });
  }
  if (marks.length + sections.length === 0)
    throw new MarkingError('There are no labels in this file. Each line needs a start, an end and a label, with tabs between.');
  return {
    marks: inTime(marks),
    sections,
    notes: odd > 0 ? [`${odd} sections without a name were passed over.`] : [],
  };
}

function labelOf(mark: FileMark): string {
  const { counts, worded, banded } = MARKS[mark.kind];
  if (worded) return `${CUE}${(mark.label ?? '').replace(/[\t\r\n]+/g, ' ')}`;
  if (banded) return `${mark.kind} ${mark.band ?? 'mid'}${mark.strength === undefined ? '' : ` ${mark.strength}`}`;
  return counts && mark.confidence !== undefined ? `${mark.kind} ${mark.confidence}` : mark.kind;
}

/** Writes a label track; sections have their length, marks none. Nothing is lost but beyond the microsecond. */
export function writeLabelTrack({ marks, sections, length }: Marking): string {
  const at = (time: number): string => time.toFixed(6);
  const rows = inTime(marks).map((m) => {
    return `${at(m.time)}\t${at(m.time)}\t${labelOf(m)}\n`;
  });
  const stretches = sections.map(
    (s, i) => `${at(s.from)}\t${at(sections[i + 1]?.from ?? Math.max(length ?? s.from, s.from))}\t${SECTION}${s.name}\n`,
  );
  return [...rows, ...stretches].join('');
}

export const labels = marksFormat({
  title: 'Label track, tab-separated',
  endings: ['labels.txt'],
  sniff: (file) => /^[0-9.]+\t[0-9.]+\t/.test(firstLine(file.text)),
  read: (file) => readLabelTrack(file.text),
  write: writeLabelTrack,
  loses: null,
});
