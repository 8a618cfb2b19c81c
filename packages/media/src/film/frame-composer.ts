import { Worker } from 'node:worker_threads';
import type { Dressing, LayerPicture } from './compose-frame.ts';
import type { Size } from './frame-planes.ts';

/** What the worker is asked for. */
export interface ComposeRequest {
  readonly layers: readonly LayerPicture[];
  readonly dressing: Dressing;
  readonly size: Size;
}

// Tests run from the sources, but a worker has to be JavaScript: theirs is the one that was built.
const WORKER = new URL(
  import.meta.url.endsWith('.ts') ? '../../dist/film/frame-composer.worker.js' : './frame-composer.worker.js',
  import.meta.url,
);

/** Puts frames together in a thread of its own, one after the other; it is started when there is one that needs it. */
export class FrameComposer {
  private worker: Worker | null = null;

  constructor(private readonly size: Size) {}

  /** @throws Error where the thread ended */
  compose(layers: readonly LayerPicture[], dressing: Dressing): Promise<Uint8Array> {
    const worker = (this.worker ??= new Worker(WORKER));
    return new Promise((resolve, reject) => {
      const done = (frame: Uint8Array): void => {
        worker.off('error', failed).off('exit', ended);
        resolve(frame);
      };
      const failed = (error: Error): void => reject(error);
      const ended = (): void => reject(new Error('putting the film together ended too soon'));
      worker.once('message', done).once('error', failed).once('exit', ended);
      worker.postMessage({ layers, dressing, size: this.size } satisfies ComposeRequest);
    });
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }
}
