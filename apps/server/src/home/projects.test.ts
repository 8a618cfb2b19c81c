import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals';
import { carryOut, emptyMontage } from '@bluster/core';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { DataSource } from 'typeorm';
import { RunningServer } from '../testing/running-server.ts';

jest.setTimeout(60_000);
let server: RunningServer;
beforeAll(async () => {
  server = await RunningServer.start(scratchFolder());
});
afterAll(() => server.stop());

const names = async (): Promise<string[]> =>
  ((await server.http.get('/api/projects').expect(200)).body as { name: string }[]).map((p) => p.name);

describe('projects', () => {
  test('are made, renamed, deleted, and brought back', async () => {
    const id = await server.newProject('First flight');
    await server.http.patch(`/api/projects/${id}`).send({ name: '  Second flight ' }).expect(200);
    expect(await names()).toContain('Second flight');
    await server.http.delete(`/api/projects/${id}`).expect(204);
    expect(await names()).not.toContain('Second flight');
    await server.http.get(`/api/projects/${id}`).expect(404);
    await server.http.post(`/api/projects/${id}/restore`).expect(200);
    expect(await names()).toContain('Second flight');
  });

  test('are listed by as few questions to the database whatever their number: each holds up everybody else', async () => {
    const asked = jest.spyOn(server.app.get(DataSource), 'createQueryRunner');
    const questions = async (): Promise<number> => {
      await names(); // what was never looked at is read once
      asked.mockClear();
      await names();
      return asked.mock.calls.length;
    };
    await server.newProject('One');
    const few = await questions();
    for (let i = 0; i < 10; i++) await server.newProject(`Another ${i}`);
    expect(await questions()).toBe(few);
    expect(few).toBeGreaterThan(0);
    asked.mockRestore();
  });

  test('deleted ones are listed until they are removed for good, with all that is theirs', async () => {
    const folder = scratchFolder();
    const id = await server.newProject('Torn kite');
    const song = await server.ready(id, 'song', tickingSong(folder, 'torn.wav', 4));
    await server.http.delete(`/api/projects/${id}/for-good`).expect(404);
    await server.http.delete(`/api/projects/${id}`).expect(204);
    const deleted = async (): Promise<{ id: string; name: string; goneAt: number }[]> =>
      (await server.http.get('/api/projects/deleted').expect(200)).body as { id: string; name: string; goneAt: number }[];
    const [first] = await deleted();
    expect(first).toMatchObject({ id, name: 'Torn kite' });
    expect(first!.goneAt - Date.now()).toBeGreaterThan(29 * 24 * 3600_000);
    await server.http.delete(`/api/projects/${id}/for-good`).expect(204);
    expect((await deleted()).map((p) => p.id)).not.toContain(id);
    await server.http.post(`/api/projects/${id}/restore`).expect(404);
    await server.http.get(`/api/projects/${id}/montage`).expect(404);
    expect(existsSync(join(server.folder, 'assets', song.id))).toBe(false);
  });

  test('what was being made ready when a project was deleted is made ready when it comes back', async () => {
    const folder = scratchFolder();
    const id = await server.newProject('Called off');
    const clip = numberedClip(folder, 'called-off.mp4', { frames: 300, fps: '30' });
    await server.upload(id, 'footage', clip).expect(201);
    await server.http.delete(`/api/projects/${id}`).expect(204);
    await server.http.post(`/api/projects/${id}/restore`).expect(200);
    const assets = await server.until(
      () => server.assets(id),
      (list) => list.every((a) => a.state !== 'working'),
    );
    expect(assets.map((a) => a.state)).toEqual(['ready']);
  });

  test.each([[''], ['   '], ['x'.repeat(121)], [7]])('the name %p is refused with a sentence', async (name) => {
    const { body } = (await server.http.post('/api/projects').send({ name }).expect(400)) as { body: unknown };
    expect((body as { message: string }).message).toMatch(/[Nn]ame/);
  });

  test('what is not asked for is refused', async () => {
    await server.http.post('/api/projects').send({ name: 'x', demo: true }).expect(400);
    await server.http.get('/api/projects/not-an-id').expect(400);
  });

  test('a copy has its own files and its own montage', async () => {
    const folder = scratchFolder();
    const id = await server.newProject('Original');
    const song = await server.ready(id, 'song', tickingSong(folder, 'ticks.wav'));
    const montage = carryOut(emptyMontage(), { do: 'setSong', assetId: song.id, name: song.name, length: song.info.length! });
    expect((await server.save(id, 1, montage)).status).toBe(200);
    const copy = (await server.http.post(`/api/projects/${id}/duplicate`).expect(201)).body as { id: string; name: string };
    expect(copy.name).toBe('Original copy');
    const { body } = (await server.http.get(`/api/projects/${copy.id}/montage`).expect(200)) as { body: unknown };
    const newSong = (body as { document: { song: { assetId: string } } }).document.song.assetId;
    expect(newSong).not.toBe(song.id);
    await server.http.get(`/api/assets/${newSong}/sound`).expect(200);
  });
});

