import { expect, test } from '@jest/globals';
import { nameFor, sortFiles } from './sort-files.ts';

const file = (name: string, bytes = 10, type = ''): File => new File([new Uint8Array(bytes)], name, { type });
const none = (): Promise<null> => Promise.resolve(null);

test('the longest sound is the song, other sounds go to the footage, and words are apart', async () => {
  const files = [file('bell.wav', 900), file('gust.ogg', 100), file('kite.mp4'), file('hill.jpg'), file('gust.lrc', 5, 'audio/x-lrc')];
  const seconds: Record<string, number> = { 'bell.wav': 2, 'gust.ogg': 60 };
  const sorted = await sortFiles(files, (f) => Promise.resolve(seconds[f.name] ?? null));
  expect(sorted.song?.name).toBe('gust.ogg');
  expect(sorted.footage.map((f) => f.name)).toEqual(['bell.wav', 'kite.mp4', 'hill.jpg']);
  expect(sorted.words.map((f) => f.name)).toEqual(['gust.lrc']);
});

test('where the browser cannot tell how long sounds are, the larger one is the song', async () => {
  expect((await sortFiles([file('a.flac', 10), file('b.flac', 500)], none)).song?.name).toBe('b.flac');
  expect((await sortFiles([file('odd.bin', 10, 'audio/mpeg')], none)).song?.name).toBe('odd.bin');
  expect((await sortFiles([file('kite.mp4')], none)).song).toBeNull();
});

test('a project is called as the folder, or as the song', () => {
  const inFolder = Object.assign(file('kite.mp4'), { path: '/Day on the Down/kite.mp4' });
  expect(nameFor([inFolder], null)).toBe('Day on the Down');
  expect(nameFor([file('kite.mp4'), file('gust.ogg')], file('gust.ogg'))).toBe('gust');
  expect(nameFor([file('kite.mp4')], null)).toBe('kite');
  expect(nameFor([], null)).toBe('New montage');
});
