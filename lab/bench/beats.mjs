// `./bluster beats` on a four-minute song, with all that it finds, against Debian's aubiotrack for the beats of the same file.
import { spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { byTurns, timed } from './timing.mjs';

const root = resolve(import.meta.dirname, '../..');

export async function benchBeats() {
  if (spawnSync('sh', ['-c', 'command -v aubiotrack']).status !== 0) {
    if (process.getuid?.() !== 0 || spawnSync('apt-get', ['install', '-qy', 'aubio-tools'], { stdio: 'ignore' }).status !== 0)
      throw new Error("This benchmark compares with aubiotrack: install Debian's package aubio-tools (after apt-get update).");
  }
  // The demo song four times over: four minutes of drums, bass, chords and melody.
  const song = join(mkdtempSync(join(tmpdir(), 'bluster-bench-')), 'four-minutes.wav');
  const { programPath } = await import('../../packages/media/dist/program/programs.js');
  const loop = ['-stream_loop', '4', '-i', join(root, 'demo/media/gust-on-the-down.ogg'), '-t', '240', '-ar', '44100', '-ac', '2', song];
  await timed(programPath('ffmpeg'), ['-v', 'error', '-y', ...loop]);
  const { a, b, ratio } = await byTurns(
    11,
    () => timed(join(root, 'bluster'), ['beats', song]),
    () => timed('aubiotrack', [song]),
  );
  return [
    { what: 'bluster beats, four-minute song', value: a, unit: ' s' },
    { what: 'aubiotrack, the same', value: b, unit: ' s' },
    { what: 'ratio', value: ratio, unit: 'x', limit: 1.5 },
  ];
}
