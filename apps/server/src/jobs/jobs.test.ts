import type { AssetAnswer, JobAnswer } from '@bluster/wire';
import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals';
import { getRepositoryToken } from '@nestjs/typeorm';
import Database from 'better-sqlite3';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ffmpeg, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import type { Repository } from 'typeorm';
import { AssetEntity } from '../assets/asset.entity.ts';
import { JobEntity } from './job.entity.ts';
import { JobsService } from './jobs.service.ts';
import { RunningServer } from '../testing/running-server.ts';

jest.setTimeout(120_000);
const media = scratchFolder();
let server: RunningServer;
/** Long enough to be caught at work. */
let long: string;
/** Where several are made ready, it need not take as long. */
let short: string;
beforeAll(async () => {
  server = await RunningServer.start(scratchFolder());
  long = join(media, 'long.mp4');
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=30', '-frames:v', '240', '-c:v', 'libx264', '-preset', 'ultrafast', long);
  short = join(media, 'short.mp4');
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=480x270:r=30', '-frames:v', '90', '-c:v', 'libx264', '-preset', 'ultrafast', short);
});
afterAll(() => server.stop());

let copies = 0;
/** A clip as a file that no project has had yet: a byte more makes it another. */
function fresh(of = long): string {
  const path = join(media, `long-${copies}.mp4`);
  writeFileSync(path, Buffer.concat([readFileSync(of), Buffer.from([copies++])]));
  return path;
}

/** All jobs that a project ever had, whatever is still listed. */
const everyJob = async (of: RunningServer, project: string): Promise<JobEntity[]> => {
  const service = of.app.get(JobsService);
  const kinds = await Promise.all((['prepare', 'look', 'proxy'] as const).map((kind) => service.allOf(project, kind)));
  return kinds.flat();
};

