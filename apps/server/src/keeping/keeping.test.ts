import { beforeAll, describe, expect, jest, test } from '@jest/globals';
import Database from 'better-sqlite3';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { emptyMontage } from '@bluster/core';
import { numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import type { AssetAnswer, ProjectSummaryAnswer } from '@bluster/wire';
import { Config } from '../config.ts';
import { MIGRATIONS } from '../database/migrations.ts';
import { RunningServer } from '../testing/running-server.ts';
import { copyDaily, copyDatabase, listCopies, restoreDatabase } from './database-copies.ts';
import { examine } from './examination.ts';
import { FolderLock } from './folder-lock.ts';

jest.setTimeout(120_000);
const media = scratchFolder();
const configOf = (folder: string): Config => new Config(folder, 0, null);
/** Does something to the database as it lies on the disk. */
function inDatabase<T>(folder: string, work: (database: Database.Database) => T): T {
  const database = new Database(configOf(folder).databaseFile);
  try {
    return work(database);
  } finally {
    database.close();
  }
}
const found = (folder: string): string[] => {
  const { findings, close } = examine(configOf(folder));
  close();
  return findings.map(({ says }) => says);
};
const list = async (server: RunningServer): Promise<ProjectSummaryAnswer[]> =>
  (await server.http.get('/api/projects').expect(200)).body as ProjectSummaryAnswer[];

describe('one Bluster at a time in a folder', () => {
  test('the second says who holds it and changes nothing; when the first has stopped it may', async () => {
    const folder = scratchFolder();
    const first = await RunningServer.start(folder);
    await first.newProject('Held');
    const before = readdirSync(folder).sort();
    await expect(RunningServer.start(folder)).rejects.toThrow(new RegExp(`Another Bluster works in .*process ${process.pid}`));
    expect(readdirSync(folder).sort()).toEqual(before);
    await first.stop();
    const second = await RunningServer.start(folder);
    expect((await list(second)).map(({ name }) => name)).toEqual(['Held']);
    await second.stop();
  });
});

describe('the database', () => {
  test('of a newer Bluster is refused by the name of its step, and not touched', async () => {
    const folder = scratchFolder();
    await (await RunningServer.start(folder)).stop();
    inDatabase(folder, (db) => db.prepare('INSERT INTO migrations (timestamp, name) VALUES (?, ?)').run(9e12, 'Kites9000000000000'));
    const bytes = readFileSync(configOf(folder).databaseFile);
    await expect(RunningServer.start(folder)).rejects.toThrow(/newer Bluster.*Kites9000000000000/);
    expect(readFileSync(configOf(folder).databaseFile).equals(bytes)).toBe(true);
  });

  test('that is damaged is said to be, with the way out', async () => {
    const folder = scratchFolder();
    await (await RunningServer.start(folder)).stop();
    const config = configOf(folder);
    writeFileSync(config.databaseFile, Buffer.alloc(8192, 0x55));
    for (const ending of ['-wal', '-shm']) rmSync(config.databaseFile + ending, { force: true });
    await expect(RunningServer.start(folder)).rejects.toThrow(/is damaged\. Take a copy with \.\/bluster restore/);
  });

  test('is copied before a step is taken, and the copy has what was there', async () => {
    const folder = scratchFolder();
    const server = await RunningServer.start(folder);
    await server.newProject('Before the step');
    await server.stop();
    const last = MIGRATIONS.at(-1)!;
    inDatabase(folder, (db) => {
      db.exec('DROP TABLE dressing');
      db.prepare('DELETE FROM migrations WHERE name = ?').run(last.name);
    });
    rmSync(configOf(folder).backupsFolder, { recursive: true, force: true });
    const again = await RunningServer.start(folder);
    expect((await list(again)).map(({ name }) => name)).toEqual(['Before the step']);
    await again.stop();
    const copies = listCopies(configOf(folder));
    const copy = new Database(copies.at(-1), { readonly: true });
    expect(copy.prepare('SELECT name FROM project').all()).toEqual([{ name: 'Before the step' }]);
    expect(copy.pragma('table_info(dressing)')).toEqual([]);
    copy.close();
  });

  test('is copied once a day, while it is in use, and the last ten copies stay', async () => {
    const folder = scratchFolder();
    const config = configOf(folder);
    const server = await RunningServer.start(folder);
    await server.newProject('Daily');
    rmSync(config.backupsFolder, { recursive: true, force: true });
    const copy = await copyDaily(config);
    expect(await copyDaily(config)).toBeNull();
    expect(await copyDaily(config, Date.now() + 25 * 3600_000)).not.toBeNull();
    for (let i = 0; i < 12; i++) await copyDatabase(config);
    expect(listCopies(config)).toHaveLength(10);
    expect(listCopies(config)).not.toContain(copy);
    await server.stop();
  });

  test('a copy put in its place brings back what it has; what was there is kept', async () => {
    const folder = scratchFolder();
    const config = configOf(folder);
    const server = await RunningServer.start(folder);
    await server.newProject('Then');
    const copy = await copyDatabase(config);
    await server.newProject('Since');
    await server.stop();
    const kept = await restoreDatabase(config, copy);
    const again = await RunningServer.start(folder);
    expect((await list(again)).map(({ name }) => name)).toEqual(['Then']);
    await again.stop();
    const old = new Database(kept!, { readonly: true });
    expect(old.prepare('SELECT count(*) AS n FROM project').get()).toEqual({ n: 2 });
    old.close();
    await expect(restoreDatabase(config, join(media, 'none.sqlite'))).rejects.toThrow(/There is no file/);
    writeFileSync(join(media, 'letter.sqlite'), 'Dear kite');
    await expect(restoreDatabase(config, join(media, 'letter.sqlite'))).rejects.toThrow(/damaged/);
  });
});

describe('files and rows that do not belong together', () => {
  const folder = scratchFolder();
  let project: string;
  let song: AssetAnswer;
  let clip: AssetAnswer;
  const part = (asset: AssetAnswer, name: string): string => join(folder, 'assets', asset.id, name);
  /** Starts a server over the folder, waits until all is ready, and stops it. */
  const settled = async (): Promise<AssetAnswer[]> => {
    const server = await RunningServer.start(folder);
    const assets = await server.until(
      () => server.assets(project),
      (all) => all.every((a) => a.state !== 'working'),
    );
    await server.stop();
    return assets;
  };

  beforeAll(async () => {
    const server = await RunningServer.start(folder);
    project = await server.newProject('Kept well');
    song = await server.ready(project, 'song', tickingSong(media, 'ticks.wav', 4));
    clip = await server.ready(project, 'footage', numberedClip(media, 'clip.mp4', { frames: 40, fps: '30' }));
    await server.stop();
  });

  test('where all is as it should be nothing is said', () => expect(found(folder)).toEqual([]));

  test('what a server that was killed left behind is found, and gone after the next start', async () => {
    mkdirSync(join(folder, 'assets', '00000000-0000-4000-8000-000000000000'));
    writeFileSync(part(clip, `proxy.mp4.11111111-0000-4000-8000-000000000000.part`), 'half');
    writeFileSync(join(folder, 'exports', '22222222-0000-4000-8000-000000000000.mp4'), 'a film of nobody');
    writeFileSync(join(folder, 'incoming', 'resumable', 'a'.repeat(32)), 'half an upload');
    writeFileSync(join(folder, 'incoming', 'resumable', `${'b'.repeat(32)}.json`), '{}');
    expect(found(folder)).toHaveLength(5);
    await settled();
    expect(found(folder)).toEqual([]);
  });

  test('a part that is missing is made again, and so is a file on which nobody works', async () => {
    rmSync(part(clip, 'proxy.mp4'));
    inDatabase(folder, (db) => db.prepare(`UPDATE asset SET state = 'working' WHERE id = ?`).run(song.id));
    expect(found(folder).sort()).toEqual([
      '"clip.mp4" lacks proxy; it is made ready again.',
      'Nobody works on "ticks.wav", which is not ready.',
    ]);
    expect((await settled()).map(({ state }) => state)).toEqual(['ready', 'ready']);
    expect(existsSync(part(clip, 'proxy.mp4'))).toBe(true);
    expect(found(folder)).toEqual([]);
  });

  test('a file that is gone is said at its place, with what to do', async () => {
    rmSync(part(clip, 'original'));
    const assets = await settled();
    expect(assets.find(({ id }) => id === clip.id)).toMatchObject({ state: 'failed', problem: expect.stringMatching(/Bring it in again/) });
    expect(found(folder)).toEqual([]);
  });
});

describe('a montage that cannot be read', () => {
  const folder = scratchFolder();
  const damage = (id: string, document: string): void =>
    inDatabase(
      folder,
      (db) => void db.prepare('UPDATE montage SET document = ?, revision = revision + 1 WHERE projectId = ?').run(document, id),
    );

  test('hides no other project, is taken out as a file, and goes back to its last good version', async () => {
    const server = await RunningServer.start(folder);
    const [sound, broken, newer] = [await server.newProject('Sound'), await server.newProject('Broken'), await server.newProject('Newer')];
    const good = { ...emptyMontage(), pictureFades: { in: 2.39, out: 0 } };
    await server.http.post(`/api/projects/${broken}/versions`).send({ revision: 1, document: good, reason: 'By hand' }).expect(201);
    damage(broken, '{"format":"bluster-montage","version":5,"marks":');
    damage(newer, JSON.stringify({ ...emptyMontage(), version: 99, kites: 12 }));

    const problems = new Map((await list(server)).map(({ id, problem }) => [id, problem]));
    expect(problems.get(sound)).toBeNull();
    expect(problems.get(broken)).toMatch(/is damaged/);
    expect(problems.get(newer)).toMatch(/newer Bluster \(version 99/);
    expect((await server.http.get(`/api/projects/${newer}/montage`).expect(422)).body).toMatchObject({
      message: expect.stringMatching(/newer/),
    });

    const file = await fetch(`${server.url}/api/projects/${broken}/montage/file`);
    expect(await file.text()).toBe('{"format":"bluster-montage","version":5,"marks":');
    expect(file.headers.get('content-disposition')).toMatch(/attachment/);

    await server.http.post(`/api/projects/${broken}/montage/last-good`).expect(200);
    expect((await server.http.get(`/api/projects/${broken}/montage`).expect(200)).body).toMatchObject({ document: good });
    expect((await list(server)).find(({ id }) => id === broken)!.problem).toBeNull();
    const versions = (await server.http.get(`/api/projects/${broken}/versions`)).body as { reason: string }[];
    expect(versions.map(({ reason }) => reason)).toContain('It could not be read.');
    // A second time there is nothing to go back from; of the newer one there is no other version.
    await server.http.post(`/api/projects/${broken}/montage/last-good`).expect(409);
    await server.http.post(`/api/projects/${newer}/montage/last-good`).expect(404);
    await server.stop();
  });

  test('goes back to what a copy of the database has, where no version was kept', async () => {
    const own = scratchFolder();
    const server = await RunningServer.start(own);
    const id = await server.newProject('From a copy');
    await server.save(id, 1, { ...emptyMontage(), pictureFades: { in: 2, out: 0 } });
    await copyDatabase(configOf(own));
    inDatabase(own, (db) => void db.prepare(`UPDATE montage SET document = 'null' WHERE projectId = ?`).run(id));
    await server.http.post(`/api/projects/${id}/montage/last-good`).expect(200);
    expect((await server.http.get(`/api/projects/${id}/montage`).expect(200)).body).toMatchObject({
      document: { pictureFades: { in: 2, out: 0 } },
    });
    await server.stop();
  });
});

test('the same version kept twice is one, and there are never more than fifty', async () => {
  const server = await RunningServer.start(scratchFolder());
  const id = await server.newProject('Versions');
  const keep = async (fade: number): Promise<string> =>
    (
      (
        await server.http
          .post(`/api/projects/${id}/versions`)
          .send({ revision: 1, document: { ...emptyMontage(), pictureFades: { in: fade, out: 0 } }, reason: 'By hand' })
      ).body as { id: string }
    ).id;
  expect(await keep(2)).toBe(await keep(2));
  for (let i = 0; i < 55; i++) await keep(1 + i / 100);
  expect((await server.http.get(`/api/projects/${id}/versions`)).body).toHaveLength(50);
  await server.stop();
});

test('the lock is given back when its holder is done, and a folder is held once in a process too', () => {
  const folder = scratchFolder();
  const lock = FolderLock.take(folder);
  expect(() => FolderLock.take(folder)).toThrow(/Another Bluster/);
  lock.release();
  lock.release();
  FolderLock.take(folder).release();
});
