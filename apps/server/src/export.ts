// ./bluster export and ./bluster project: films of projects and bundles without a page, over the same services.
import 'reflect-metadata';
import { copyFile, mkdir, mkdtemp, rm, stat } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { validateSync } from 'class-validator';
import { plainToInstance } from 'class-transformer';
import { filmName, readMontage, Refusal, isRefusal, shortClock, sizeInShape, type Shape } from '@bluster/core';
import { ExportRequest, type ExportResult } from '@bluster/wire';
import { AssetsService } from './assets/assets.service.ts';
import { BundlesService } from './bundles/bundles.service.ts';
import { Config } from './config.ts';
import { ExportFiles, wishOf } from './exports/export-files.ts';
import { ExportsService } from './exports/exports.service.ts';
import { HomeService } from './home/home.service.ts';
import { problemsOf } from './http/validation.ts';
import type { JobEntity } from './jobs/job.entity.ts';
import { JobsService } from './jobs/jobs.service.ts';
import { MontagesService } from './montages/montages.service.ts';
import { createServer } from './server.ts';

const USAGE = `usage: ./bluster project list
       ./bluster export PROJECT|BUNDLE [--preset h264] [--quality small|good|best] [--shape 9:16]... [--side PIXELS]
           [--from S] [--to S] [--loudness LUFS] [--out FILE|FOLDER] [--report FILE.json]`;
/** Exit codes: bad input and wrong usage, as of the rest of the command line. */
const EXIT = { ok: 0, badInput: 1, wrongUsage: 2 } as const;
/** How often work is looked at, ms. */
const LOOK_MS = 200;

const root = resolve(import.meta.dirname, '../../..');
const dataFolder = resolve(process.env['BLUSTER_DATA'] ?? join(root, 'data'));
const say = (text: string): void => void process.stderr.write(`${text}\n`);

interface Wanted {
  readonly preset?: string;
  readonly quality?: string;
  readonly shape?: string[];
  readonly side?: string;
  readonly from?: string;
  readonly to?: string;
  readonly loudness?: string;
  readonly out?: string;
  readonly report?: string;
}

function number(name: string, text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value)) throw new Refusal(`--${name} takes a number, not "${text}".`);
  return value;
}

/** The films that are asked for, one for each shape. @param length of the montage, seconds */
function requestsOf(wanted: Wanted, own: Shape, length: number): ExportRequest[] {
  const [from, to, side] = [number('from', wanted.from), number('to', wanted.to), number('side', wanted.side)];
  const common = {
    ...(wanted.preset === undefined ? {} : { preset: wanted.preset }),
    ...(wanted.quality === undefined ? {} : { quality: wanted.quality }),
    ...(wanted.loudness === undefined ? {} : { loudness: number('loudness', wanted.loudness) }),
    ...(from === undefined && to === undefined ? {} : { stretch: { from: from ?? 0, to: to ?? length } }),
  };
  return (wanted.shape ?? [null]).map((shape) => {
    const size = shape === null && side === undefined ? {} : { size: sizeInShape(shape, own, side ?? null) };
    const request = plainToInstance(ExportRequest, { ...common, ...size });
    const problems = problemsOf(validateSync(request));
    if (problems !== null) throw new Refusal(problems);
    return request;
  });
}

/** Waits until a job has ended, and says how far it is. */
async function ended(app: NestExpressApplication, id: string, name: string): Promise<JobEntity> {
  let told = -1;
  for (;;) {
    const job = await app.get(JobsService).find(id);
    if (job.state !== 'queued' && job.state !== 'running') return job;
    const percent = Math.floor(job.progress * 100);
    if (percent !== told) say(`${name} ${(told = percent)} %`);
    await new Promise((done) => setTimeout(done, LOOK_MS));
  }
}

/** Waits until a project's files are made ready; one that cannot be read matters only where it is shown, and is said there. */
async function prepared(app: NestExpressApplication, projectId: string): Promise<void> {
  for (let told = Infinity; ;) {
    const assets = await app.get(AssetsService).list(projectId);
    const left = assets.filter((asset) => asset.state === 'working').length;
    if (left === 0) return;
    if (left < told) say(`${(told = left)} ${left === 1 ? 'file is' : 'files are'} being made ready`);
    await new Promise((done) => setTimeout(done, LOOK_MS));
  }
}

const isFile = (path: string): Promise<boolean> =>
  stat(path).then(
    (s) => s.isFile(),
    () => false,
  );
const isFolder = (path: string): Promise<boolean> =>
  stat(path).then(
    (s) => s.isDirectory(),
    () => false,
  );

