import { Worker } from 'node:worker_threads';
import { framesPerSecond, type ClipSummary } from '@bluster/core';
import { planStrip, type Filmstrip, type StripPlan } from './filmstrip.ts';
import type { MediaProbe } from '../probe/probe.ts';
import { CancelledError, MediaProgramError, type RunOptions } from '../program/run.ts';

/** What the worker is asked for. */
export interface LookRequest {
  readonly path: string;
  readonly stripTo: string;
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

// Tests run from the sources, but a worker has to be JavaScript: theirs is the one that was built.
const WORKER = new URL(import.meta.url.endsWith('.ts') ? '../../dist/clip/film-look.worker.js' : './film-look.worker.js', import.meta.url);

/**
 * Makes a clip's filmstrip and finds out what happens in it, in one decode: motion, proposed hits, picture changes, colours; and
 * whether some of its pictures are damaged.
 * @throws MediaProgramError where it cannot be decoded; CancelledError
 */
export function lookAtFilm(
  path: string,
  stripTo: string,
  media: MediaProbe,
  { signal, timeLimit = 600_000, onSeconds }: Pick<RunOptions, 'signal' | 'timeLimit' | 'onSeconds'> = {},
): Promise<{ strip: Filmstrip; summary: ClipSummary; damaged: boolean }> {
  const video = media.video!;
  const { step, rows, ...strip } = planStrip(video, media.length, framesPerSecond(video.rate));
  const request: LookRequest = { path, stripTo, strip: { step, rows, ...strip }, media, limit: timeLimit };
  return new Promise((resolve, reject) => {
    if (signal?.aborted) {
      reject(new CancelledError());
      return;
    }
    const worker = new Worker(WORKER, { workerData: request });
    const stop = (): void => worker.postMessage('stop');
    signal?.addEventListener('abort', stop, { once: true });
    let report: LookReport | null = null;
    worker.on('message', (message: LookReport) => {
      if (message.kind === 'progress') onSeconds?.(message.seconds);
      else report = message;
    });
    worker.once(
      'error',
      (error) => (report = { kind: 'failed', message: 'looking at it ended too soon', said: error.stack ?? error.message }),
    );
    worker.once('exit', () => {
      signal?.removeEventListener('abort', stop);
      if (signal?.aborted) reject(new CancelledError());
      else if (report?.kind === 'done') {
        const { summary, damaged } = report;
        if (summary.frames === 0) reject(new MediaProgramError('it has no frame that can be decoded'));
        else resolve({ strip: { ...strip, pictures: Math.min(strip.pictures, Math.ceil(summary.frames / step)) }, summary, damaged });
      } else if (report?.kind === 'failed') reject(new MediaProgramError(report.message, report.said));
      else reject(new MediaProgramError('looking at it ended too soon'));
    });
  });
}
