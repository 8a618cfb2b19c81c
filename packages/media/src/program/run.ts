import { spawn } from 'node:child_process';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { GUARDED_ENV, guarded, standBack } from './guarded.ts';
import { MediaProgramError, OutgrownError, failureOf } from './media-program-error.ts';
import { programPath } from './programs.ts';
import { startElsewhere, type Program } from './starter.ts';

export { MediaProgramError, OutgrownError } from './media-program-error.ts';

/** Work that was called off. */
export class CancelledError extends Error {
  constructor() {
    super('Cancelled.');
  }
}

export interface RunOptions {
  readonly signal?: AbortSignal | undefined;
  /** killed after this, ms */
  readonly timeLimit?: number;
  /** standard output is collected up to this, bytes; more is an error */
  readonly outputLimit?: number;
  /** how much memory it may ask for, bytes; null for as much as it needs, where it reads nothing that a stranger made */
  readonly memory?: number | null;
  /** how large a file it may write, bytes; as large as it likes where that is not said */
  readonly writes?: number;
  /** what it reads from its standard input, which is closed otherwise */
  readonly input?: Iterable<Uint8Array>;
  /** takes standard output as it comes, in place of collecting it */
  readonly onOutput?: (chunk: Buffer) => void;
  /** told of seconds of media done, for programs started with progressArgs */
  readonly onSeconds?: (seconds: number) => void;
  /** told at the end how often a program that went on complained of its input */
  readonly onComplaints?: (count: number) => void;
}

/** ffmpeg told so says how far it is on standard error. */
export const PROGRESS_ARGS = ['-progress', 'pipe:2', '-nostats'] as const;

/** The containers that are read: of clips, of songs, and of pictures. None of them points at other files. */
const FORMATS = [
  'mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mpegts,mpeg,mpegvideo,h264,hevc,gif,flv,asf,mxf,dv',
  'wav,w64,mp3,flac,ogg,aac,aiff,caf,ac3,eac3,amr',
  'image2,jpeg_pipe,png_pipe,rawvideo',
].join();

/** Media files may not make ffmpeg open other files: it may use no other protocol than these, and read no other formats. */
export const HOSTILE_INPUT = ['-protocol_whitelist', 'file,pipe', '-format_whitelist', FORMATS] as const;

/** What decoders say of pictures that are broken or missing. */
const COMPLAINT = /error while decoding|corrupt|concealing|invalid data found|missing picture|slice.*(damaged|error)|ac-tex damaged/gi;

const TEN_MINUTES = 10 * 60_000;

/**
 * Starts a media program with its life tied to a signal and to this process.
 * @param input what it reads, 'open' where that is written to its standard input, or nothing
 */
export function start(
  name: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  {
    signal,
    input,
    memory,
    writes,
  }: Pick<RunOptions, 'signal' | 'memory' | 'writes'> & { readonly input?: Iterable<Uint8Array> | 'open' } = {},
): Program {
  if (signal?.aborted) throw new CancelledError();
  const [program, words] = guarded(programPath(name), args, { memory, writes });
  const env = { ...process.env, ...GUARDED_ENV };
  const child = (input ? null : startElsewhere({ program, words, env, folder: process.cwd() })) ?? startHere(program, words, env, !!input);
  // A program that ends early closes its input: why, it says elsewhere.
  if (input && input !== 'open') pipeline(Readable.from(input), child.stdin!).catch(() => undefined);
  const stop = (): void => void child.kill('SIGKILL');
  signal?.addEventListener('abort', stop, { once: true });
  child.once('close', () => signal?.removeEventListener('abort', stop));
  return child;
}

/** Starts a program from this process. @param reads whether something is written to its standard input */
export function startHere(program: string, words: readonly string[], env: NodeJS.ProcessEnv, reads: boolean): Program {
  const child = spawn(program, words, { stdio: [reads ? 'pipe' : 'ignore', 'pipe', 'pipe'], env });
  standBack(child.pid);
  return child;
}

/**
 * Runs a media program to its end and returns its standard output.
 * @throws MediaProgramError when it fails or takes too long; CancelledError when the signal says so
 */
export function run(name: 'ffmpeg' | 'ffprobe', args: readonly string[], options: RunOptions = {}): Promise<Buffer> {
  const { signal, timeLimit = TEN_MINUTES, outputLimit = 1 << 20, onOutput, onSeconds, onComplaints, input, memory, writes } = options;
  return new Promise((resolve, reject) => {
    const child = start(name, args, {
      signal,
      ...(input ? { input } : {}),
      ...(memory === undefined ? {} : { memory }),
      ...(writes === undefined ? {} : { writes }),
    });
    const chunks: Buffer[] = [];
    let size = 0;
    let said = '';
    let complaints = 0;
    let why: Error | null = null;
    const timer = setTimeout(() => {
      why = new MediaProgramError('it took too long');
      child.kill('SIGKILL');
    }, timeLimit);
    (child.stdout as Readable).on('data', (chunk: Buffer) => {
      size += chunk.length;
      if (size > outputLimit) {
        why = new MediaProgramError('it said too much');
        child.kill('SIGKILL');
      } else if (onOutput) onOutput(chunk);
      else chunks.push(chunk);
    });
    (child.stderr as Readable).on('data', (chunk: Buffer) => {
      const text = chunk.toString();
      said = (said + text).slice(-8000);
      complaints += text.match(COMPLAINT)?.length ?? 0;
      const times = onSeconds && [...text.matchAll(/out_time_ms=(\d+)/g)].at(-1);
      if (times) onSeconds(Number(times[1]) / 1e6);
    });
    child.once('error', (error: Error) => (why = error));
    child.once('close', (code: number | null, signalled: NodeJS.Signals | null) => {
      clearTimeout(timer);
      if (signal?.aborted) reject(new CancelledError());
      else if (why) reject(why);
      else if (signalled === 'SIGXFSZ') reject(new OutgrownError());
      else if (signalled) reject(new MediaProgramError('the decoder gave up on it'));
      else if (code !== 0) reject(failureOf(said));
      else {
        onComplaints?.(complaints);
        resolve(Buffer.concat(chunks));
      }
    });
  });
}