describe('saving', () => {
  const long = carryOut(emptyMontage(), { do: 'setSong', assetId: 'a', name: 'a', length: 20 });
  test('each save has the next revision', async () => {
    const id = await server.newProject();
    expect((await server.save(id, 1, long)).body).toMatchObject({ revision: 2 });
    expect((await server.save(id, 2, emptyMontage())).body).toMatchObject({ revision: 3 });
  });

  test('a named version is kept, listed, read and deleted', async () => {
    const id = await server.newProject();
    const keep = { revision: 1, document: long, reason: 'calm start' };
    const version = ((await server.http.post(`/api/projects/${id}/versions`).send(keep).expect(201)).body as { id: string }).id;
    expect((await server.http.get(`/api/projects/${id}/versions`)).body).toMatchObject([{ id: version, reason: 'calm start' }]);
    expect((await server.http.get(`/api/projects/${id}/versions/${version}`)).body).toEqual(long);
    await server.http.delete(`/api/projects/${id}/versions/${version}`).expect(204);
    await server.http.delete(`/api/projects/${id}/versions/${version}`).expect(404);
    expect((await server.http.get(`/api/projects/${id}/versions`)).body).toEqual([]);
  });

  test('a stale save overwrites nothing: it is refused, and both versions are kept', async () => {
    const id = await server.newProject();
    await server.save(id, 1, long);
    const mine = carryOut(long, { do: 'addMark', kind: 'beat', time: 3 });
    const refused = await server.save(id, 1, mine);
    expect(refused.status).toBe(409);
    const { current, keptId } = refused.body as { current: { revision: number; document: unknown }; keptId: string };
    expect(current).toMatchObject({ revision: 2, document: long });
    expect((await server.http.get(`/api/projects/${id}/montage`)).body).toMatchObject({ revision: 2, document: long });
    const kept = await server.http.get(`/api/projects/${id}/versions/${keptId}`).expect(200);
    expect(kept.body).toEqual(mine);
  });

  test('of many saves at once exactly one wins', async () => {
    const id = await server.newProject();
    const results = await Promise.all(Array.from({ length: 8 }, () => server.save(id, 1, long)));
    expect(results.filter((r) => r.status === 200)).toHaveLength(1);
    expect(results.filter((r) => r.status === 409)).toHaveLength(7);
  });

  test('a document that is none is refused with a sentence', async () => {
    const id = await server.newProject();
    const { status, body } = (await server.http
      .put(`/api/projects/${id}/montage`)
      .send({ revision: 1, document: { format: 'other' } })) as { status: number; body: unknown };
    expect(status).toBe(422);
    expect((body as { message: string }).message).toMatch(/not a Bluster montage/);
    await server.http.put(`/api/projects/${id}/montage`).set('Content-Type', 'application/json').send('{"revision": 1,').expect(400);
  });

  test('a restarted server has everything', async () => {
    const folder = scratchFolder();
    const one = await RunningServer.start(folder);
    const id = await one.newProject('Kept');
    await one.save(id, 1, long);
    await one.stop();
    const two = await RunningServer.start(folder);
    expect((await two.http.get(`/api/projects/${id}/montage`)).body).toMatchObject({ revision: 2, document: long });
    await two.stop();
  });
});
