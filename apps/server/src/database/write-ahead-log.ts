import { Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { close, closeSync, fdatasync, fstatSync, openSync, statfsSync, writeSync } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import { Worker } from 'node:worker_threads';
import { DataSource } from 'typeorm';
import { Config } from '../config.ts';

// Tests run from the sources, but a worker has to be JavaScript: theirs is the one that was built.
const WORKER = new URL(
  import.meta.url.endsWith('.ts') ? '../../dist/database/checkpoint.worker.js' : './checkpoint.worker.js',
  import.meta.url,
);

/**
 * So many pages of 4096 bytes come into the log before it is moved into the database: 64 MB. When it is written from its beginning
 * again, SQLite puts its first page on the disk in the thread that answers everybody: not to be had often.
 */
const MOST_PAGES = 16_384;
/** So large the log is from the start, bytes: what comes while it is moved has room as well. */
const ROOM = 80 * 2 ** 20;
const BLOCK = 2 ** 20;
/** On a disk with less than so many times that left, none is taken beforehand. */
const ROOMS_LEFT = 20;
/** Work that nobody asked for by a request writes too: how far it has come, for one. */
const LOOK_MS = 60_000;

/**
 * What a database is opened with. Its log is written without waiting for the disk, and not moved into the database by whoever
 * happens to write the thousandth page: both would hold up everybody else, and are done by WriteAheadLog, in other threads.
 */
export function prepareDatabase(database: { pragma: (text: string) => unknown }): void {
  database.pragma('foreign_keys = ON');
  database.pragma('synchronous = NORMAL');
  database.pragma('wal_autocheckpoint = 0');
}

/**
 * Sees to it that what was written stays through a power cut. What SQLite has taken is in its log, in the order in which it came, and
 * is taken up again from there (sqlite.org/wal.html): so it is kept as soon as the log is on the disk.
 */
@Injectable()
export class WriteAheadLog implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly says = new Logger('Database');
  private file: Promise<FileHandle> | null = null;
  private flushing: Promise<void> | null = null;
  private next: Promise<void> | null = null;
  private checkpoint: Promise<void> | null = null;
  private closed = false;
  private timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly config: Config,
    private readonly database: DataSource,
  ) {}

  onApplicationBootstrap(): void {
    // Elsewhere nobody is there to be held up.
    if (this.config.webFolder !== null) this.layOut();
    this.timer = setInterval(() => void this.shorten(), LOOK_MS);
    this.timer.unref();
  }

  /**
   * Comes when all that has been written so far is on the disk. Those who ask while the disk is at it share the next turn.
   * @throws Error of the system where the disk does not take it
   */
  kept(): Promise<void> {
    if (!this.flushing) return (this.flushing = this.flush().finally(() => (this.flushing = null)));
    const soon = (): Promise<void> => {
      this.next = null;
      return this.kept();
    };
    return (this.next ??= this.flushing.then(soon, soon));
  }

  /**
   * Lays out the log on the disk beforehand. SQLite writes to it from the thread that answers everybody, and a file that grows is locked
   * while the system looks for room for it and a disk is written to (ext4's i_data_sem: up to 66 ms beside films and uploads). What
   * lies behind the last whole page of a log counts for nothing, and it is written from its beginning again when it has been moved.
   */
  private layOut(): void {
    const { bavail, bsize } = statfsSync(this.config.dataFolder);
    if (bavail * bsize < ROOMS_LEFT * ROOM) return;
    const log = openSync(`${this.config.databaseFile}-wal`, 'a');
    try {
      const block = Buffer.alloc(BLOCK);
      // In one go: nothing else may write to its end meanwhile.
      for (let size = fstatSync(log).size; size < ROOM; size += writeSync(log, block, 0, Math.min(BLOCK, ROOM - size)));
    } catch (error) {
      this.says.warn(error);
      closeSync(log);
      return;
    }
    // Only now the system looks for room.
    fdatasync(log, () => close(log));
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed = true;
    clearInterval(this.timer);
    await this.flushing?.catch(() => undefined);
    await this.checkpoint;
    await (await this.file)?.close();
    this.file = null;
  }

  /** Puts the log on the disk, in one of Node's threads. */
  protected async flush(): Promise<void> {
    // SQLite holds no lock on this file, so that closing it takes none away (sqlite.org/lockingv3.html, posix advisory locks).
    this.file ??= open(`${this.config.databaseFile}-wal`, 'r+');
    const file = await this.file.catch((error: unknown) => {
      this.file = null;
      throw error;
    });
    await file.datasync();
    // What was written is kept, whatever becomes of this.
    void this.shorten();
  }

  /** Has the log moved into the database where it has grown long. Where that cannot be, it stays long, and is looked at again. */
  private async shorten(): Promise<void> {
    if (this.checkpoint || this.closed) return;
    try {
      const [{ log, checkpointed }] = await this.database.query<[{ log: number; checkpointed: number }]>('PRAGMA wal_checkpoint(NOOP)');
      if (log - checkpointed < MOST_PAGES || this.checkpoint || this.closed) return;
      this.checkpoint = this.moved().finally(() => (this.checkpoint = null));
    } catch (error) {
      if (!this.closed) this.says.error(error);
    }
  }

  private moved(): Promise<void> {
    return new Promise((done) => {
      const worker = new Worker(WORKER, { workerData: this.config.databaseFile });
      worker.on('error', (error) => this.says.error(error));
      worker.on('exit', () => done());
    });
  }
}
