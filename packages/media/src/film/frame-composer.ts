import { Worker } from 'node:worker_threads';
import { NO_FILES, type ComposedLayer, type Dressing, type DressingFiles } from './compose-frame.ts';
import type { Size } from './frame-planes.ts';

/** What the worker is asked for. */
export interface ComposeRequest {
  readonly layers: readonly ComposedLayer[];
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
  /** why the thread ended, if it did: also between two frames, when nobody waits for it */
  private ended: Error | null = null;

  /** @param files what its looks and titles are made of */
  constructor(
    private readonly size: Size,
    private readonly files: DressingFiles = NO_FILES,
  ) {}

  private start(): Worker {
    const worker = new Worker(WORKER, { workerData: this.files });
    worker.on('error', (error) => (this.ended = error));
    worker.on('exit', () => (this.ended ??= new Error('putting the film together ended too soon')));
    return worker;
  }

  /** @throws Error where the thread ended */
  compose(layers: readonly ComposedLayer[], dressing: Dressing): Promise<Uint8Array> {
    const worker = (this.worker ??= this.start());
    return new Promise((resolve, reject) => {
      if (this.ended) {
        reject(this.ended);
        return;
      }
      const forget = (): void => void worker.off('message', done).off('exit', exited);
      const done = (frame: Uint8Array): void => {
        forget();
        resolve(frame);
      };
      // What was wrong comes before it, and has been written down above.
      const exited = (): void => {
        forget();
        reject(this.ended!);
      };
      worker.on('message', done).on('exit', exited);
      worker.postMessage({ layers, dressing, size: this.size } satisfies ComposeRequest);
    });
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }
}
