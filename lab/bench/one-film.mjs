// Makes one film in a process of its own, so that what it takes can be measured: node one-film.mjs SECONDS every WIDTH HEIGHT SONG OUT
import { EVERY, straightCuts } from './straight-cuts.mjs';

const [seconds, every, width, height, song, out] = process.argv.slice(2);
const { renderFilm } = await import('../../packages/media/dist/film/film.js');
const { montage, sources } = await straightCuts({
  seconds: Number(seconds),
  rule: EVERY[every ?? ''],
  width: Number(width),
  height: Number(height),
  song,
});
const start = process.hrtime.bigint();
await renderFilm(montage, sources, out ?? '');
console.log(Number(process.hrtime.bigint() - start) / 1e9);
