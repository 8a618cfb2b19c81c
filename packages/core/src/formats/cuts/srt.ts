import { frameTime } from '../../time/frames.ts';
import { placedTitles } from '../../finish/titles.ts';
import { cutFormat } from './cut-format.ts';
import { titlesStyle } from './titles-style.ts';

/** hh:mm:ss,mmm */
export const captionTime = (seconds: number, point: ',' | '.'): string => {
  const ms = Math.round(seconds * 1000);
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${two(Math.floor(ms / 3_600_000))}:${two(Math.floor(ms / 60_000) % 60)}:${two(Math.floor(ms / 1000) % 60)}${point}${String(ms % 1000).padStart(3, '0')}`;
};

export const srt = cutFormat({
  title: 'Titles as SRT',
  says: 'The words of the titles and when they are seen, as captions.',
  ending: 'srt',
  type: 'application/x-subrip',
  write(montage) {
    const { rate } = montage.shape;
    const time = (frame: number): string => captionTime(frameTime(frame, rate), ',');
    return placedTitles(montage)
      .map(({ title, from, to }, i) => `${i + 1}\r\n${time(from)} --> ${time(to)}\r\n${title.text.replaceAll(/\n+/g, '\r\n')}\r\n\r\n`)
      .join('');
  },
  read: null,
  loses: titlesStyle,
});
