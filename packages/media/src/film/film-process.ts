import { randomUUID } from 'node:crypto';
import { readdir, rm, writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { createInterface } from 'node:readline';
import type { Readable } from 'node:stream';
import { Refusal, type FilmWish, type Loudness } from '@bluster/core';
import type { MediaProbe } from '../probe/probe.ts';
import { CancelledError, MediaProgramError } from '../program/run.ts';
import { startOwn } from '../program/own-program.ts';
import type { FilmTags } from './film-tags.ts';
import type { FaceFiles } from './title-faces.ts';

/** What is made into a film, by the names of files, so that it can be handed to another process. */
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

/** What the process says, a line of JSON each. */
export type FilmNews =
  | { readonly kind: 'part'; readonly done: number }
  | { readonly kind: 'done'; readonly summary: FilmSummary }
  | { readonly kind: 'failed'; readonly of: 'asked' | 'media' | 'disk' | 'program'; readonly message: string; readonly said: string };

// Tests run from the sources, but a program has to be JavaScript: theirs is the one that was built.
const PROGRAM = join(import.meta.dirname, import.meta.filename.endsWith('.ts') ? '../../dist/film' : '.', 'film.process.js');

/** Megabytes of objects, not of pictures, that a film may take: a montage of 20,000 shots takes a tenth. */
const MOST_MEMORY_MB = 1024;
/** What is called off puts away what it had begun, and may take so long for it, ms. */
const TO_END_MS = 10_000;

/**
 * Renders a film and its report in a process of its own: a montage of whatever size holds up nobody who asks the server for
 * something, the programs that it starts do not make the server stand still, and where it asks for too much memory, it ends and not
 * the server.
 * @throws MediaProgramError, CancelledError, and Error with code ENOSPC on a full disk; an unfinished film is removed
 */
export async function filmInProcess(order: FilmOrder, how: Following): Promise<FilmSummary> {
  if (how.signal?.aborted) throw new CancelledError();
  // Called like what is unfinished: where all ends at once, the next server takes it away.
  const path = `${order.report}.${randomUUID()}.part`;
  try {
    await writeFile(path, JSON.stringify(order));
    return await made(path, how);
  } catch (error) {
    // A process that was ended put nothing away.
    await takeUnfinished(order.film);
    await takeUnfinished(order.report);
    throw error;
  } finally {
    await rm(path, { force: true });
  }
}

/** Takes away what was begun under other names for a file (see makeWhole), and what was made for that. */
async function takeUnfinished(path: string): Promise<void> {
  for (const name of await readdir(dirname(path)))
    if (name.startsWith(`${basename(path)}.`) && /\.part(\.|$)/.test(name)) await rm(join(dirname(path), name), { force: true });
}

/** How a film is followed while it is made. */
interface Following {
  readonly signal?: AbortSignal | undefined;
  /** told how much is done, 0 to 1 */
  readonly onPart?: (done: number) => void;
}

function made(order: string, { signal, onPart }: Following): Promise<FilmSummary> {
  return new Promise((resolve, reject) => {
    const child = startOwn(PROGRAM, [order], { memory: MOST_MEMORY_MB });
    let news: FilmNews | null = null;
    let killed: NodeJS.Timeout | undefined;
    const stop = (): void => {
      // Before it has said anything, it has begun nothing.
      child.kill(news ? 'SIGTERM' : 'SIGKILL');
      killed = setTimeout(() => child.kill('SIGKILL'), TO_END_MS);
    };
    signal?.addEventListener('abort', stop, { once: true });
    createInterface({ input: child.stdout as Readable }).on('line', (line) => {
      news = newsOf(line) ?? news;
      if (news?.kind === 'part') onPart?.(news.done);
    });
    let said = '';
    (child.stderr as Readable).on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(-8000)));
    child.once('error', (error: Error) => (said += error.stack ?? error.message));
    child.once('close', () => {
      clearTimeout(killed);
      signal?.removeEventListener('abort', stop);
      if (signal?.aborted) reject(new CancelledError());
      else if (news?.kind === 'done') resolve(news.summary);
      else reject(failure(news, said));
    });
  });
}

/** What a line says; null where it is half a line, as that of a process may be that was ended over it. */
function newsOf(line: string): FilmNews | null {
  try {
    return JSON.parse(line) as FilmNews;
  } catch {
    return null;
  }
}

function failure(news: FilmNews | null, said: string): Error {
  if (news?.kind !== 'failed') return new MediaProgramError('putting the film together ended too soon', said);
  if (news.of === 'asked') return new Refusal(news.message);
  if (news.of === 'media') return new MediaProgramError(news.message, news.said);
  return Object.assign(new Error(news.message), news.of === 'disk' ? { code: 'ENOSPC' } : {});
}
