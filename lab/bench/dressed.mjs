// The film of the dressed demo against ffmpeg alone encoding the same number of frames with the same words.
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { there } from '../../scripts/there.mjs';
import { byTurns, timed } from './timing.mjs';

const media = resolve(import.meta.dirname, '../../demo/media');

export async function benchDressed() {
  const core = await import('../../packages/core/dist/index.js');
  const { renderFilm } = await import('../../packages/media/dist/film/film.js');
  const { videoCodec } = await import('../../packages/media/dist/film/encoder-words.js');
  const { probe } = await import('../../packages/media/dist/probe/probe.js');
  const { soundToWav } = await import('../../packages/media/dist/sound/sound.js');
  const { programPath } = await import('../../packages/media/dist/program/programs.js');
  const scratch = mkdtempSync(join(tmpdir(), 'bluster-bench-'));
  const montage = core.readMontage(JSON.parse(readFileSync(join(media, 'kite-day.montage.json'), 'utf8')));
  const songId = there(montage.song).assetId;
  const song = join(scratch, 'song.wav');
  await soundToWav(join(media, songId), song);
  const videos = new Map();
  for (const { kind, assetId } of montage.footage)
    if (kind === 'clip') videos.set(assetId, (await probe(join(media, assetId), assetId)).video);
  const sources = {
    picturePath: (id) => join(media, id),
    video: (id) => videos.get(id) ?? null,
    soundPath: (id) => (id === songId ? song : join(media, id)),
  };
  const film = join(scratch, 'film.mp4');
  const ours = async () => {
    const start = process.hrtime.bigint();
    await renderFilm(montage, sources, film);
    return Number(process.hrtime.bigint() - start) / 1e9;
  };
  // The film itself is what ffmpeg encodes: decoding one file takes it next to nothing.
  await ours();
  const sound = ['-c:a', 'aac', '-b:a', '192k', '-movflags', '+faststart'];
  const theirs = () =>
    timed(programPath('ffmpeg'), [
      '-v',
      'error',
      '-y',
      '-i',
      film,
      ...videoCodec({ preset: core.FILM_PRESETS.h264, quality: 'good' }),
      ...sound,
      join(scratch, 'alone.mp4'),
    ]);
  const { a, b, ratio } = await byTurns(1, ours, theirs);
  const { frames } = core.scoreOf(montage);
  return [
    { what: `film of the dressed demo, ${frames} frames, 1280x720`, value: a, unit: ' s' },
    { what: 'ffmpeg alone, encoding as many', value: b, unit: ' s' },
    { what: 'ratio', value: ratio, unit: 'x', limit: 1.5 },
  ];
}