/** Has updates of one table fail as SQLite does on a full disk, for as long as it is told. */
function fullFor<T extends object>(
  own: RunningServer,
  entity: new () => T,
  is: (to: Partial<T>) => boolean,
): { free: () => void; refused: () => number } {
  const rows = own.app.get<Repository<T>>(getRepositoryToken(entity));
  const update = rows.update.bind(rows);
  let [full, refused] = [true, 0];
  rows.update = (which, to) => {
    if (!full || !is(to as Partial<T>)) return update(which, to);
    refused++;
    return Promise.reject(Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' }));
  };
  return { free: () => (full = false), refused: () => refused };
}
const jobs = (project: string): Promise<JobAnswer[]> => server.jobs(project);

test('a job says how far it is, and its progress only rises', async () => {
  const project = await server.newProject('Progress');
  await server.upload(project, 'footage', fresh()).expect(201);
  const seen = new Map<string, number[]>();
  await server.until(
    async () => {
      const all = await jobs(project);
      for (const { id, progress } of all) seen.set(id, [...(seen.get(id) ?? []), progress]);
      return all;
    },
    (all) => all.length === 3 && all.every((job) => job.state === 'done'),
  );
  for (const parts of seen.values()) {
    expect(parts).toEqual([...parts].sort((a, b) => a - b));
    expect(parts.at(-1)).toBe(1);
  }
  expect([...seen.values()].flat().some((p) => p > 0 && p < 1)).toBe(true);
});

test('the preparation of a clip is called off: the clip says so, and no half proxy is taken for a whole one', async () => {
  const project = await server.newProject('Called off');
  const { id } = (await server.upload(project, 'footage', fresh()).expect(201)).body as AssetAnswer;
  const job = await server.until(
    async () => (await jobs(project))[0]!,
    (j) => j.state === 'running',
  );
  const { body } = (await server.http.post(`/api/jobs/${job.id}/cancel`).expect(201)) as { body: unknown };
  expect(body).toMatchObject({ state: 'cancelled', problem: 'Cancelled.' });
  const [asset] = await server.until(
    () => server.assets(project),
    (list) => list[0]!.state !== 'working',
  );
  expect(asset).toMatchObject({ id, state: 'failed', problem: 'Cancelled.' });
  // Calling it off again changes nothing.
  await server.http.post(`/api/jobs/${job.id}/cancel`).expect(201);
  expect(await server.job(job.id)).toMatchObject({ state: 'cancelled' });
});

test('no more than two clips are decoded at once, and all have been looked at before the first gets its proxy', async () => {
  const project = await server.newProject('Queue');
  // Nothing begins before all have come: one clip could be done with before the next is there.
  const disk = fullFor(server, JobEntity, () => true);
  for (let i = 0; i < 5; i++) {
    await server.upload(project, 'footage', fresh(short)).expect(201);
  }
  disk.free();
  let most = 0;
  await server.until(
    async () => {
      const list = await everyJob(server, project);
      most = Math.max(most, list.filter((j) => j.state === 'running' && j.kind !== 'prepare').length);
      return list;
    },
    (list) => list.length === 15 && list.every((j) => j.state === 'done'),
  );
  expect(most).toBe(2);
  expect((await server.assets(project)).map((a) => a.state)).toEqual(Array<string>(5).fill('ready'));
  const all = await everyJob(server, project);
  const of = (kind: string): JobEntity[] => all.filter((j) => j.kind === kind);
  // While the last look is under way, the place beside it is free for one proxy after the other.
  const [first, second] = of('proxy').sort((a, b) => a.startedAt! - b.startedAt!);
  const looked = Math.max(...of('look').map((j) => j.endedAt!));
  expect(first!.startedAt).toBeGreaterThanOrEqual(Math.max(...of('look').map((j) => j.startedAt!)));
  expect(second!.startedAt).toBeGreaterThanOrEqual(Math.min(looked, first!.endedAt!));
});

test('a server stopped between a clip’s look and its proxy goes on with the proxy', async () => {
  const folder = scratchFolder();
  const own = await RunningServer.start(folder);
  const project = await own.newProject('Between');
  await own.upload(project, 'footage', fresh()).expect(201);
  const [looked] = await own.until(
    () => own.assets(project),
    (list) => list[0]!.info.looked === true,
  );
  expect(looked!.state).toBe('working');
  await own.stop();
  const again = await RunningServer.start(folder);
  const [made] = await again.until(
    () => again.assets(project),
    (list) => list[0]!.state !== 'working',
  );
  expect(made).toMatchObject({ state: 'ready', info: { looked: true, hits: looked!.info.hits } });
  expect((await everyJob(again, project)).map((j) => j.kind)).toEqual(['prepare', 'look', 'proxy']);
  await again.stop();
});

test('a deleted project’s work is called off', async () => {
  const project = await server.newProject('Deleted');
  await server.upload(project, 'footage', fresh()).expect(201);
  const [job] = await jobs(project);
  await server.http.delete(`/api/projects/${project}`).expect(204);
  expect((await server.job(job!.id)).state).toBe('cancelled');
});

test('a job that is not there, and an id that is none', async () => {
  await server.http.get('/api/jobs/00000000-0000-4000-8000-000000000000').expect(404);
  await server.http.post('/api/jobs/nonsense/cancel').expect(400);
});

test('a server that is stopped in good order leaves no program running and nothing half done', async () => {
  const folder = scratchFolder();
  const own = await RunningServer.start(folder);
  const project = await own.newProject('Stopped');
  const song = await own.ready(project, 'song', tickingSong(media, 'ticks.wav', 6));
  await own.upload(project, 'footage', fresh()).expect(201);
  await own.stop();
  expect(readdirSync(join(folder, 'incoming', 'resumable'))).toEqual([]);
  expect(readdirSync(join(folder, 'incoming'))).toEqual(['resumable']);
  const again = await RunningServer.start(folder);
  const assets = await again.until(
    () => again.assets(project),
    (list) => list.every((a) => a.state !== 'working'),
  );
  expect(assets.map((a) => a.state)).toEqual(['ready', 'ready']);
  expect(existsSync(join(folder, 'assets', song.id, 'sound.wav'))).toBe(true);
  await again.stop();
});

describe('while the disk is full', () => {
  const begun = async (): Promise<{ own: RunningServer; project: string }> => {
    const own = await RunningServer.start(scratchFolder());
    return { own, project: await own.newProject('Full') };
  };
  const ready = (own: RunningServer, project: string): Promise<AssetAnswer[]> =>
    own.until(
      () => own.assets(project),
      (all) => all.length > 0 && all.every((a) => a.state === 'ready'),
    );

  test('no job begins, none is lost, and all begin by themselves when there is room', async () => {
    const { own, project } = await begun();
    const disk = fullFor(own, JobEntity, () => true);
    for (const seconds of [4, 5]) await own.upload(project, 'song', tickingSong(media, `full-${seconds}.wav`, seconds)).expect(201);
    await own.until(
      () => Promise.resolve(disk.refused()),
      (times) => times > 1,
    );
    expect((await own.jobs(project)).map((job) => job.state)).toEqual(['queued', 'queued']);
    disk.free();
    await ready(own, project);
    await own.stop();
  });

  test('work that is done is done though that cannot be written down, and does not keep its place', async () => {
    const { own, project } = await begun();
    const disk = fullFor(own, JobEntity, ({ state }) => state === 'done');
    const files = ['done-a.wav', 'done-b.wav', 'done-c.wav'];
    for (const [i, file] of files.entries()) await own.upload(project, 'song', tickingSong(media, file, 4 + i)).expect(201);
    // There are two places: the third begins though the first two are not written down.
    await ready(own, project);
    expect((await everyJob(own, project)).map((job) => job.state)).not.toContain('done');
    disk.free();
    await own.until(
      () => everyJob(own, project),
      (all) => all.every((job) => job.state === 'done'),
    );
    await own.stop();
  });

  test('a file that found no room is made ready when there is', async () => {
    const { own, project } = await begun();
    const disk = fullFor(own, AssetEntity, ({ state }) => state === 'ready');
    await own.upload(project, 'song', tickingSong(media, 'later.wav', 4)).expect(201);
    const [job] = await own.until(
      () => own.jobs(project),
      ([only]) => only?.problem !== null && only?.problem !== undefined,
    );
    expect(job).toMatchObject({ state: 'queued', problem: expect.stringMatching(/disk is full/) });
    disk.free();
    await ready(own, project);
    await own.stop();
  });

  test('the server stops all the same', async () => {
    const { own, project } = await begun();
    await own.upload(project, 'footage', fresh()).expect(201);
    await own.until(
      () => own.jobs(project),
      (all) => all.some((job) => job.state === 'running'),
    );
    fullFor(own, JobEntity, () => true);
    await own.stop();
  });
});

test('a job by which the server was lost twice is set aside with a sentence; one lost once, or stopped in good order, goes on', async () => {
  const folder = scratchFolder();
  const own = await RunningServer.start(folder);
  const project = await own.newProject('Lost');
  for (const seconds of [4, 5]) await own.ready(project, 'song', tickingSong(media, `lost-${seconds}.wav`, seconds));
  const [once, twice] = await own.assets(project);
  await own.stop();
  const database = new Database(join(folder, 'bluster.sqlite'));
  for (const [asset, losses] of [
    [once!, 0],
    [twice!, 1],
  ] as const) {
    database.prepare(`UPDATE asset SET state = 'working' WHERE id = ?`).run(asset.id);
    const row = database.prepare(`SELECT id FROM job WHERE json_extract(payload, '$.assetId') = ?`).get(asset.id) as { id: string };
    database.prepare(`UPDATE job SET state = 'running', losses = ? WHERE id = ?`).run(losses, row.id);
  }
  database.close();
  const again = await RunningServer.start(folder);
  const assets = await again.until(
    () => again.assets(project),
    (all) => all.every((a) => a.state !== 'working'),
  );
  expect(assets.find((a) => a.id === once!.id)!.state).toBe('ready');
  expect(assets.find((a) => a.id === twice!.id)).toMatchObject({ state: 'failed', problem: expect.stringMatching(/set aside/) });
  await again.stop();
});
