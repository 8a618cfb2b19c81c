import { afterAll, beforeAll, expect, jest, test } from '@jest/globals';
import { getRepositoryToken } from '@nestjs/typeorm';
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { randomUUID } from 'node:crypto';
import type { Repository } from 'typeorm';
import { carryOut, emptyMontage, FILL_DEFAULTS, UNDESCRIBED, type Command } from '@bluster/core';
import {
  AssetAnswer,
  DeletedProjectAnswer,
  JobAnswer,
  KeptVersionAnswer,
  ProjectAnswer,
  ProjectSummaryAnswer,
  ROUTES,
  SavedAnswer,
  SavedMontageAnswer,
} from '@bluster/wire';
import { numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { JobEntity } from '../jobs/job.entity.ts';
import { RunningServer } from '../testing/running-server.ts';

jest.setTimeout(60_000);
let server: RunningServer;
let project: string;

/** A project with a song, a clip, a cut and a film of it, and the rows of twenty. */
beforeAll(async () => {
  server = await RunningServer.start(scratchFolder());
  const media = scratchFolder();
  project = await server.newProject('Twenty films');
  const song = await server.ready(project, 'song', tickingSong(media, 'ticks.wav', 4));
  const clip = await server.ready(project, 'footage', numberedClip(media, 'clip.mp4', { frames: 30, fps: '30' }));
  const { width, height, rate, frames, hasSound } = clip.info;
  const item = {
    assetId: clip.id,
    kind: 'clip',
    name: clip.name,
    width: width!,
    height: height!,
    rate: rate!,
    frames: frames!,
    hasSound: hasSound!,
  } as const;
  const commands: Command[] = [
    { do: 'setShape', shape: { width: 64, height: 36, rate: { num: 10, den: 1 } } },
    { do: 'setSong', assetId: song.id, name: song.name, length: song.info.length! },
    { do: 'takeBeatTimes', times: [0, 0.5, 1, 1.5], metre: 4 },
    { do: 'addFootage', items: [{ ...item, ...UNDESCRIBED }] },
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 2 } },
    { do: 'fill', options: FILL_DEFAULTS },
  ];
  expect((await server.save(project, 1, commands.reduce(carryOut, emptyMontage()))).status).toBe(200);
  const { id } = (await server.http.post(ROUTES.exports(project)).expect(201)).body as JobAnswer;
  await server.until(
    () => server.job(id),
    (j) => j.state === 'done',
  );
  // Nineteen more rows like the one that it left.
  const rows = server.app.get<Repository<JobEntity>>(getRepositoryToken(JobEntity));
  const made = await rows.findOneByOrFail({ id });
  for (let i = 1; i < 20; i++) await rows.save({ ...made, id: randomUUID() });
});
afterAll(() => server.stop());

/** Everything that is wrong with an answer by what the wire says of it: fields that are missing, of another kind, or too many. */
function wrongIn<T extends object>(kind: new () => T, answer: unknown): string[] {
  const list = (Array.isArray(answer) ? answer : [answer]) as object[];
  expect(list.length).toBeGreaterThan(0);
  return list.flatMap((one) =>
    validateSync(plainToInstance(kind, one), { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true }).map(String),
  );
}

const get = async (path: string): Promise<unknown> => (await server.http.get(path).expect(200)).body as unknown;

test('answers are what the wire says they are', async () => {
  const away = await server.newProject('Away');
  await server.http.delete(ROUTES.project(away)).expect(204);
  const montage = (await get(ROUTES.montage(project))) as SavedMontageAnswer;
  await server.http.post(ROUTES.versions(project)).send({ revision: 2, document: montage.document, reason: 'first' }).expect(201);
  expect(wrongIn(ProjectAnswer, await get(ROUTES.project(project)))).toEqual([]);
  expect(wrongIn(ProjectSummaryAnswer, await get(ROUTES.projects()))).toEqual([]);
  expect(wrongIn(DeletedProjectAnswer, await get(ROUTES.deletedProjects()))).toEqual([]);
  expect(wrongIn(SavedMontageAnswer, montage)).toEqual([]);
  expect(wrongIn(KeptVersionAnswer, await get(ROUTES.versions(project)))).toEqual([]);
  expect(wrongIn(AssetAnswer, await get(ROUTES.assets(project)))).toEqual([]);
  expect(wrongIn(JobAnswer, await get(ROUTES.jobs(project)))).toEqual([]);
  expect(wrongIn(SavedAnswer, (await server.save(project, 2, montage.document)).body)).toEqual([]);
  // The check itself can fail.
  expect(wrongIn(ProjectAnswer, { id: 'x', name: 3, more: true })).not.toEqual([]);
});

test('after twenty exports the jobs of a project take less than 20 kB, and films no document along', async () => {
  const { text, body } = (await server.http.get(ROUTES.jobs(project)).expect(200)) as { text: string; body: JobAnswer[] };
  expect(body.filter((j) => j.kind === 'export' && j.state === 'done')).toHaveLength(20);
  expect(text.length).toBeLessThan(20_000);
  expect(text).not.toContain('bluster-montage');
});
