import { marksFormat } from './marks-format.ts';
import { parse } from '@plussub/srt-vtt-parser';
import { inTime, MarkingError, type FileMark, type ReadMarking } from '../../marks/marking.ts';
/**
 * Reads captions (SRT or WebVTT): the start of each is a cue with its words.
 * @throws MarkingError where there are none
 */
export function readCaptions(text: string): ReadMarking {
  let entries: readonly { from: number; text: string }[];
  try {
    entries = (parse(text.replace(/^\uFEFF/, '')) as { entries: typeof entries }).entries;
  } catch (error) {
    throw new MarkingError(`These captions cannot be read: ${(error as Error).message}. They must be SRT or WebVTT.`);
  }
  const marks = entries.flatMap((entry): FileMark[] => {
    const label = entry.text
      .replace(/<[^>]*>/g, '')
      .replace(/\s+/g, ' ')
      .trim();
    return label === '' ? [] : [{ kind: 'cue', time: entry.from / 1000, label }];
  });
  if (marks.length === 0) throw new MarkingError('There are no captions in this file. They must be SRT or WebVTT.');
  return { marks: inTime(marks), sections: [], notes: [] };
}

export const captions = marksFormat({
  title: 'Captions (SRT, WebVTT)',
  endings: ['srt', 'vtt'],
  sniff: (file) => file.text.startsWith('WEBVTT'),
  read: (file) => readCaptions(file.text),
  write: null,
  loses: null,
});