/** The project that is meant: by its id, or by its name where one alone has it. */
async function projectMeant(app: NestExpressApplication, what: string): Promise<{ id: string; name: string }> {
  const all = await app.get(HomeService).list();
  const found = all.filter((project) => project.id === what || project.name === what);
  if (found.length === 0)
    throw new Refusal(`There is no project and no bundle called "${what}". ./bluster project list names the projects.`);
  if (found.length > 1) throw new Refusal(`${found.length} projects are called "${what}". Name one by its id: ./bluster project list`);
  return found[0]!;
}

async function makeFilms(app: NestExpressApplication, project: { id: string; name: string }, wanted: Wanted): Promise<number> {
  const { facts } = await app.get(MontagesService).load(project.id);
  const requests = requestsOf(wanted, readMontage(JSON.parse(facts.text)).shape, facts.length);
  const out = resolve(wanted.out ?? '.');
  const intoFolder = requests.length > 1 || (await isFolder(out)) || wanted.out === undefined;
  await prepared(app, project.id);
  let bad = 0;
  for (const request of requests) {
    const job = await app.get(ExportsService).start(project.id, request);
    const done = await ended(app, job.id, filmName(project.name, wishOf(job).preset, request.size ?? null));
    if (done.state !== 'done') throw new Refusal(done.problem ?? 'The film was not made.');
    const result = done.result as unknown as ExportResult;
    const size = result.width && result.height ? { width: result.width, height: result.height } : null;
    const to = intoFolder ? join(out, filmName(project.name, wishOf(job).preset, size)) : out;
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

/** Opens a data folder for as long as something is done in it. */
async function within<T>(folder: string, work: (app: NestExpressApplication) => Promise<T>): Promise<T> {
  const app = await createServer(new Config(folder, 0, null, join(root, 'demo/media')));
  try {
    await app.init();
    return await work(app);
  } finally {
    await app.close();
  }
}

async function exportFilms(what: string, wanted: Wanted): Promise<number> {
  if (!(await isFile(what))) return within(dataFolder, async (app) => makeFilms(app, await projectMeant(app, what), wanted));
  const scratch = await mkdtemp(join(tmpdir(), 'bluster-export-'));
  try {
    return await within(scratch, async (app) => {
      // It is removed when it was opened; what was given is kept.
      const copy = join(scratch, 'incoming', randomUUID());
      await copyFile(what, copy);
      const { project, missing } = await app.get(BundlesService).open(copy);
      if (missing.length > 0) throw new Refusal(`Not in the bundle: ${missing.join(', ')}. Save it with its media.`);
      return makeFilms(app, project, wanted);
    });
  } finally {
    await rm(scratch, { recursive: true, force: true });
  }
}

async function listProjects(): Promise<number> {
  return within(dataFolder, async (app) => {
    for (const { id, name, length } of await app.get(HomeService).list()) process.stdout.write(`${id}\t${shortClock(length)}\t${name}\n`);
    return EXIT.ok;
  });
}

/** Options whose value is a negative number, joined with it: else it is taken for another option. */
function joined(words: readonly string[]): string[] {
  return words.flatMap((word, i) => {
    if (/^-\d/.test(word) && words[i - 1]?.startsWith('--')) return [];
    const next = words[i + 1] ?? '';
    return word.startsWith('--') && /^-\d/.test(next) ? [`${word}=${next}`] : [word];
  });
}

async function main(): Promise<number> {
  const text = { type: 'string' } as const;
  let parsed;
  try {
    parsed = parseArgs({
      allowPositionals: true,
      options: {
        preset: text,
        quality: text,
        shape: { type: 'string', multiple: true },
        side: text,
        from: text,
        to: text,
        loudness: text,
        out: text,
        report: text,
      },
      args: joined(process.argv.slice(2)),
    });
  } catch (error) {
    say(`${(error as Error).message}\n${USAGE}`);
    return EXIT.wrongUsage;
  }
  const [command, what, ...rest] = parsed.positionals;
  if (command === 'project' && what === 'list' && rest.length === 0) return listProjects();
  if (command !== 'export' || what === undefined || rest.length > 0) {
    say(USAGE);
    return EXIT.wrongUsage;
  }
  return exportFilms(what, parsed.values);
}

try {
  process.exitCode = await main();
} catch (error) {
  const { code, message, stack } = error as { code?: string; message: string; stack?: string };
  const refused = isRefusal(error) || (error instanceof Error && 'getStatus' in error);
  say(
    `bluster: ${code === 'ENOSPC' ? 'The disk is full. Make room and try again.' : refused ? message : `something went wrong: ${stack ?? message}`}`,
  );
  process.exitCode = EXIT.badInput;
}
