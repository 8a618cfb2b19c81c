// A montage of straight cuts of the demo's clips, so long and with pegs as asked for, and what it is made of.
import { there } from '../../scripts/there.mjs';
import { join, resolve } from 'node:path';

const media = resolve(import.meta.dirname, '../../demo/media');
const CLIPS = ['cloud-race', 'launch-line', 'crowd-hill', 'red-delta', 'drum', 'box-kite', 'tail-close', 'dive', 'two-cross', 'windsock'];
const BEATS_A_MINUTE = 124;

/** The song that the films are made over, decoded into a folder; looped where they are longer. */
export async function benchSong(folder, seconds) {
  const { timed } = await import('./timing.mjs');
  const { programPath } = await import('../../packages/media/dist/program/programs.js');
  const song = join(folder, `song-${seconds}.wav`);
  const source = ['-stream_loop', '-1', '-i', join(media, 'gust-on-the-down.ogg'), '-t', String(seconds), '-ac', '2', '-ar', '48000'];
  await timed(programPath('ffmpeg'), ['-v', 'error', '-y', ...source, song]);
  return song;
}

/**
 * @param rule where it is cut
 * @param song as benchSong made it
 */
export async function straightCuts({ seconds, rule, width, height, song }) {
  const core = await import('../../packages/core/dist/index.js');
  const { probe } = await import('../../packages/media/dist/probe/probe.js');
  const videos = new Map();
  const items = [];
  for (const name of CLIPS) {
    const { video } = await probe(join(media, `${name}.mp4`), name);
    videos.set(name, video);
    items.push(core.footageItem(name, 'clip', name, there(video)));
  }
  let montage = { ...core.emptyMontage(), shape: { width, height, rate: { num: 30, den: 1 } } };
  montage = core.carryOut(montage, { do: 'setSong', assetId: 'song', name: 'song', length: seconds });
  const times = Array.from({ length: Math.floor((seconds * BEATS_A_MINUTE) / 60) }, (_, i) => 0.2 + (i * 60) / BEATS_A_MINUTE);
  montage = core.carryOut(montage, { do: 'takeBeatTimes', times, metre: 4 });
  montage = core.carryOut(montage, { do: 'addFootage', items });
  montage = core.carryOut(montage, { do: 'hangByRule', rule });
  montage = core.carryOut(montage, { do: 'fill', options: { ...core.FILL_DEFAULTS, leastSpeed: 1, tooShort: 'next' } });
  const path = (name) => join(media, `${name}.mp4`);
  return { montage, path, sources: { picturePath: path, video: (name) => videos.get(name), soundPath: () => song } };
}

/** Where pegs hang: on every bar, beat or half beat. */
export const EVERY = {
  bar: { kind: 'pulse', unit: 'bar', every: 1 },
  beat: { kind: 'pulse', unit: 'beat', every: 1 },
  half: { kind: 'pattern', bars: 1, steps: Array.from({ length: 8 }, () => true) },
};
