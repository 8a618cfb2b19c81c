import { Worker } from 'node:worker_threads';
import { Refusal, type FilmWish, type Loudness } from '@bluster/core';
import type { MediaProbe } from '../probe/probe.ts';
import { CancelledError, MediaProgramError } from '../program/run.ts';
import type { FilmTags } from './film-tags.ts';
import type { FaceFiles } from './title-faces.ts';

/** What is made into a film, by the names of files, so that it can be handed to a thread. */
export interface FilmOrder {
  /** a JSON file with the montage */
  readonly montage: string;
  readonly film: string;
  /** where the report of its cuts is written, as JSON: planned, and as they were found in the film */
  readonly report: string;
  /** what is asked for */
  readonly wish: FilmWish;
  readonly tags: FilmTags | null;
  /** how large the film may become, bytes */
  readonly writes: number;
  /** of each clip and photo: the file that is read, and what the clip's picture is; null for photos */
  readonly pictures: Readonly<Record<string, { readonly path: string; readonly video: MediaProbe['video'] }>>;
  /** of each song, sound and clip: its sound as WAV */
  readonly sounds: Readonly<Record<string, string>>;
  /** of each typeface of its own: its file */
  readonly faces: FaceFiles;
}

/** What is said of a finished film in a line. */
export interface FilmSummary {
  readonly frames: number;
  readonly cuts: number;
  /** how far the cut that is furthest from its mark is planned to be, ms */
  readonly worstErrorMs: number;
  readonly emptySlots: number;
  readonly shortShots: number;
  /** how loud it is, as it was measured while it was written; null without sound */
  readonly loudness: Loudness | null;
  /** of the file */
  readonly bytes: number;
  /** how large it became, and its length */
  readonly width: number;
  readonly height: number;
  readonly seconds: number;
  /** what was found when it was read back; null of a single picture */
  readonly proof: ProofSummary | null;
}

/** What is said of a proof in a line, and what its drawing needs: of each cut its film time in seconds and its error in frames. */
export interface ProofSummary {
  readonly good: boolean;
  readonly verdict: string;
  readonly wrongAt: number | null;
  /** of the cuts that were measured against a mark, the one that is farthest from it, ms */
  readonly worstErrorMs: number | null;
  readonly soundLateMs: number | null;
}

/** What the thread says. */
export type FilmNews =
  | { readonly kind: 'part'; readonly done: number }
  | { readonly kind: 'done'; readonly summary: FilmSummary }
  | { readonly kind: 'failed'; readonly of: 'asked' | 'media' | 'disk' | 'program'; readonly message: string; readonly said: string };

// Tests run from the sources, but a worker has to be JavaScript: theirs is the one that was built.
const WORKER = new URL(import.meta.url.endsWith('.ts') ? '../../dist/film/film.worker.js' : './film.worker.js', import.meta.url);

/** Megabytes of objects, not of pictures, that a film may take: a montage of 20,000 shots takes a tenth. */
const MOST_MEMORY_MB = 1024;

/**
 * Renders a film and its report in a thread of its own: a montage of whatever size holds up nobody who asks the server for
 * something, and where it asks for too much memory, the thread ends and not the server.
 * @throws MediaProgramError, CancelledError, and Error with code ENOSPC on a full disk; an unfinished film is removed
 */
export function filmInThread(
  order: FilmOrder,
  { signal, onPart }: { readonly signal?: AbortSignal | undefined; readonly onPart?: (done: number) => void },
): Promise<FilmSummary> {
  if (signal?.aborted) return Promise.reject(new CancelledError());
  return new Promise((resolve, reject) => {
    const worker = new Worker(WORKER, { workerData: order, resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB } });
    const stop = (): void => worker.postMessage('stop');
    signal?.addEventListener('abort', stop, { once: true });
    let news: FilmNews | null = null;
    worker.on('message', (message: FilmNews) => {
      if (message.kind === 'part') onPart?.(message.done);
      else news = message;
    });
    worker.once('error', (error) => (news = { kind: 'failed', of: 'program', message: error.stack ?? error.message, said: '' }));
    worker.once('exit', () => {
      signal?.removeEventListener('abort', stop);
      if (signal?.aborted) reject(new CancelledError());
      else if (news?.kind === 'done') resolve(news.summary);
      else reject(failure(news));
    });
  });
}

function failure(news: FilmNews | null): Error {
  if (news?.kind !== 'failed') return new MediaProgramError('putting the film together ended too soon');
  if (news.of === 'asked') return new Refusal(news.message);
  if (news.of === 'media') return new MediaProgramError(news.message, news.said);
  return Object.assign(new Error(news.message), news.of === 'disk' ? { code: 'ENOSPC' } : {});
}
