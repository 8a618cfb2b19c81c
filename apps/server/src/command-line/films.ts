import { copyFile, mkdir } from 'node:fs/promises';
import { dirname, extname, join, resolve } from 'node:path';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { filmName, readMontage, Refusal } from '@bluster/core';
import type { ExportResult } from '@bluster/wire';
import { BundlesService } from '../bundles/bundles.service.ts';
import { ExportFiles, wishOf } from '../exports/export-files.ts';
import { ExportsService } from '../exports/exports.service.ts';
import { HomeService } from '../home/home.service.ts';
import { MontagesService } from '../montages/montages.service.ts';
import { requestsOf, type Wanted } from './film-words.ts';
import { isFile, isFolder } from './given-files.ts';
import { dataFolder, ended, incomingCopy, inScratch, prepared, within } from './running.ts';
import { EXIT, say } from './usage.ts';

/** The project that is meant: by its id, or by its name where one alone has it. */
async function projectMeant(app: NestExpressApplication, what: string): Promise<{ id: string; name: string }> {
  const all = await app.get(HomeService).list();
  const found = all.filter((project) => project.id === what || project.name === what);
  if (found.length === 0)
    throw new Refusal(`There is no project and no bundle called "${what}". ./bluster project list names the projects.`);
  if (found.length > 1) throw new Refusal(`${found.length} projects are called "${what}". Name one by its id: ./bluster project list`);
  return found[0]!;
}

/** Makes the films of a project that are asked for, and says where they lie. @returns the exit code: bad where a film fails its proof */
export async function makeFilms(app: NestExpressApplication, project: { id: string; name: string }, wanted: Wanted): Promise<number> {
  const { facts } = await app.get(MontagesService).load(project.id);
  const requests = requestsOf(wanted, readMontage(JSON.parse(facts.text)).shape, facts.length);
  const out = resolve(wanted.out ?? '.');
  const intoFolder = requests.length > 1 || wanted.out === undefined || extname(out) === '' || (await isFolder(out));
  await prepared(app, project.id);
  let bad = 0;
  for (const request of requests) {
    const job = await app.get(ExportsService).start(project.id, request);
    const name = request.name ?? project.name;
    const done = await ended(app, job.id, filmName(name, wishOf(job).preset, request.size ?? null));
    if (done.state !== 'done') throw new Refusal(done.problem ?? 'The film was not made.');
    const result = done.result as unknown as ExportResult;
    const size = result.width && result.height ? { width: result.width, height: result.height } : null;
    const to = intoFolder ? join(out, filmName(name, wishOf(job).preset, size)) : out;
    await mkdir(dirname(to), { recursive: true });
    const files = app.get(ExportFiles);
    await copyFile(files.film(done), to);
    if (wanted.report) await copyFile(files.report(done.id), requests.length > 1 ? `${to}.json` : resolve(wanted.report));
    process.stdout.write(`${to}\n`);
    if (result.proof) say(result.proof.verdict);
    if (result.proof?.good === false) bad++;
  }
  return bad > 0 ? EXIT.badInput : EXIT.ok;
}

/** Films of a project, or of a bundle. */
export async function exportFilms(what: string, wanted: Wanted): Promise<number> {
  if (!(await isFile(what))) return within(dataFolder, async (app) => makeFilms(app, await projectMeant(app, what), wanted));
  return inScratch(async (app) => {
    const { project, missing } = await app.get(BundlesService).open(await incomingCopy(app, what));
    if (missing.length > 0) throw new Refusal(`Not in the bundle: ${missing.join(', ')}. Save it with its media.`);
    return makeFilms(app, project, wanted);
  });
}
