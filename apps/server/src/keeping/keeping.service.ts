import { Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { Config } from '../config.ts';
import { copyDaily } from './database-copies.ts';
import { FolderLock } from './folder-lock.ts';
import { strayFiles } from './examination.ts';

const AN_HOUR_MS = 3600_000;
/** What has not been touched for so long is no work under way. */
const LEFT_OVER_MS = 24 * AN_HOUR_MS;

/** While the server runs: a copy of the database a day, and files that were never finished are removed. It gives the folder back. */
@Injectable()
export class KeepingService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly log = new Logger('Keeping');
  private timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly config: Config,
    private readonly lock: FolderLock,
  ) {}

  onApplicationBootstrap(): void {
    this.timer = setInterval(() => void this.keep(), AN_HOUR_MS);
    this.timer.unref();
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
    this.lock.release();
  }

  private async keep(): Promise<void> {
    try {
      await copyDaily(this.config);
      for (const { says, mend } of strayFiles(this.config, LEFT_OVER_MS)) {
        mend?.();
        this.log.warn(`${says} Removed.`);
      }
    } catch (error) {
      this.log.error(error);
    }
  }
}
