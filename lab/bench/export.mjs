// Export of straight cuts against ffmpeg alone: one ffmpeg that decodes, scales, joins and encodes the same frames with the
// same settings. With a cut a bar, and with one on every half beat.
import { there } from '../../scripts/there.mjs';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { benchSong, EVERY, straightCuts } from './straight-cuts.mjs';
import { byTurns, timed } from './timing.mjs';

const SECONDS = 40;
/** Larger than the clips, so that both sides have scaling to do. */
const SIZE = { width: 1280, height: 720 };
const CASES = [
  { rule: EVERY.bar, limit: 1.15 },
  { rule: EVERY.half, limit: 1.25 },
];

export async function benchExport() {
  const scratch = mkdtempSync(join(tmpdir(), 'bluster-bench-'));
  const song = await benchSong(scratch, SECONDS);
  const rows = [];
  for (const { rule, limit } of CASES) rows.push(...(await against(scratch, song, rule, limit)));
  return rows;
}

async function against(scratch, song, rule, limit) {
  const core = await import('../../packages/core/dist/index.js');
  const { renderFilm } = await import('../../packages/media/dist/film/film.js');
  const { videoCodec } = await import('../../packages/media/dist/film/encoder-words.js');
  const { programPath } = await import('../../packages/media/dist/program/programs.js');
  const { montage, path, sources } = await straightCuts({ seconds: SECONDS, rule, ...SIZE, song });
  const { slots, frames } = core.scoreOf(montage);
  const inputs = slots.flatMap(({ placed }) => ['-i', path(there(placed).item.assetId)]);
  const chains = slots.map(({ placed, frames: count }, i) => {
    const first = there(core.sourceFrame(there(placed), 0, montage));
    return `[${i}:v]fps=30,trim=start_frame=${first}:end_frame=${first + count},setpts=PTS-STARTPTS,scale=1280:720,setsar=1,format=yuv420p[v${i}]`;
  });
  const graph = `${chains.join(';')};${slots.map((_, i) => `[v${i}]`).join('')}concat=n=${slots.length}:v=1[v]`;
  const alone = ['-v', 'error', '-y', ...inputs, '-i', song, '-filter_complex', graph, '-map', '[v]', '-map', `${slots.length}:a`];
  const sound = ['-c:a', 'aac', '-b:a', '192k', '-t', String(SECONDS), '-movflags', '+faststart'];
  const ours = async () => {
    const start = process.hrtime.bigint();
    await renderFilm(montage, sources, join(scratch, 'ours.mp4'));
    return Number(process.hrtime.bigint() - start) / 1e9;
  };
  const codec = videoCodec({ preset: core.FILM_PRESETS.h264, quality: 'good' });
  const theirs = () => timed(programPath('ffmpeg'), [...alone, ...codec, ...sound, join(scratch, 'alone.mp4')]);
  const { a, b, ratio } = await byTurns(3, ours, theirs);
  return [
    { what: `export, ${frames} frames in ${slots.length} shots, 1280x720`, value: a, unit: ' s' },
    { what: 'ffmpeg alone, the same frames', value: b, unit: ' s' },
    { what: `ratio at ${slots.length} shots`, value: ratio, unit: 'x', limit },
  ];
}
