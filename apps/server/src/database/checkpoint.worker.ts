// Moves what is in the database's log into the database, and ends: that waits for the disk several times. Who reads and writes meanwhile
// is not held up (PASSIVE); what comes meanwhile stays in the log.
import Database from 'better-sqlite3';
import { workerData } from 'node:worker_threads';

const MOST_TURNS = 20;

const database = new Database(workerData as string, { fileMustExist: true });
database.pragma('synchronous = FULL');
// Only a log that was moved to its last page is written from its beginning again; each turn has less left to move.
for (let turn = 0; turn < MOST_TURNS; turn++) {
  const [moved] = database.pragma('wal_checkpoint(PASSIVE)') as [{ log: number; checkpointed: number }];
  if (moved.log === moved.checkpointed) break;
}
database.close();
