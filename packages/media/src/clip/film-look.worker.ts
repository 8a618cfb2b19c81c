// Looks at clips outside the server's event loop, one after the other: one decode for the filmstrip and the small pictures that are looked at.
import { parentPort } from 'node:worker_threads';
import { ANALYSIS_RATE } from '@bluster/core/music/signal';
import { FilmLooker } from '@bluster/core/footage/film-look';
import { lookBytes, lookSize } from '@bluster/core/footage/small-frame';
import { summarise } from '@bluster/core/footage/clip-summary';
import { findTransients, type Transient } from '@bluster/core/footage/transients';
import { framesPerSecond } from '@bluster/core/time/rate';
import type { LookRequest, LookReport } from './film-look.ts';
import { picturesWritten } from './filmstrip.ts';
import { countFrames, smallPicture } from '../probe/frame-filters.ts';
import { threadStandsBack } from '../program/guarded.ts';
import { HOSTILE_INPUT, MediaProgramError, PROGRESS_ARGS, run } from '../program/run.ts';
import { hearAll } from '../sound/sound.ts';

/** Sudden sounds are looked for in as much as this, seconds: a clip of hours is no place for one bang. */
const LONGEST_HEARD_S = 1800;
/** While it hands over what it found, the thread that answers everybody may have to wait for it, but then not for decoders. */
const BEFORE_DECODERS = 10;

threadStandsBack(BEFORE_DECODERS);
const port = parentPort!;
let stop = new AbortController();
const tell = (report: LookReport): void => port.postMessage(report);

async function transientsOf({ path, media, limit }: LookRequest): Promise<Transient[]> {
  if (!media.sound) return [];
  const samples = await hearAll(path, { signal: stop.signal, timeLimit: limit, seconds: LONGEST_HEARD_S });
  // Sound may start before or after the picture.
  const early = media.video!.start - media.sound.start;
  return findTransients({ samples, rate: ANALYSIS_RATE })
    .map((t) => ({ ...t, time: t.time - early }))
    .filter((t) => t.time >= 0);
}

async function look(request: LookRequest): Promise<void> {
  const { path, stripTo, picturesTo, strip, media, limit } = request;
  const video = media.video!;
  const size = lookSize(video.width, video.height);
  const bytes = lookBytes(size);
  const looker = new FilmLooker(size.width, size.height);
  const graph = [
    `[0:v:0]${[...countFrames(video, 'at-start'), ...smallPicture(video, strip)].join(',')},split=2[look][more]`,
    `[look]scale=${size.width}:${size.height}:flags=area,format=yuv420p[small]`,
    `[more]select='not(mod(n\\,${strip.step}))'${picturesTo === null ? '' : ',split=2[pictures]'}[places]`,
    `[places]tile=${strip.columns}x${strip.rows}:color=black[strip]`,
  ].join(';');
  const picture = new Uint8Array(bytes);
  let filled = 0;
  const take = (chunk: Buffer): void => {
    for (let at = 0; at < chunk.length;) {
      const part = Math.min(bytes - filled, chunk.length - at);
      picture.set(chunk.subarray(at, at + part), filled);
      at += part;
      filled += part;
      if (filled < bytes) continue;
      looker.push(picture);
      filled = 0;
    }
  };
  let complaints = 0;
  await run(
    'ffmpeg',
    [
      ...[...HOSTILE_INPUT, '-v', 'error', '-y', ...PROGRESS_ARGS, '-i', path, '-filter_complex', graph],
      ...['-map', '[small]', '-an', '-f', 'rawvideo', 'pipe:1'],
      ...['-map', '[strip]', '-frames:v', '1', '-q:v', '4', '-f', 'image2', '-update', '1', stripTo],
      ...(picturesTo === null ? [] : ['-map', '[pictures]', ...picturesWritten(strip.pictures), picturesTo]),
    ],
    {
      signal: stop.signal,
      timeLimit: limit,
      outputLimit: Infinity,
      onOutput: take,
      onComplaints: (count) => (complaints = count),
      onSeconds: (s) => tell({ kind: 'progress', seconds: s }),
    },
  );
  const transients = await transientsOf(request);
  tell({ kind: 'done', damaged: complaints > 0, summary: summarise(looker.finish(), framesPerSecond(video.rate), transients) });
}

port.on('message', (message: LookRequest | 'stop') => {
  if (message === 'stop') {
    stop.abort();
    return;
  }
  stop = new AbortController();
  look(message).catch((error: Error) => {
    if (error instanceof MediaProgramError) tell({ kind: 'failed', message: error.message, said: error.said });
    else tell({ kind: 'failed', message: 'looking at it ended too soon', said: error.stack ?? error.message });
  });
});
