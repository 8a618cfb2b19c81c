import { expect, test } from '@jest/globals';
import { nameFor, sortFiles, type Candidate } from './sort-files.ts';

const file = (name: string, bytes = 10, type = ''): File => new File([new Uint8Array(bytes)], name, { type });
const lengths =
  (seconds: Readonly<Record<string, number>>) =>
  (f: File): Promise<number | null> =>
    Promise.resolve(seconds[f.name] ?? null);
const unasked = (): never => {
  throw new Error('it was asked which sound is the song');
};
const SECOND = 24_000;

test('the longest sound is the song, other sounds go to the footage, and words are apart', async () => {
  const files = [file('bell.wav', 900), file('gust.ogg', 100), file('kite.mp4'), file('hill.jpg'), file('gust.lrc', 5, 'audio/x-lrc')];
  const sorted = await sortFiles(files, unasked, lengths({ 'bell.wav': 2, 'gust.ogg': 60 }));
  expect(sorted.song?.name).toBe('gust.ogg');
  expect(sorted.footage.map((f) => f.name)).toEqual(['bell.wav', 'kite.mp4', 'hill.jpg']);
  expect(sorted.words.map((f) => f.name)).toEqual(['gust.lrc']);
});

test('where the browser cannot tell how long sounds are, their sizes say', async () => {
  const none = lengths({});
  expect((await sortFiles([file('a.flac', 5 * SECOND), file('b.flac', 60 * SECOND)], unasked, none)).song?.name).toBe('b.flac');
  expect((await sortFiles([file('odd.bin', 20 * SECOND, 'audio/mpeg')], unasked, none)).song?.name).toBe('odd.bin');
  expect((await sortFiles([file('kite.mp4')], unasked, none)).song).toBeNull();
  expect((await sortFiles([file('whoosh.wav', 2 * SECOND)], unasked, none)).song).toBeNull();
});

test('where two sounds are about as long, it is asked which is the song; none of them may be', async () => {
  const files = [file('a.mp3'), file('b.mp3'), file('short.mp3'), file('kite.mp4')];
  const long = lengths({ 'a.mp3': 100, 'b.mp3': 180, 'short.mp3': 30 });
  const asked: string[][] = [];
  const ask =
    (answer: string | null) =>
    (candidates: readonly Candidate[]): Promise<File | null> => {
      asked.push(candidates.map((c) => `${c.file.name} ${c.length}`));
      return Promise.resolve(candidates.find((c) => c.file.name === answer)?.file ?? null);
    };
  const sorted = await sortFiles(files, ask('a.mp3'), long);
  expect(asked).toEqual([['b.mp3 180', 'a.mp3 100']]);
  expect(sorted.song?.name).toBe('a.mp3');
  expect(sorted.footage.map((f) => f.name)).toEqual(['b.mp3', 'short.mp3', 'kite.mp4']);
  expect((await sortFiles(files, ask(null), long)).song).toBeNull();
});

test('a project is called as the folder, or as the song', () => {
  const inFolder = Object.assign(file('kite.mp4'), { path: '/Day on the Down/kite.mp4' });
  expect(nameFor([inFolder], null)).toBe('Day on the Down');
  expect(nameFor([file('kite.mp4'), file('gust.ogg')], file('gust.ogg'))).toBe('gust');
  expect(nameFor([file('kite.mp4')], null)).toBe('kite');
  expect(nameFor([], null)).toBe('New montage');
});
