// Renders a film outside the server's event loop: its plan, its pictures on their way, its report.
import { readFile, writeFile } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';
import { readMontage, syncReport } from '@bluster/core';
import { MediaProgramError } from '../program/run.ts';
import { threadStandsBack } from '../program/guarded.ts';
import { makeWhole } from '../program/whole-file.ts';
import { renderFilm } from './film.ts';
import type { FilmNews, FilmOrder, FilmSummary } from './film-thread.ts';

/** News of frames are told no more often than this, ms. */
const NEWS_MS = 100;

const order = workerData as FilmOrder;
threadStandsBack();
const port = parentPort!;
const stop = new AbortController();
port.on('message', () => stop.abort());
const tell = (news: FilmNews): void => port.postMessage(news);

async function film(): Promise<FilmSummary> {
  const montage = readMontage(JSON.parse(await readFile(order.montage, 'utf8')));
  let told = 0;
  const loudness = await renderFilm(
    montage,
    {
      picturePath: (id) => order.pictures[id]!.path,
      video: (id) => order.pictures[id]!.video,
      soundPath: (id) => order.sounds[id]!,
      faces: order.faces,
    },
    order.film,
    {
      preset: order.preset,
      writes: order.writes,
      signal: stop.signal,
      onFrame: (done, total) => {
        const now = performance.now();
        if (now - told < NEWS_MS && done < total) return;
        told = now;
        tell({ kind: 'frame', done, total });
      },
    },
  );
  const report = syncReport(montage);
  await makeWhole(order.report, (to) => writeFile(to, `${JSON.stringify({ ...report, loudness }, null, 2)}\n`));
  const { frames, cuts, worstErrorMs, emptySlots, shortShots } = report;
  return { frames, cuts: cuts.length, worstErrorMs, emptySlots, shortShots, loudness };
}

const kindOf = (error: Error & { code?: string }): 'media' | 'disk' | 'program' =>
  error.code === 'ENOSPC' || error.code === 'EDQUOT' ? 'disk' : error instanceof MediaProgramError ? 'media' : 'program';

film()
  .then((summary) => tell({ kind: 'done', summary }))
  .catch((error: Error) => {
    const of = kindOf(error);
    const said = error instanceof MediaProgramError ? error.said : '';
    tell({ kind: 'failed', of, message: of === 'program' ? (error.stack ?? error.message) : error.message, said });
  })
  .finally(() => port.close());
