import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { DRESSINGS } from '@bluster/core';
import { scratchFolder } from '@bluster/media/testing/made-media';
import { ROUTES, type DressingAnswer } from '@bluster/wire';
import { RunningServer } from '../testing/running-server.ts';

const folder = scratchFolder();
let server: RunningServer;
beforeAll(async () => {
  server = await RunningServer.start(folder);
});
afterAll(() => server.stop());

const mine = { ...DRESSINGS[0]!, name: 'Ridge evening' };
const kept = async (): Promise<DressingAnswer[]> => (await server.http.get(ROUTES.dressings()).expect(200)).body as DressingAnswer[];
const keep = (dressing: unknown): ReturnType<typeof server.http.post> => server.http.post(ROUTES.dressings()).send({ dressing });

test('a dressing is kept by its name, outlives the server, and makes room for one of the same name', async () => {
  expect((await keep(mine).expect(201)).body).toMatchObject({ dressing: mine });
  await server.stop();
  server = await RunningServer.start(folder);
  expect((await kept()).map((d) => d.dressing)).toEqual([mine]);
  await keep({ ...mine, looks: [] }).expect(201);
  expect((await kept()).map((d) => [d.dressing.name, d.dressing.looks])).toEqual([['Ridge evening', []]]);
});

test('it is removed, and is gone', async () => {
  const { id } = (await kept())[0]!;
  await server.http.delete(ROUTES.dressing(id)).expect(204);
  expect(await kept()).toEqual([]);
  const { body } = (await server.http.delete(ROUTES.dressing(id)).expect(404)) as { body: { message: string } };
  expect(body.message).toBe('That dressing is no longer kept.');
});

test('what is none, or is called as one that ships, is refused in a sentence', async () => {
  const said = async (dressing: unknown, status: number): Promise<string> =>
    ((await keep(dressing).expect(status)) as { body: { message: string } }).body.message;
  expect(await said({ format: 'other' }, 422)).toContain('This is not a Bluster dressing');
  expect(await said(DRESSINGS[1], 400)).toContain('ships with Bluster and stays as it is');
  expect(await said('a text', 400)).toMatch(/dressing/);
  expect(await said({ ...mine, name: 'x'.repeat(61) }, 422)).toContain('This is not a Bluster dressing');
  expect(await kept()).toEqual([]);
});
