import { shortClock } from '@bluster/core';
import { HomeService } from '../home/home.service.ts';
import { dataFolder, within } from './running.ts';
import { EXIT } from './usage.ts';

/** Prints the projects of the data folder, one a line: id, length and name. @returns the exit code */
export async function listProjects(): Promise<number> {
  return within(dataFolder, async (app) => {
    for (const { id, name, length } of await app.get(HomeService).list()) process.stdout.write(`${id}\t${shortClock(length)}\t${name}\n`);
    return EXIT.ok;
  });
}
