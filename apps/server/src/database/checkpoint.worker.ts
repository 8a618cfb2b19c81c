// Moves what is in the database's log into the database, and ends: that waits for the disk several times. Who reads and writes meanwhile
// is not held up (PASSIVE); what comes meanwhile stays in the log.
import Database from 'better-sqlite3';
import { workerData } from 'node:worker_threads';

const database = new Database(workerData as string, { fileMustExist: true });
database.pragma('synchronous = FULL');
database.pragma('wal_checkpoint(PASSIVE)');
database.close();
