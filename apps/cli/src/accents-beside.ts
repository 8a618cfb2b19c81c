import { Worker } from 'node:worker_threads';
import type { Accent } from '@bluster/core/music/accents';
import type { OnsetStrength } from '@bluster/core/music/onset-strength';
import type { Signal } from '@bluster/core/music/signal';

/** What the accents of a song are found by. */
export interface ToFindAccentsIn {
  readonly signal: Signal;
  readonly onsets: Pick<OnsetStrength, 'fps' | 'low' | 'mid' | 'high'>;
}

/**
 * The accents of a song, found by a thread of their own while its beats are counted.
 * @returns what asks for them, in the order of time, and what ends the thread where they are not wanted any more
 */
export function accentsBeside(
  signal: Signal,
  { fps, low, mid, high }: OnsetStrength,
): { readonly found: Promise<readonly Accent[]>; readonly end: () => void } {
  const workerData: ToFindAccentsIn = { signal, onsets: { fps, low, mid, high } };
  const worker = new Worker(new URL('./accents.worker.js', import.meta.url), { workerData });
  const found = new Promise<readonly Accent[]>((resolve, reject) => {
    worker.once('message', resolve);
    worker.once('error', reject);
    worker.once('exit', (code) => reject(new Error(`The thread that finds accents ended with ${code}.`)));
  });
  // Where no beats are found nobody asks for the accents.
  found.catch(() => undefined);
  return { found, end: () => void worker.terminate() };
}
