import { BadRequestException, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { Worker } from 'node:worker_threads';
import { MontageFormatError } from '@bluster/core';
import { BadRequest, readDocument, type Reading, type ReadingAnswer, type WasRead } from './read-document.ts';

// Tests run from the sources, but a worker has to be JavaScript: theirs is the one that was built.
const WORKER = new URL(
  import.meta.url.endsWith('.ts') ? '../../../dist/montages/reading/document-reader.worker.js' : './document-reader.worker.js',
  import.meta.url,
);

/** Documents of up to so many characters are read where they are: a few milliseconds, and no thread has to be asked. */
const AT_ONCE = 50_000;
/** Megabytes of objects that reading may take; a document of 20,000 shots takes about a tenth. */
const MOST_MEMORY_MB = 1024;

interface Waiting {
  readonly reading: Reading;
  readonly resolve: (read: WasRead) => void;
  readonly reject: (error: Error) => void;
}

/** Reads documents without holding up the server: large ones in a thread of its own, one after the other. */
@Injectable()
export class DocumentReader implements OnApplicationShutdown {
  private readonly log = new Logger('Documents');
  protected worker: Worker | null = null;
  private waiting: Waiting[] = [];

  /**
   * @throws MontageFormatError where the document cannot be read; BadRequestException where a request is not what it should be
   */
  async read(reading: Reading): Promise<WasRead> {
    if (reading.text.length > AT_ONCE) return this.ask(reading);
    try {
      return readDocument(reading);
    } catch (error) {
      throw error instanceof BadRequest ? new BadRequestException(error.message) : error;
    }
  }

  async onApplicationShutdown(): Promise<void> {
    await this.worker?.terminate();
  }

  private ask(reading: Reading): Promise<WasRead> {
    return new Promise((resolve, reject) => this.post({ reading, resolve, reject }));
  }

  private post(waiting: Waiting): void {
    this.worker ??= this.start();
    this.waiting.push(waiting);
    this.worker.postMessage(waiting.reading);
  }

  private start(): Worker {
    const worker = new Worker(WORKER, { resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB } });
    worker.unref();
    worker.on('message', (answer: ReadingAnswer) => {
      const { resolve, reject } = this.waiting.shift()!;
      if (answer.kind === 'read') resolve(answer.read);
      else reject(asError(answer));
    });
    worker.on('error', (error) => this.log.error(error));
    worker.on('exit', () => {
      this.worker = null;
      // It ended by what it was at; the others are none the worse for it.
      const [culprit, ...others] = this.waiting;
      this.waiting = [];
      culprit?.reject(new MontageFormatError('This montage is too large to be read.'));
      for (const other of others) this.post(other);
    });
    return worker;
  }
}

const asError = ({ kind, message }: Exclude<ReadingAnswer, { kind: 'read' }>): Error =>
  kind === 'format' ? new MontageFormatError(message) : kind === 'request' ? new BadRequestException(message) : new Error(message);
