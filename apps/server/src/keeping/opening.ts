import { Logger } from '@nestjs/common';
import type { Config } from '../config.ts';
import { copyDaily, copyDatabase, stepsAreDue } from './database-copies.ts';
import { examine } from './examination.ts';
import { FolderLock } from './folder-lock.ts';
import { endLeftovers, markPrograms } from './leftover-programs.ts';

/**
 * Takes a data folder for this process: holds it, ends what an earlier server left at work, looks whether its database is one that
 * this Bluster understands, copies it, and puts right what was left over.
 * @throws FolderTakenError, DatabaseProblem before anything is changed
 */
export async function openFolder(config: Config): Promise<FolderLock> {
  const lock = FolderLock.take(config.dataFolder);
  const log = new Logger('Keeping');
  try {
    const due = stepsAreDue(config);
    config.makeFolders();
    markPrograms(config.dataFolder);
    const ended = endLeftovers(config.dataFolder);
    if (ended > 0) log.warn(`${ended} media program(s) of an earlier server were still at work and have been ended.`);
    await (due ? copyDatabase(config) : copyDaily(config));
    tidy(config, log);
    return lock;
  } catch (error) {
    lock.release();
    throw error;
  }
}

/** Puts right what an earlier server left over. That must never keep this one from starting: what cannot be mended is logged. */
function tidy(config: Config, log: Logger): void {
  try {
    const { findings, close } = examine(config);
    for (const { says, mend } of findings) {
      mend?.();
      log.warn(`${says}${mend ? ' Mended.' : ''}`);
    }
    close();
  } catch (error) {
    log.error(error);
  }
}
