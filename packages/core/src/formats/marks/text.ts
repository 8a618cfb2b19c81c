import { marksFormat } from './marks-format.ts';
import { inTime, MarkingError } from '../../marks/marking.ts';
/**
 * Reads times in seconds, one a line. Empty lines and lines that start with # do not count; further columns after a
 * tab, comma or space are left alone.
 * @throws MarkingError naming the line that holds no time.
 */
export function readBeatText(text: string): number[] {
  const times: number[] = [];
  for (const [i, line] of text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .entries()) {
    const trimmed = line.trim();
    if (trimmed === '' || trimmed.startsWith('#')) continue;
    const first = trimmed.split(/[\s,;]+/)[0]!;
    const time = Number(first);
    if (!/^[0-9.eE+-]+$/.test(first) || !Number.isFinite(time) || time < 0)
      throw new MarkingError(`Line ${i + 1} is not a time in seconds: "${trimmed.slice(0, 40)}". Write one time a line, such as 12.480.`);
    times.push(time);
  }
  if (times.length === 0) throw new MarkingError('There are no times in this file. Write one time in seconds a line.');
  return times.sort((a, b) => a - b);
}

/**
 * Times in seconds, one a line, to the microsecond.
 * @returns an empty text for no times
 */
export function writeBeatText(times: readonly number[]): string {
  return times.map((t) => `${t.toFixed(6)}\n`).join('');
}

export const text = marksFormat({
  title: 'Plain text, one time a line',
  endings: ['txt'],
  // Anything may be plain text; it is what is left.
  sniff: () => false,
  read: (file) => ({ marks: readBeatText(file.text).map((time) => ({ kind: 'beat', time })), sections: [], notes: [] }),
  write: ({ marks }) => writeBeatText(inTime(marks).map((m) => m.time)),
  loses: {
    what: 'kinds of marks, labels and sections',
    of: ({ marks, sections }) => marks.some((m) => m.kind !== 'beat') || sections.length > 0,
  },
});
