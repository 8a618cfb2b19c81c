// ./bluster backup, restore and doctor: what keeps a data folder whole, without a server.
import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { isRefusal } from '@bluster/core';
import { Config } from './config.ts';
import { copyDatabase, listCopies, restoreDatabase, stepsAreDue } from './keeping/database-copies.ts';
import { examine } from './keeping/examination.ts';
import { FolderLock } from './keeping/folder-lock.ts';

const USAGE = `usage: ./bluster backup [FILE] | backup --list | restore FILE | doctor [--mend]`;
const root = resolve(import.meta.dirname, '../../..');
const config = new Config(resolve(process.env['BLUSTER_DATA'] ?? resolve(root, 'data')), 0, null);

async function backup(to: string | undefined): Promise<number> {
  if (to === '--list') {
    const copies = listCopies(config);
    console.log(copies.length > 0 ? copies.join('\n') : `There are no copies in ${config.backupsFolder} yet.`);
    return 0;
  }
  if (!existsSync(config.databaseFile)) {
    console.error(`There is nothing to copy in ${config.dataFolder}. BLUSTER_DATA says where the data folder is.`);
    return 1;
  }
  console.log(`Copied to ${await copyDatabase(config, to && resolve(to))}`);
  return 0;
}

async function restore(from: string | undefined): Promise<number> {
  if (!from) {
    console.error(USAGE);
    return 2;
  }
  const lock = FolderLock.take(config.dataFolder);
  try {
    const kept = await restoreDatabase(config, resolve(from));
    console.log(`${from} is in use from the next start on.${kept ? ` What was there before lies in ${kept}` : ''}`);
    return 0;
  } finally {
    lock.release();
  }
}

/** Silent, and 0, where all is as it should be; 1 where something is left that it could not mend or was not asked to. */
function doctor(how: string | undefined): number {
  const lock = FolderLock.take(config.dataFolder);
  try {
    stepsAreDue(config);
    const { findings, close } = examine(config);
    let left = 0;
    for (const { says, mend } of findings) {
      const mended = how === '--mend' && mend !== undefined;
      if (mended) mend();
      else left++;
      console.log(mended ? `${says} Mended.` : mend ? `${says} (--mend puts it right)` : says);
    }
    close();
    return left > 0 ? 1 : 0;
  } finally {
    lock.release();
  }
}

const [what, argument] = process.argv.slice(2);
const commands: Record<string, (argument: string | undefined) => Promise<number> | number> = { backup, restore, doctor };
const command = commands[what ?? ''];
if (!command) {
  console.error(USAGE);
  process.exit(2);
}
try {
  process.exitCode = await command(argument);
} catch (error) {
  if (!isRefusal(error)) throw error;
  console.error(error.message);
  process.exitCode = 1;
}
