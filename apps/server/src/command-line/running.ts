import { randomUUID } from 'node:crypto';
import { copyFile, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { AssetsService } from '../assets/assets.service.ts';
import { Config } from '../config.ts';
import { beginStarter } from '@bluster/media/program/starter';
import type { JobEntity } from '../jobs/job.entity.ts';
import { JobsService } from '../jobs/jobs.service.ts';
import { createServer } from '../server.ts';
import { say } from './usage.ts';

/** How often work is looked at, ms. */
const LOOK_MS = 200;

const root = resolve(import.meta.dirname, '../../../..');
export const dataFolder = resolve(process.env['BLUSTER_DATA'] ?? join(root, 'data'));

/** How a server works in a data folder of which nobody sees a page now. @param scratch nor ever will */
export const configFor = (folder: string, scratch = false): Config =>
  new Config(folder, 0, null, join(root, 'demo/media'), undefined, undefined, !scratch);

/** Opens a data folder for as long as something is done in it. */
export const within = <T>(folder: string, work: (app: NestExpressApplication) => Promise<T>): Promise<T> => inside(configFor(folder), work);

async function inside<T>(config: Config, work: (app: NestExpressApplication) => Promise<T>): Promise<T> {
  await beginStarter();
  const app = await createServer(config);
  try {
    await app.init();
    return await work(app);
  } finally {
    await app.close();
  }
}

/** Works in a data folder of its own that goes when it is done. */
export async function inScratch<T>(work: (app: NestExpressApplication, folder: string) => Promise<T>): Promise<T> {
  const scratch = await mkdtemp(join(tmpdir(), 'bluster-export-'));
  try {
    return await inside(configFor(scratch, true), (app) => work(app, scratch));
  } finally {
    await rm(scratch, { recursive: true, force: true });
  }
}

/** A copy of a file where what is brought in lies: it is moved from there, and what was given is kept. */
export async function incomingCopy(app: NestExpressApplication, path: string): Promise<string> {
  const copy = join(app.get(Config).incomingFolder, randomUUID());
  await copyFile(path, copy);
  return copy;
}

/** Waits until a job has ended, and says how far it is. */
export async function ended(app: NestExpressApplication, id: string, name: string): Promise<JobEntity> {
  let told = -1;
  for (;;) {
    const job = await app.get(JobsService).find(id);
    if (job.state !== 'queued' && job.state !== 'running') return job;
    const percent = Math.floor(job.progress * 100);
    if (percent !== told) say(`${name} ${(told = percent)} %`);
    await new Promise((done) => setTimeout(done, LOOK_MS));
  }
}

/**
 * Waits until films can be made of a project's files; previews are not waited for. A file that cannot be read matters only where it is
 * shown, and is said there.
 */
export async function prepared(app: NestExpressApplication, projectId: string): Promise<void> {
  for (let told = Infinity; ;) {
    const assets = await app.get(AssetsService).list(projectId);
    const left = assets.filter(({ state, info }) => state === 'working' && !info.looked).length;
    if (left === 0) return;
    if (left < told) say(`${(told = left)} ${left === 1 ? 'file is' : 'files are'} being made ready`);
    await new Promise((done) => setTimeout(done, LOOK_MS));
  }
}
