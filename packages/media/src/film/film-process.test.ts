import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { carryOut, emptyMontage, FILL_DEFAULTS, footageItem, READ_BACK_FROM, USUAL_WISH, type Montage } from '@bluster/core';
import { probe } from '../probe/probe.ts';
import { beginStarter } from '../program/starter.ts';
import { soundToWav } from '../sound/sound.ts';
import { numberedClip, scratchFolder, tickingSong } from '../testing/made-media.ts';
import { filmInProcess, type FilmOrder } from './film-process.ts';

const media = scratchFolder();
const SECONDS = 8;
let order: FilmOrder;
let end: () => void;

beforeAll(async () => {
  end = await beginStarter();
  const path = numberedClip(media, 'clip.mp4', { frames: 300, fps: '30' });
  const wav = join(media, 'song.wav');
  await soundToWav(tickingSong(media, 'ticks.flac', SECONDS), wav);
  const { video } = await probe(path, 'clip.mp4');
  const { rate, width, height } = video!;
  let montage: Montage = { ...emptyMontage(), shape: { width: 320, height: 180, rate: { num: 30, den: 1 } } };
  for (const command of [
    { do: 'setSong', assetId: 'song', name: 'song', length: SECONDS },
    { do: 'takeBeatTimes', times: Array.from({ length: SECONDS * 2 }, (_, i) => i / 2), metre: 4 },
    { do: 'addFootage', items: [footageItem('clip', 'clip', 'clip.mp4', { rate, width, height, frames: 300 })] },
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 2 } },
    { do: 'fill', options: FILL_DEFAULTS },
  ] as const)
    montage = carryOut(montage, command);
  writeFileSync(join(media, 'montage.json'), JSON.stringify(montage));
  order = {
    montage: join(media, 'montage.json'),
    film: join(media, 'film.mp4'),
    report: join(media, 'film.json'),
    wish: USUAL_WISH,
    tags: null,
    writes: 1e9,
    pictures: { clip: { path, video } },
    sounds: { song: wav },
    faces: {},
  };
});
afterAll(() => end());

/** What lies in the folder of a film and its report. */
const left = (): string[] => readdirSync(media).filter((name) => name.startsWith('film.'));
/** The processes that make films in this folder, as the kernel has them. */
const makers = (): number[] =>
  readdirSync('/proc')
    .map(Number)
    .filter((pid) => {
      try {
        const words = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0');
        const at = words.findIndex((word) => basename(word) === 'film.process.js');
        return at > 0 && readFileSync(words[at + 1]!, 'utf8').includes(order.film);
      } catch {
        return false;
      }
    });

test('a process that is killed over a film is one failed film: it says so, leaves nothing, and the next one is made', async () => {
  let killed = 0;
  const work = filmInProcess(order, {
    onPart: (done) => {
      if (done === 0 || killed > 0) return;
      for (const pid of makers()) killed += Number(process.kill(pid, 'SIGKILL'));
    },
  });
  await expect(work).rejects.toThrow(/putting the film together ended too soon/);
  expect(killed).toBe(1);
  expect(left()).toEqual([]);
  const summary = await filmInProcess(order, {});
  expect(summary).toMatchObject({ frames: SECONDS * 30, width: 320, height: 180, proof: { good: true } });
  expect(left().sort()).toEqual(['film.json', 'film.mp4']);
});

test.each([
  ['before it has begun', -1],
  ['when it begins', 0],
  ['in the middle', 0.3],
  ['while it is read back', READ_BACK_FROM],
])('a film that is called off %s ends, and leaves nothing', async (_, at) => {
  const called = { ...order, film: join(media, 'off.mp4'), report: join(media, 'off.json') };
  const stop = new AbortController();
  if (at < 0) stop.abort();
  const work = filmInProcess(called, { signal: stop.signal, onPart: (done) => done >= at && stop.abort() });
  await expect(work).rejects.toThrow(/Cancelled/);
  expect(readdirSync(media).filter((name) => name.startsWith('off.'))).toEqual([]);
  expect(makers()).toEqual([]);
});

test('what cannot be made is said in a sentence', async () => {
  await expect(filmInProcess({ ...order, wish: { ...USUAL_WISH, stretch: { from: 100, to: 200 } } }, {})).rejects.toThrow(/\.$/);
});
