import { firstLine, marksFormat } from './marks-format.ts';
import { inTime, linesOf, MarkingError, type FileMark, type Marking, type ReadMarking } from '../../marks/marking.ts';

/** [mm:ss.xx], with minutes of any number of digits. */
const LRC_TIME = /^\[(\d+):(\d{1,2}(?:[.:]\d{1,3})?)\]/;
const LRC_WORD = /<(\d+):(\d{1,2}(?:\.\d{1,3})?)>/g;
const LRC_OFFSET = /^\[offset:\s*([+-]?\d+)\s*\]/i;

const lrcSeconds = (minutes: string, seconds: string): number => Number(minutes) * 60 + Number(seconds.replace(':', '.'));

/**
 * Reads timed lyrics (LRC): each line is a cue, each time of a line that has several is one of its own, and times
 * within a line make a cue of each word. An offset (milliseconds, positive is earlier) is taken into account.
 * @throws MarkingError where there is no timed line
 */
export function readLrc(text: string): ReadMarking {
  const marks: FileMark[] = [];
  let untimed = 0;
  let earlier = 0;
  for (const line of linesOf(text)) {
    const offset = LRC_OFFSET.exec(line.trim());
    if (offset) earlier = Number(offset[1]) / 1000;
    const times: number[] = [];
    let rest = line.trim();
    for (let found = LRC_TIME.exec(rest); found; found = LRC_TIME.exec(rest)) {
      times.push(lrcSeconds(found[1]!, found[2]!));
      rest = rest.slice(found[0].length).trimStart();
    }
    if (times.length === 0) {
      if (rest !== '' && !/^\[[a-z#]+:/i.test(rest)) untimed++;
      continue;
    }
    const words = [...rest.matchAll(LRC_WORD)];
    if (words.length === 0) {
      if (rest !== '') marks.push(...times.map((time): FileMark => ({ kind: 'cue', time, label: rest })));
      continue;
    }
    const first = rest.slice(0, words[0]!.index).trim();
    if (first !== '') marks.push({ kind: 'cue', time: times[0]!, label: first });
    for (const [i, word] of words.entries()) {
      const label = rest.slice(word.index + word[0].length, words[i + 1]?.index).trim();
      if (label !== '') marks.push({ kind: 'cue', time: lrcSeconds(word[1]!, word[2]!), label });
    }
  }
  if (marks.length === 0) throw new MarkingError('There is no timed line in this LRC file. Lines look like [01:23.45]words.');
  const shifted = marks.map((m) => ({ ...m, time: Math.max(0, m.time - earlier) }));
  return { marks: inTime(shifted), sections: [], notes: untimed > 0 ? [`${untimed} lines without a time were passed over.`] : [] };
}

/** Writes the cues as LRC, to the millisecond; it holds nothing else. */
export function writeLrc({ marks }: Marking): string {
  return inTime(marks)
    .filter((m) => m.kind === 'cue')
    .map((m) => {
      const ms = Math.round(m.time * 1000);
      const minutes = Math.floor(ms / 60_000);
      const seconds = ((ms % 60_000) / 1000).toFixed(3).padStart(6, '0');
      return `[${String(minutes).padStart(2, '0')}:${seconds}]${(m.label ?? '').replace(/[\r\n]+/g, ' ')}\n`;
    })
    .join('');
}

export const lrc = marksFormat({
  title: 'Timed lyrics (LRC)',
  endings: ['lrc'],
  sniff: (file) => /^\[\d+:\d/.test(firstLine(file.text)),
  read: (file) => readLrc(file.text),
  write: writeLrc,
  loses: {
    what: 'everything but cues',
    of: ({ marks, sections }) => marks.some((m) => m.kind !== 'cue') || sections.length > 0,
  },
});
