import { Worker } from 'node:worker_threads';
import { framesPerSecond } from '@bluster/core/time/rate';
import type { ClipSummary } from '@bluster/core/footage/clip-summary';
import { planStrip, type Filmstrip, type StripPlan } from './filmstrip.ts';
import type { MediaProbe } from '../probe/probe.ts';
import { CancelledError, MediaProgramError, type RunOptions } from '../program/run.ts';

/** What the worker is asked for. */
export interface LookRequest {
  readonly path: string;
  readonly stripTo: string;
  /** where its small pictures go, one behind the other; null for nowhere */
  readonly picturesTo: string | null;
  readonly strip: StripPlan;
  readonly media: MediaProbe;
  /** ms */
  readonly limit: number;
}
/** What it says. */
export type LookReport =
  | { readonly kind: 'progress'; readonly seconds: number }
  | { readonly kind: 'done'; readonly summary: ClipSummary; readonly damaged: boolean }
  | { readonly kind: 'failed'; readonly message: string; readonly said: string };
/** How it ended: as it says, or with its thread. */
type LookEnding = Exclude<LookReport, { readonly kind: 'progress' }> | { readonly kind: 'lost'; readonly said: string };

/** A thread that nobody needs for so long is ended, ms. */
const IDLE_MS = 10_000;

// Tests run from the sources, but a worker has to be JavaScript: theirs is the one that was built.
const WORKER = new URL(import.meta.url.endsWith('.ts') ? '../../dist/clip/film-look.worker.js' : './film-look.worker.js', import.meta.url);

/** What is found in a clip. */
export interface FilmLooked {
  readonly strip: Filmstrip;
  readonly summary: ClipSummary;
  readonly damaged: boolean;
}

/** How a clip is looked at. */
export interface LookOptions extends Pick<RunOptions, 'signal' | 'timeLimit' | 'onSeconds'> {
  /** where the pictures of the filmstrip are written one behind the other as well */
  readonly picturesTo?: string;
}

/**
 * Makes a clip's filmstrip and finds out what happens in it, in one decode: motion, proposed hits, picture changes, colours; and
 * whether some of its pictures are damaged.
 * @throws MediaProgramError where it cannot be decoded; CancelledError
 */
export function lookAtFilm(
  path: string,
  stripTo: string,
  media: MediaProbe,
  { signal, timeLimit = 600_000, onSeconds, picturesTo }: LookOptions = {},
): Promise<FilmLooked> {
  const video = media.video!;
  const { step, rows, ...strip } = planStrip(video, media.length, framesPerSecond(video.rate));
  const request: LookRequest = { path, stripTo, picturesTo: picturesTo ?? null, strip: { step, rows, ...strip }, media, limit: timeLimit };
  return new Promise((resolve, reject) => {
    if (signal?.aborted) {
      reject(new CancelledError());
      return;
    }
    const thread = takeThread();
    const stop = (): void => thread.postMessage('stop');
    signal?.addEventListener('abort', stop, { once: true });
    const end = (report: LookEnding): void => {
      signal?.removeEventListener('abort', stop);
      leaveAlone(thread);
      if (report.kind !== 'lost') giveBack(thread);
      if (signal?.aborted) reject(new CancelledError());
      else if (report.kind === 'lost') reject(new MediaProgramError('looking at it ended too soon', report.said));
      else if (report.kind === 'failed') reject(new MediaProgramError(report.message, report.said));
      else {
        const { summary, damaged } = report;
        if (summary.frames === 0) reject(new MediaProgramError('it has no frame that can be decoded'));
        else resolve({ strip: { ...strip, pictures: Math.min(strip.pictures, Math.ceil(summary.frames / step)) }, summary, damaged });
      }
    };
    thread.on('message', (report: LookReport) => {
      if (report.kind === 'progress') onSeconds?.(report.seconds);
      else end(report);
    });
    thread.once('error', (error) => end({ kind: 'lost', said: error.stack ?? error.message }));
    thread.once('exit', () => end({ kind: 'lost', said: '' }));
    thread.postMessage(request);
  });
}

/** Threads that wait for the next clip: what they do is quicker when they have done it before. */
const idle: { readonly thread: Worker; readonly ends: NodeJS.Timeout }[] = [];

/** Stops listening to a thread; it has listeners of its own for other things. */
function leaveAlone(thread: Worker): void {
  for (const event of ['message', 'error', 'exit']) thread.removeAllListeners(event);
}

function takeThread(): Worker {
  const waiting = idle.pop();
  if (!waiting) return new Worker(WORKER);
  clearTimeout(waiting.ends);
  leaveAlone(waiting.thread);
  waiting.thread.ref();
  return waiting.thread;
}

/** Keeps a thread for the next clip, and ends it when none comes for a while; it holds up nobody who wants to stop. */
function giveBack(thread: Worker): void {
  const forget = (): void => {
    const at = idle.findIndex((one) => one.thread === thread);
    if (at >= 0) clearTimeout(idle.splice(at, 1)[0]!.ends);
  };
  const ends = setTimeout(() => {
    forget();
    void thread.terminate();
  }, IDLE_MS);
  ends.unref();
  thread.unref();
  thread.once('error', forget);
  thread.once('exit', forget);
  idle.push({ thread, ends });
}
