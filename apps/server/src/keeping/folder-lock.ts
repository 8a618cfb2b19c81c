import Database from 'better-sqlite3';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Refusal } from '@bluster/core';

/** Raised where another Bluster works in the data folder; the message says which. */
export class FolderTakenError extends Refusal {}

interface Owner {
  readonly pid: number;
  /** ISO 8601 */
  readonly since: string;
}

/**
 * Holds a data folder for one process. It is a lock of SQLite's on a file of its own, which the system gives back when the process
 * ends, however it ends: nothing stale can stay.
 */
export class FolderLock {
  private constructor(private readonly database: Database.Database) {}

  /** @throws FolderTakenError before anything in the folder is touched */
  static take(folder: string): FolderLock {
    mkdirSync(folder, { recursive: true });
    const database = new Database(join(folder, 'lock'), { timeout: 0 });
    const owner = join(folder, 'owner.json');
    try {
      database.exec('BEGIN EXCLUSIVE');
    } catch (error) {
      database.close();
      if ((error as { code?: string }).code !== 'SQLITE_BUSY') throw error;
      throw new FolderTakenError(
        `Another Bluster works in ${folder}${ownerOf(owner)}. Stop it first, or choose another folder with BLUSTER_DATA.`,
      );
    }
    const mine: Owner = { pid: process.pid, since: new Date().toISOString() };
    writeFileSync(owner, `${JSON.stringify(mine)}\n`);
    return new FolderLock(database);
  }

  release(): void {
    if (this.database.open) this.database.close();
  }
}

/** Who holds it, in words; it says so for people alone, so that it does not matter where it cannot be read. */
function ownerOf(path: string): string {
  try {
    const { pid, since } = JSON.parse(readFileSync(path, 'utf8')) as Owner;
    return ` (process ${pid}, since ${since.slice(0, 19).replace('T', ' ')})`;
  } catch {
    return '';
  }
}
