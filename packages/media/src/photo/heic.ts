import { Worker } from 'node:worker_threads';

/** A picture, decoded: RGBA, 8 bit. */
export interface RawPicture {
  readonly width: number;
  readonly height: number;
  readonly bytes: Uint8Array;
}

// Tests run from the sources, but a worker has to be JavaScript: theirs is the one that was built.
const WORKER = new URL(import.meta.url.endsWith('.ts') ? '../../dist/photo/heic.worker.js' : './heic.worker.js', import.meta.url);
/** MB of JavaScript's own; pictures lie beside it. */
const MEMORY_MB = 512;
const LIMIT_MS = 120_000;

/** Decodes a HEIC photo, upright. @throws Error where it cannot be decoded, or takes more than two minutes */
export function decodeHeic(path: string): Promise<RawPicture> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(WORKER, { workerData: { path }, resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB } });
    const timer = setTimeout(() => {
      void worker.terminate();
      reject(new Error('it took too long'));
    }, LIMIT_MS);
    worker.once('message', resolve);
    worker.once('error', reject);
    worker.once('exit', () => {
      clearTimeout(timer);
      reject(new Error('decoding ended too soon'));
    });
  });
}
