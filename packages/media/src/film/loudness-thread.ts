import { Worker } from 'node:worker_threads';
import type { Loudness } from '@bluster/core';

/** Whose loudness is measured. */
export interface LoudnessOrder {
  /** the montage as JSON */
  readonly montage: string;
  /** of each song, sound and clip: its sound as WAV */
  readonly sounds: Readonly<Record<string, string>>;
}

/** What was measured. */
export interface MeasuredLoudness {
  readonly loudness: Loudness;
  /** how far the loudest places are turned down, so that nothing is clipped, dB; 0 where nothing is */
  readonly turnedDown: number;
}

const WORKER = new URL(import.meta.url.endsWith('.ts') ? '../../dist/film/loudness.worker.js' : './loudness.worker.js', import.meta.url);
const MOST_MEMORY_MB = 512;

/** Measures how loud the film of a montage would be, in a thread of its own. @throws Error where its sounds cannot be read */
export function loudnessInThread(order: LoudnessOrder): Promise<MeasuredLoudness> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(WORKER, { workerData: order, resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB } });
    worker.once('message', resolve);
    worker.once('error', reject);
    worker.once('exit', () => reject(new Error('measuring ended too soon')));
  });
}
