import { Injectable } from '@nestjs/common';
import { statfs } from 'node:fs/promises';
import { Config } from '../config.ts';

/** Bytes of the disk that are never filled with media, so that there is always room to save in; of a small disk a part. */
const RESERVE_BYTES = 512e6;
const RESERVE_PART = 0.05;

/** There is not enough room for something, said before it is begun. */
export class NoRoomError extends Error {
  /** what the system says of a full disk, so that this is taken for one */
  readonly code = 'ENOSPC';

  /** @param missing sentences that say what is missing */
  constructor(readonly missing: string) {
    super(`${missing} Make room and try again; nothing that was saved before is lost.`);
  }
}

/** A number of bytes for people, in powers of ten as disks are sold. */
export function spoken(bytes: number): string {
  if (bytes >= 1e9) return `${(bytes / 1e9).toFixed(1)} GB`;
  return `${Math.max(1, Math.round(bytes / 1e6))} MB`;
}

/** What room is left on the disk of the data folder. */
@Injectable()
export class DiskRoom {
  constructor(private readonly config: Config) {}

  /**
   * Makes sure that there is room for something and for the reserve.
   * @param bytes about how much it needs
   * @param what it is, as the beginning of a sentence
   * @throws NoRoomError where there is not
   */
  async require(bytes: number, what: string): Promise<void> {
    const { free, reserve } = await this.disk();
    if (free - reserve >= bytes) return;
    throw new NoRoomError(
      `${what} needs about ${spoken(bytes)}. The disk has ${spoken(free)} left, and Bluster leaves ${spoken(reserve)} free to save in.`,
    );
  }

  /** How many bytes may be written without touching the reserve. */
  async left(): Promise<number> {
    const { free, reserve } = await this.disk();
    return Math.max(0, free - reserve);
  }

  private async disk(): Promise<{ readonly free: number; readonly reserve: number }> {
    const { bavail, blocks, bsize } = await statfs(this.config.dataFolder);
    return { free: bavail * bsize, reserve: Math.min(RESERVE_BYTES, RESERVE_PART * blocks * bsize) };
  }
}
