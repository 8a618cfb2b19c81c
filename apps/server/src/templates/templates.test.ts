import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { FILL_DEFAULTS, UNDESCRIBED, carryOut, emptyMontage, scoreOf, type FootageItem, type Montage } from '@bluster/core';
import { ROUTES, type OpenedBundleAnswer, type SavedMontageAnswer, type TemplateAnswer } from '@bluster/wire';
import { probe } from '@bluster/media/probe/probe';
import { numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { RunningServer } from '../testing/running-server.ts';

jest.setTimeout(120_000);
const demo = resolve(import.meta.dirname, '../../../../demo/media');
const media = scratchFolder();
const folder = scratchFolder();
let server: RunningServer;
let project: string;
let montage: Montage;

beforeAll(async () => {
  server = await RunningServer.start(folder);
  project = await server.newProject('Kites & strings');
  const song = await server.ready(project, 'song', tickingSong(media, 'ticks.wav', 6));
  const clip = await server.ready(project, 'footage', numberedClip(media, 'one.mp4', { frames: 150, fps: '30' }));
  const item: FootageItem = {
    ...{ assetId: clip.id, kind: 'clip', name: clip.name, width: 320, height: 180, rate: { num: 30, den: 1 }, frames: 150 },
    hasSound: false,
    ...UNDESCRIBED,
  };
  montage = carryOut(emptyMontage(), { do: 'setSong', assetId: song.id, name: song.name, length: 6 });
  montage = carryOut(montage, { do: 'takeBeatTimes', times: Array.from({ length: 12 }, (_, i) => i / 2), metre: 4 });
  montage = carryOut(montage, { do: 'addFootage', items: [item] });
  montage = carryOut(montage, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
  montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
  montage = carryOut(montage, { do: 'addTitle', text: 'up', at: { time: 2 }, beats: 2 });
  expect((await server.save(project, 1, montage)).status).toBe(200);
});
afterAll(() => server.stop());

const all = async (): Promise<TemplateAnswer[]> => (await server.http.get(ROUTES.templates()).expect(200)).body as TemplateAnswer[];
const kept = async (): Promise<TemplateAnswer[]> => (await all()).filter((t) => !t.ships);
const keep = async (wish: object, status = 201): Promise<TemplateAnswer & { message: string }> =>
  (await server.http.post(ROUTES.keepTemplate(project)).send(wish).expect(status)).body as TemplateAnswer & { message: string };
const begin = async (id: string, name: string): Promise<OpenedBundleAnswer> =>
  (await server.http.post(ROUTES.beginTemplate(id)).send({ name }).expect(201)).body as OpenedBundleAnswer;
const montageOf = async (id: string): Promise<Montage> =>
  ((await server.http.get(ROUTES.montage(id)).expect(200)).body as SavedMontageAnswer).document;
const cuts = (m: Montage): number[] => scoreOf(m).slots.map((s) => s.start.frame);

test('a montage is kept as a template, and a project begun from it has its slots, titles and song, and no picture', async () => {
  const template = await keep({ name: ' Six bars ', note: 'short', song: true });
  expect(template).toMatchObject({ name: 'Six bars', note: 'short', ships: false, hasSong: true, length: 6, slots: 3, width: 1280 });
  expect(await kept()).toEqual([template]);
  const { project: made, missing } = await begin(template.id, 'From six bars');
  expect([made.name, missing]).toEqual(['From six bars', []]);
  const m = await montageOf(made.id);
  expect([m.footage, m.shots]).toEqual([[], []]);
  expect(cuts(m)).toEqual(cuts(montage));
  expect(m.titles.map((t) => t.text)).toEqual(['up']);
  const assets = await server.until(
    () => server.assets(made.id),
    (list) => list.every((a) => a.state !== 'working'),
  );
  expect(assets.map((a) => [a.id, a.kind, a.state])).toEqual([[m.song!.assetId, 'song', 'ready']]);
  // The project that it was kept from is as it was.
  expect(await montageOf(project)).toEqual(montage);
});

test('without its song it says what is missing; it outlives the server, goes away and comes back', async () => {
  const template = await keep({ name: 'No song', song: false });
  expect(template).toMatchObject({ hasSong: false, note: '' });
  await server.stop();
  server = await RunningServer.start(folder);
  expect((await kept()).map((t) => t.name).sort()).toEqual(['No song', 'Six bars']);
  expect((await begin(template.id, 'Silent')).missing).toEqual(['ticks.wav']);
  await server.http.delete(ROUTES.template(template.id)).expect(204);
  expect((await kept()).map((t) => t.name)).toEqual(['Six bars']);
  await server.http.post(ROUTES.restoreTemplate(template.id)).expect(204);
  expect((await kept()).map((t) => t.name).sort()).toEqual(['No song', 'Six bars']);
  await server.http.delete(ROUTES.template(template.id)).expect(204);
  await server.http.delete(ROUTES.template(template.id)).expect(404);
});

test('it goes out as a file that is opened as bundles are', async () => {
  const [template] = await kept();
  const response = await fetch(`${server.url}${ROUTES.templateFile(template!.id)}`);
  expect(response.headers.get('content-disposition')).toContain('Six%20bars.template.zip');
  const form = new FormData();
  form.append('file', new Blob([await response.arrayBuffer()]), 'six.zip');
  const opened = (await (await fetch(`${server.url}${ROUTES.bundles()}`, { method: 'POST', body: form })).json()) as OpenedBundleAnswer;
  expect(opened).toMatchObject({ project: { name: 'Six bars' }, missing: [] });
  expect(cuts(await montageOf(opened.project.id))).toEqual(cuts(montage));
});

describe('those that ship', () => {
  test('are four, each with a song, a note and slots to fill', async () => {
    const shipped = (await all()).filter((t) => t.ships);
    expect(shipped.map((t) => t.id)).toEqual(['all-gusts', 'hill-morning', 'lantern-evening', 'quick-upright']);
    for (const t of shipped) {
      expect(t.note).toMatch(/[.]$/);
      expect(t.slots).toBeGreaterThan(20);
      expect(t.hasSong).toBe(true);
    }
  });
  test('begin a project with their song', async () => {
    const { project: made } = await begin('quick-upright', 'Upright');
    const m = await montageOf(made.id);
    expect([m.shape.width, m.shape.height, m.shots.length]).toEqual([1080, 1920, 0]);
    expect((await server.assets(made.id)).map((a) => [a.id, a.kind])).toEqual([[m.song!.assetId, 'song']]);
    expect(scoreOf(m).slots.length).toBe((await all()).find((t) => t.id === 'quick-upright')!.slots);
  });
});

test('what cannot be kept or begun is said, and one that is damaged hides no other', async () => {
  const empty = await server.newProject('Nothing');
  const { body } = (await server.http.post(ROUTES.keepTemplate(empty)).send({ name: 'x', song: true }).expect(400)) as {
    body: { message: string };
  };
  expect(body.message).toContain('There is nothing to keep as a template yet');
  expect((await keep({ name: '', song: true }, 400)).message).toContain('A name has 1 to 120 characters');
  expect((await keep({ name: 'x' }, 400)).message).toContain('whether the song goes along');
  expect((await keep({ name: 'x', song: true, note: 'n'.repeat(301) }, 400)).message).toContain('300 characters');
  for (const id of ['no-such', '../bluster', '11111111-2222-4333-8444-555555555555'])
    await server.http
      .post(ROUTES.beginTemplate(encodeURIComponent(id)))
      .send({ name: 'x' })
      .expect(404);
  await server.http.delete(ROUTES.template('all-gusts')).expect(400);
  writeFileSync(join(folder, 'templates', '11111111-2222-4333-8444-555555555555.template.zip'), readFileSync(join(demo, 'dive.mp4')));
  expect((await kept()).map((t) => t.name)).toEqual(['Six bars']);
  await server.http.post(ROUTES.beginTemplate('11111111-2222-4333-8444-555555555555')).send({ name: 'x' }).expect(422);
});

describe('from the command line', () => {
  const main = join(import.meta.dirname, '../../dist/command-line/main.js');
  const bluster = (words: readonly string[], data = scratchFolder()): { code: number | null; out: string; said: string } => {
    const { status, stdout, stderr } = spawnSync('node', [main, ...words], {
      env: { ...process.env, BLUSTER_DATA: data },
      encoding: 'utf8',
    });
    return { code: status, out: stdout, said: stderr };
  };
  let file: string;
  let footage: string;
  beforeAll(async () => {
    const [template] = await kept();
    const response = await fetch(`${server.url}${ROUTES.templateFile(template!.id)}`);
    file = join(media, 'six.zip');
    writeFileSync(file, Buffer.from(await response.arrayBuffer()));
    footage = scratchFolder();
    ['b10.mp4', 'b9.mp4'].forEach((name, i) => numberedClip(footage, name, { frames: 150 - i, fps: '25' }));
    writeFileSync(join(footage, 'notes.txt'), 'which kite was it');
  });

  test('a folder fills a template, in the order of names, and what is none of footage is left out with a sentence', async () => {
    const out = join(scratchFolder(), 'six.mp4');
    const report = `${out}.json`;
    const {
      code,
      out: said,
      said: told,
    } = bluster(['template', file, '--footage', footage, '--quality', 'small', '--side', '180', '--out', out, '--report', report]);
    expect(told).toMatch(/left out: .*notes[.]txt/);
    expect(told).toContain('3 of 3 slots filled');
    expect(told).toContain('All 2 cuts found in the film on their frames');
    expect([code, said]).toEqual([0, `${out}\n`]);
    expect((await probe(out, out)).video).toMatchObject({ width: 320, height: 180, frames: 180 });
    const { cuts: written } = JSON.parse(readFileSync(report, 'utf8')) as { cuts: { shot: string }[] };
    expect(written.length).toBe(2);
  });

  test('over another song, as long as it was or all of it', async () => {
    const song = tickingSong(scratchFolder(), 'longer.wav', 12);
    for (const [length, seconds] of [
      ['as-long', 6],
      ['all', 12],
    ] as const) {
      const out = join(scratchFolder(), 'over.mp4');
      const { code, said } = bluster([
        ...['template', file, '--song', song, '--length', length, '--order', 'match'],
        ...[
          '--footage',
          join(footage, 'b9.mp4'),
          join(footage, 'b10.mp4'),
          '--preset',
          'h264',
          '--quality',
          'small',
          '--side',
          '180',
          '--out',
          out,
        ],
      ]);
      expect(said).toMatch(/cuts go over to longer[.]wav/);
      expect(code).toBe(0);
      const { length: made } = await probe(out, out);
      expect(Math.abs(made - seconds)).toBeLessThan(1.1);
    }
  });

  test('those that ship and those that are kept, one a line', () => {
    const { code, out } = bluster(['template', 'list']);
    expect(code).toBe(0);
    expect(out).toMatch(/^quick-upright\t0:23\t\d+ slots\tQuick and upright$/m);
  });

  test.each([
    [['template', 'No such', '--footage', 'x.mp4'], 1, /There is no file and no folder "x[.]mp4"/],
    [['template', 'No such', '--footage', demo], 1, /There is no template "No such"/],
    [['template', 'quick-upright'], 1, /There is no footage/],
    [['template', 'quick-upright', '--footage', demo, '--order', 'luck'], 1, /--order is one of story, shuffle, match/],
    [['template', 'quick-upright', '--footage', demo, '--song', 'nowhere.mp3'], 1, /There is no file "nowhere[.]mp3"/],
    [['template'], 2, /^usage: /],
    [['export', 'x', '--song', 'y'], 2, /^usage: /],
  ] as const)('%j ends with %i and a sentence', (words, code, says) => {
    const ended = bluster(words);
    expect(ended.said).toMatch(says);
    expect(ended.code).toBe(code);
  });
});
