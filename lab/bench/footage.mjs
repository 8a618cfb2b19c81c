// Hits, motion and filmstrip of a 60 s clip of 1920x1080, against ffmpeg decoding it; and finding among 500 clips.
import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { lookAtFilm } from '../../packages/media/dist/clip/film-look.js';
import { probe } from '../../packages/media/dist/probe/probe.js';
import { programPath } from '../../packages/media/dist/program/programs.js';
import { ALL_FOOTAGE, UNDESCRIBED, siftFootage } from '../../packages/core/dist/index.js';
import { byTurns, timed } from './timing.mjs';

const root = resolve(import.meta.dirname, '../..');
const out = join(root, 'lab/bench/out');

function longClip() {
  mkdirSync(out, { recursive: true });
  const path = join(out, 'long.mp4');
  const [picture, sound] = ['flag-row.mp4', 'drum.mp4'].map((f) => join(root, 'demo/media', f));
  const inputs = [picture, sound].flatMap((f) => ['-stream_loop', '-1', '-i', f]);
  spawnSync(programPath('ffmpeg'), ['-v', 'error', '-y', ...inputs, '-map', '0:v', '-map', '1:a', '-c', 'copy', '-t', '60', path]);
  return path;
}

export async function benchFootage() {
  const path = longClip();
  const media = await probe(path, 'long.mp4');
  const looking = async () => {
    const started = performance.now();
    await lookAtFilm(path, join(out, 'strip.jpg'), media);
    return (performance.now() - started) / 1000;
  };
  const decoding = () => timed(programPath('ffmpeg'), ['-v', 'error', '-i', path, '-f', 'null', '-']);
  const { a, b, ratio } = await byTurns(3, looking, decoding);
  const footage = Array.from({ length: 500 }, (_, i) => ({
    assetId: `f${i}`,
    kind: /** @type {const} */ ('clip'),
    name: `kite-${(i * 7919) % 500}.mp4`,
    width: 1280,
    height: 720,
    rate: { num: 30, den: 1 },
    frames: 100 + i,
    hasSound: false,
    ...UNDESCRIBED,
    note: i % 3 ? 'over the hill' : 'a dive at dusk',
    tags: ['hill', `day ${i % 9}`],
  }));
  const sieve = { ...ALL_FOOTAGE, text: 'dusk day', order: /** @type {const} */ ('movement') };
  const started = performance.now();
  for (let i = 0; i < 20; i++) siftFootage(footage, sieve, new Map(), (id) => ({ movement: Number(id.slice(1)) / 500 }));
  return [
    { what: 'hits, motion and filmstrip of 60 s of 1080p', value: a, unit: ' s' },
    { what: 'ffmpeg decoding the same', value: b, unit: ' s' },
    { what: 'ratio', value: ratio, unit: 'x', limit: 1.5 },
    { what: 'finding and sorting among 500 clips', value: (performance.now() - started) / 20, unit: ' ms', limit: 50 },
  ];
}
