import { Worker } from 'node:worker_threads';
import { NO_FILES, type ComposedLayer, type Dressing, type DressingFiles } from './compose-frame.ts';
import type { Size } from './frame-planes.ts';

/** What the worker is asked for. */
export interface ComposeRequest {
  readonly layers: readonly ComposedLayer[];
  readonly dressing: Dressing;
  readonly size: Size;
  /** where it is put, in memory that both threads share */
  readonly into: Uint8Array;
}

// Tests run from the sources, but a worker has to be JavaScript: theirs is the one that was built.
const WORKER = new URL(
  import.meta.url.endsWith('.ts') ? '../../dist/film/frame-composer.worker.js' : './frame-composer.worker.js',
  import.meta.url,
);

/** Puts frames together in a thread of its own, one after the other; it is started when there is one that needs it. */
export class FrameComposer {
  private worker: Worker | null = null;
  /** why the thread ended, if it did: also between two frames, when nobody waits for it */
  private ended: Error | null = null;

  /** those who wait for a frame, in the order in which they asked */
  private readonly waiting: { readonly put: () => void; readonly failed: (reason: Error) => void }[] = [];

  /** @param files what its looks and titles are made of */
  constructor(
    private readonly size: Size,
    private readonly files: DressingFiles = NO_FILES,
  ) {}

  private start(): Worker {
    const worker = new Worker(WORKER, { workerData: this.files });
    worker.on('message', () => this.waiting.shift()?.put());
    worker.on('error', (error) => (this.ended = error));
    worker.on('exit', () => {
      // What was wrong comes before it.
      this.ended ??= new Error('putting the film together ended too soon');
      for (const { failed } of this.waiting.splice(0)) failed(this.ended);
    });
    return worker;
  }

  /**
   * @param into where the frame is put, in shared memory
   * @returns that
   * @throws Error where the thread ended
   */
  compose(layers: readonly ComposedLayer[], dressing: Dressing, into: Uint8Array): Promise<Uint8Array> {
    const worker = (this.worker ??= this.start());
    return new Promise((resolve, reject) => {
      if (this.ended) {
        reject(this.ended);
        return;
      }
      this.waiting.push({ put: () => resolve(into), failed: reject });
      worker.postMessage({ layers, dressing, size: this.size, into } satisfies ComposeRequest);
    });
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }
}
