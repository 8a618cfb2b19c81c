// Renders a film for the server: its plan, its pictures on their way, its report. What it says goes to its standard output; see
// film-process.ts.
import { readFile, rm, stat, writeFile } from 'node:fs/promises';
import { frameTime, isRefusal, READ_BACK_FROM, readMontage, syncReport, type Proof } from '@bluster/core';
import { MediaProgramError } from '../program/run.ts';
import { makeWhole } from '../program/whole-file.ts';
import { renderFilm } from './film.ts';
import type { FilmNews, FilmOrder, FilmSummary, ProofSummary } from './film-process.ts';
import { proveFilm } from './prove-film.ts';

/** News of what is done are told no more often than this, ms. */
const NEWS_MS = 100;

const order = JSON.parse(await readFile(process.argv[2]!, 'utf8')) as FilmOrder;
const stop = new AbortController();
for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP'] as const) process.on(signal, () => stop.abort());
const tell = (news: FilmNews): void => void process.stdout.write(`${JSON.stringify(news)}\n`);
tell({ kind: 'part', done: 0 });

let told = 0;
/** Tells how much of all is done, 0 to 1. */
function tellPart(done: number): void {
  const now = performance.now();
  if (now - told < NEWS_MS) return;
  told = now;
  tell({ kind: 'part', done });
}

const proofLine = ({ good, verdict, wrongAt, soundLateMs, cuts }: Proof): ProofSummary => {
  const errors = cuts.flatMap(({ errorMs }) => (errorMs === null ? [] : [Math.abs(errorMs)]));
  return { good, verdict, wrongAt, soundLateMs, worstErrorMs: errors.length > 0 ? Math.max(...errors) : null };
};

async function film(): Promise<FilmSummary> {
  const montage = readMontage(JSON.parse(await readFile(order.montage, 'utf8')));
  const soundPath = (id: string): string => order.sounds[id]!;
  const { signal } = stop;
  const made = await renderFilm(
    montage,
    { picturePath: (id) => order.pictures[id]!.path, video: (id) => order.pictures[id]!.video, soundPath, faces: order.faces },
    order.film,
    {
      wish: order.wish,
      tags: order.tags,
      writes: order.writes,
      signal,
      onFrame: (done, total) => tellPart((READ_BACK_FROM * done) / total),
    },
  );
  const { asked, prints, times, loudness } = made;
  const whole = syncReport(asked.montage);
  const { width, height, rate } = asked.montage.shape;
  const shown = whole.cuts.filter((cut) => cut.frame > asked.from && cut.frame < asked.to);
  const single = asked.preset.holds === 'picture';
  const proof = single
    ? null
    : await proveFilm(order.film, {
        asked,
        prints,
        times,
        soundPath,
        signal,
        onFrame: (done, total) => tellPart(READ_BACK_FROM + ((1 - READ_BACK_FROM) * done) / total),
      });
  const report = { ...whole, stretch: { from: asked.from, to: asked.to }, loudness, proof };
  await makeWhole(order.report, (to) => writeFile(to, `${JSON.stringify(report, null, 2)}\n`));
  const { emptySlots, shortShots } = whole;
  return {
    frames: asked.to - asked.from,
    cuts: shown.length,
    worstErrorMs: Math.max(0, ...shown.flatMap(({ errorMs }) => (errorMs === null ? [] : [Math.abs(errorMs)]))),
    emptySlots,
    shortShots,
    loudness,
    bytes: (await stat(order.film)).size,
    width,
    height,
    seconds: frameTime(asked.to - asked.from, rate),
    proof: proof && proofLine(proof),
  };
}

function kindOf(error: Error & { code?: string }): (FilmNews & { kind: 'failed' })['of'] {
  if (error.code === 'ENOSPC' || error.code === 'EDQUOT') return 'disk';
  if (error instanceof MediaProgramError) return 'media';
  return isRefusal(error) ? 'asked' : 'program';
}

film()
  .then((summary) => tell({ kind: 'done', summary }))
  .catch(async (error: Error) => {
    // A film that was called off while it was read back is none.
    await rm(order.film, { force: true });
    const of = kindOf(error);
    const said = error instanceof MediaProgramError ? error.said : '';
    tell({ kind: 'failed', of, message: of === 'program' ? (error.stack ?? error.message) : error.message, said });
  });
