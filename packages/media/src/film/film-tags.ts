import type { Chapter } from '@bluster/core';

/** What is written into a film's file beside picture and sound. */
export interface FilmTags {
  readonly title: string;
  /** yyyy-mm-dd */
  readonly date: string;
}

/** Signs that mean something in such a file. */
const written = (value: string): string => value.replaceAll(/[\r\n]+/g, ' ').replaceAll(/[=;#\\]/g, '\\$&');

/** Tags and chapters as ffmpeg reads them (its metadata format, version 1). */
export function tagsText({ title, date }: FilmTags, chapters: readonly Chapter[]): string {
  const ms = (seconds: number): number => Math.round(seconds * 1000);
  return [
    ';FFMETADATA1',
    `title=${written(title)}`,
    `date=${written(date)}`,
    ...chapters.flatMap(({ title: name, from, to }) => [
      '[CHAPTER]',
      'TIMEBASE=1/1000',
      `START=${ms(from)}`,
      `END=${ms(to)}`,
      `title=${written(name)}`,
    ]),
    '',
  ].join('\n');
}
