import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals';
import Database from 'better-sqlite3';
import { copyFileSync, existsSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { emptyMontage } from '@bluster/core';
import { ROUTES } from '@bluster/wire';
import { DataSource } from 'typeorm';
import { RunningServer } from '../testing/running-server.ts';
import { WriteAheadLog } from './write-ahead-log.ts';

/** A promise that is ended from outside. */
function held(): { promise: Promise<void>; let: () => void; fail: (error: Error) => void } {
  let resolve!: () => void;
  let reject!: (error: Error) => void;
  const promise = new Promise<void>((done, failed) => ((resolve = done), (reject = failed)));
  return { promise, let: resolve, fail: reject };
}

/** A log whose disk is as slow as a test wants it. */
class SlowLog extends WriteAheadLog {
  readonly turns: ReturnType<typeof held>[] = [];

  constructor() {
    super({ databaseFile: '' } as never, {} as never);
  }

  protected override flush(): Promise<void> {
    const turn = held();
    this.turns.push(turn);
    return turn.promise;
  }
}

describe('what is written is put on the disk', () => {
  test('whoever asks while the disk is at it waits for the next turn, which is one for all of them', async () => {
    const log = new SlowLog();
    const ended: string[] = [];
    const ask = (name: string): Promise<unknown> => log.kept().then(() => ended.push(name));
    const first = ask('first');
    const others = [ask('second'), ask('third')];
    expect(log.turns).toHaveLength(1);
    log.turns[0]!.let();
    await first;
    // What they wrote may have come too late for the first turn.
    expect(ended).toEqual(['first']);
    await new Promise(setImmediate);
    expect(log.turns).toHaveLength(2);
    log.turns[1]!.let();
    await Promise.all(others);
    expect(ended).toEqual(['first', 'second', 'third']);
    const last = ask('fourth');
    expect(log.turns).toHaveLength(3);
    log.turns[2]!.let();
    await last;
  });

  test('a disk that does not take it fails those who wait for it, and nobody after them', async () => {
    const log = new SlowLog();
    const [first, second] = [log.kept(), log.kept()];
    log.turns[0]!.fail(new Error('EIO'));
    await expect(first).rejects.toThrow('EIO');
    await new Promise(setImmediate);
    log.turns[1]!.let();
    await expect(second).resolves.toBeUndefined();
  });
});

describe('a server', () => {
  let folder = '';
  let server: RunningServer;
  let log: WriteAheadLog;
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'bluster-log-'));
    server = await RunningServer.start(folder);
    log = server.app.get(WriteAheadLog);
  });
  afterAll(async () => {
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  });

  const save = (id: string, revision: number): Promise<{ status: number; body: unknown }> =>
    server.http.put(ROUTES.montage(id)).send({ revision, document: emptyMontage() }).then();

  test.each([
    ['a save', 1, 200],
    ['a conflict, which says that what was sent is kept', 7, 409],
  ])('%s is answered only when it is on the disk', async (_, revision, status) => {
    const id = await server.newProject();
    const disk = held();
    const asked = held();
    const spy = jest.spyOn(log, 'kept').mockImplementation(() => {
      asked.let();
      return disk.promise;
    });
    let answered = false;
    const answer = save(id, revision).finally(() => (answered = true));
    await asked.promise;
    // Others are answered meanwhile.
    await server.http.get(ROUTES.projects()).expect(200);
    expect(answered).toBe(false);
    disk.let();
    expect((await answer).status).toBe(status);
    spy.mockRestore();
  });

  test('a save that the disk does not take is not said to be saved', async () => {
    const id = await server.newProject();
    const spy = jest.spyOn(log, 'kept').mockRejectedValue(Object.assign(new Error('write failed'), { code: 'ENOSPC' }));
    const { status, body } = await save(id, 1);
    spy.mockRestore();
    expect(status).toBe(507);
    expect((body as { message: string }).message).toMatch(/^The disk is full\./);
  });

  test('the log is moved into the database by another thread when it is long, and nothing is lost', async () => {
    const id = await server.newProject();
    const database = server.app.get(DataSource);
    const state = async (): Promise<{ log: number; checkpointed: number }> =>
      (await database.query<[{ log: number; checkpointed: number }]>('PRAGMA wal_checkpoint(NOOP)'))[0];
    await database.query('CREATE TABLE filling (bytes BLOB)');
    await database.query('INSERT INTO filling VALUES (zeroblob(70000000))');
    expect(await state()).toMatchObject({ checkpointed: 0 });
    await save(id, 1);
    await server.until(state, ({ log: pages, checkpointed }) => pages === checkpointed && pages > 16_000);
    // The next one writes to its beginning.
    await save(id, 2);
    expect((await state()).log).toBeLessThan(100);
    const other = new Database(join(folder, 'bluster.sqlite'), { readonly: true });
    expect(other.prepare('SELECT revision FROM montage WHERE "projectId" = ?').get(id)).toEqual({ revision: 3 });
    expect(other.pragma('quick_check', { simple: true })).toBe('ok');
    other.close();
    await database.query('DROP TABLE filling');
  });
});

describe('where pages are served', () => {
  const folder = mkdtempSync(join(tmpdir(), 'bluster-log-'));
  const web = mkdtempSync(join(tmpdir(), 'bluster-log-web-'));
  const left = mkdtempSync(join(tmpdir(), 'bluster-log-left-'));
  afterAll(() => [folder, web, left].forEach((path) => rmSync(path, { recursive: true, force: true })));

  test('the log has its room from the start, and what was written is taken up from it after a power cut', async () => {
    writeFileSync(join(web, 'index.html'), '<!doctype html>');
    const server = await RunningServer.start(folder, undefined, web);
    const file = join(folder, 'bluster.sqlite');
    const room = statSync(`${file}-wal`).size;
    expect(room).toBe(80 * 2 ** 20);
    const id = await server.newProject();
    for (let revision = 1; revision < 20; revision++)
      await server.http.put(ROUTES.montage(id)).send({ revision, document: emptyMontage() }).expect(200);
    expect(statSync(`${file}-wal`).size).toBe(room);

    for (const end of ['', '-wal']) copyFileSync(file + end, join(left, `bluster.sqlite${end}`));
    const found = new Database(join(left, 'bluster.sqlite'));
    expect(found.prepare('SELECT revision FROM montage WHERE "projectId" = ?').get(id)).toEqual({ revision: 20 });
    expect(found.pragma('quick_check', { simple: true })).toBe('ok');
    found.close();

    await server.stop();
    expect(existsSync(`${file}-wal`)).toBe(false);
  });
});
