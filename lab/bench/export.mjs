// Export of straight cuts against ffmpeg alone: one ffmpeg that decodes, scales, joins and encodes the same frames with the
// same settings.
import { there } from '../../scripts/there.mjs';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { byTurns, timed } from './timing.mjs';

const media = resolve(import.meta.dirname, '../../demo/media');
const CLIPS = ['cloud-race', 'launch-line', 'crowd-hill', 'red-delta', 'drum', 'box-kite', 'tail-close', 'dive', 'two-cross', 'windsock'];
/** Source size of a cut, so that both sides have scaling to do. */
const SIZE = { width: 1280, height: 720 };

export async function benchExport() {
  const core = await import('../../packages/core/dist/index.js');
  const { renderFilm } = await import('../../packages/media/dist/film/film.js');
  const { videoCodec } = await import('../../packages/media/dist/film/encoder-words.js');
  const { probe } = await import('../../packages/media/dist/probe/probe.js');
  const { soundToWav } = await import('../../packages/media/dist/sound/sound.js');
  const { programPath } = await import('../../packages/media/dist/program/programs.js');
  const scratch = mkdtempSync(join(tmpdir(), 'bluster-bench-'));
  const song = join(scratch, 'song.wav');
  await soundToWav(join(media, 'gust-on-the-down.ogg'), song);

  const videos = new Map();
  const items = [];
  for (const name of CLIPS) {
    const { video } = await probe(join(media, `${name}.mp4`), name);
    videos.set(name, video);
    const { width, height, rate, frames } = there(video);
    items.push({
      assetId: name,
      kind: /** @type {const} */ ('clip'),
      name,
      width,
      height,
      rate,
      frames,
      hasSound: false,
      ...core.UNDESCRIBED,
    });
  }
  let montage = { ...core.emptyMontage(), shape: { ...SIZE, rate: { num: 30, den: 1 } } };
  montage = core.carryOut(montage, { do: 'setSong', assetId: 'song', name: 'song', length: 40 });
  const times = Array.from({ length: 80 }, (_, i) => 0.2 + (i * 60) / 124);
  montage = core.carryOut(montage, { do: 'takeBeatTimes', times, metre: 4 });
  montage = core.carryOut(montage, { do: 'addFootage', items });
  montage = core.carryOut(montage, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
  montage = core.carryOut(montage, { do: 'fill', options: { ...core.FILL_DEFAULTS, leastSpeed: 1, tooShort: 'next' } });
  const { slots, frames } = core.scoreOf(montage);

  const path = (name) => join(media, `${name}.mp4`);
  const inputs = slots.flatMap(({ placed }) => ['-i', path(there(placed).item.assetId)]);
  const chains = slots.map(({ placed, frames: count }, i) => {
    const first = there(core.sourceFrame(there(placed), 0, montage));
    return `[${i}:v]fps=30,trim=start_frame=${first}:end_frame=${first + count},setpts=PTS-STARTPTS,scale=1280:720,setsar=1,format=yuv420p[v${i}]`;
  });
  const graph = `${chains.join(';')};${slots.map((_, i) => `[v${i}]`).join('')}concat=n=${slots.length}:v=1[v]`;
  const alone = ['-v', 'error', '-y', ...inputs, '-i', song, '-filter_complex', graph, '-map', '[v]', '-map', `${slots.length}:a`];
  const sound = ['-c:a', 'aac', '-b:a', '192k', '-t', '40', '-movflags', '+faststart'];

  const ours = async () => {
    const start = process.hrtime.bigint();
    const sources = { picturePath: path, video: (name) => videos.get(name), soundPath: () => song };
    await renderFilm(montage, sources, join(scratch, 'ours.mp4'));
    return Number(process.hrtime.bigint() - start) / 1e9;
  };
  const theirs = () =>
    timed(programPath('ffmpeg'), [
      ...alone,
      ...videoCodec({ preset: core.FILM_PRESETS.h264, quality: 'good' }),
      ...sound,
      join(scratch, 'alone.mp4'),
    ]);
  const { a, b, ratio } = await byTurns(3, ours, theirs);
  return [
    { what: `export, ${frames} frames in ${slots.length} shots, 1280x720`, value: a, unit: ' s' },
    { what: 'ffmpeg alone, the same frames', value: b, unit: ' s' },
    { what: 'ratio', value: ratio, unit: 'x', limit: 1.6 },
  ];
}
