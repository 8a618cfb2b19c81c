import { frameTime } from '../../time/frames.ts';
import { placedTitles } from '../../finish/titles.ts';
import { cutFormat } from './cut-format.ts';
import { captionTime } from './srt.ts';
import { titlesStyle } from './titles-style.ts';

const written = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll(/\n+/g, '\n');

export const vtt = cutFormat({
  title: 'Titles as WebVTT',
  says: 'The words of the titles and when they are seen, as captions for pages.',
  ending: 'vtt',
  type: 'text/vtt',
  write(montage) {
    const { rate } = montage.shape;
    const time = (frame: number): string => captionTime(frameTime(frame, rate), '.');
    const cues = placedTitles(montage).map(({ title, from, to }) => `\n${time(from)} --> ${time(to)}\n${written(title.text)}\n`);
    return `WEBVTT\n${cues.join('')}`;
  },
  read: null,
  loses: titlesStyle,
});
