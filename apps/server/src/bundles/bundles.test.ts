import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { fromBufferPromise } from 'yauzl';
import { buffer } from 'node:stream/consumers';
import { ZipFile } from 'yazl';
import {
  UNDESCRIBED,
  carryOut,
  emptyMontage,
  FILL_DEFAULTS,
  readCut,
  scoreOf,
  type FilmReport,
  type FootageItem,
  type Montage,
} from '@bluster/core';
import {
  ROUTES,
  type AssetAnswer,
  type JobAnswer,
  type OpenedBundleAnswer,
  type ProjectSummaryAnswer,
  type SavedMontageAnswer,
} from '@bluster/wire';
import { probe } from '@bluster/media/probe/probe';
import { numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { AssetFiles } from '../assets/asset-files.ts';
import { RunningServer } from '../testing/running-server.ts';

jest.setTimeout(180_000);
const media = scratchFolder();
let home: RunningServer;
let away: RunningServer;
let project: string;
let montage: Montage;
let clips: string[];

beforeAll(async () => {
  home = await RunningServer.start(scratchFolder());
  away = await RunningServer.start(scratchFolder());
  project = await home.newProject('Kites & strings');
  // Of two files with the same bytes one would be kept.
  clips = ['one', 'two'].map((name, i) => numberedClip(media, `${name}.mp4`, { frames: 150 + i, fps: '30' }));
  const song = await home.ready(project, 'song', tickingSong(media, 'ticks.wav', 6));
  const assets: AssetAnswer[] = [];
  for (const clip of clips) assets.push(await home.ready(project, 'footage', clip));
  montage = { ...emptyMontage(), shape: { width: 320, height: 180, rate: { num: 30, den: 1 } } };
  montage = carryOut(montage, { do: 'setSong', assetId: song.id, name: song.name, length: song.info.length! });
  montage = carryOut(montage, { do: 'takeBeatTimes', times: Array.from({ length: 12 }, (_, i) => i * 0.5), metre: 4 });
  const items = assets.map(({ id, name, info }): FootageItem => {
    const { width, height, rate, frames } = info;
    return {
      assetId: id,
      kind: 'clip',
      name,
      width: width!,
      height: height!,
      rate: rate!,
      frames: frames!,
      hasSound: false,
      ...UNDESCRIBED,
    };
  });
  montage = carryOut(montage, { do: 'addFootage', items });
  montage = carryOut(montage, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
  montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
  expect((await home.save(project, 1, montage)).status).toBe(200);
});
afterAll(() => Promise.all([home.stop(), away.stop()]));

const saved = async (what?: 'with' | 'without'): Promise<Buffer> => {
  const response = await fetch(`${home.url}${ROUTES.bundle(project, what)}`);
  expect(response.status).toBe(200);
  expect(response.headers.get('content-disposition')).toContain(encodeURIComponent('Kites strings.bluster.zip'));
  return Buffer.from(await response.arrayBuffer());
};

async function open(bundle: Buffer): Promise<{ status: number; body: OpenedBundleAnswer & { message: string } }> {
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bundle)]), 'project.bluster.zip');
  const response = await fetch(`${away.url}${ROUTES.bundles()}`, { method: 'POST', body: form });
  return { status: response.status, body: (await response.json()) as OpenedBundleAnswer & { message: string } };
}

const montageOf = async (id: string): Promise<Montage> =>
  ((await (await fetch(`${away.url}${ROUTES.montage(id)}`)).json()) as SavedMontageAnswer).document;

/** The picture that stands for a project in the list, and whether one is being made. */
async function coverOf(id: string): Promise<{ picture: boolean; coming: boolean }> {
  const all = (await (await fetch(`${away.url}${ROUTES.projects()}`)).json()) as ProjectSummaryAnswer[];
  const { coverAssetId, coverComing } = all.find((p) => p.id === id)!;
  // What is named is there: a page asks for it at once, and a page asks for nothing else.
  if (coverAssetId) expect((await fetch(`${away.url}${ROUTES.assetPart(coverAssetId, 'thumb')}`)).status).toBe(200);
  return { picture: coverAssetId !== null, coming: coverComing };
}

/** What a montage shows, by the names of its files and not by their ids. */
const shown = (m: Montage): unknown =>
  scoreOf(m).slots.map(({ start, frames, placed }) => [start.frame, frames, placed?.item.name, placed?.shot.sourceIn]);

test('a project goes to an empty data folder and is there as it was, with its files', async () => {
  const { status, body } = await open(await saved());
  expect(status).toBe(201);
  expect(body).toMatchObject({ project: { name: 'Kites & strings' }, missing: [] });
  const { id } = body.project;
  const assets = await away.until(
    () => away.assets(id),
    (list) => list.every((a) => a.state !== 'working'),
  );
  expect(assets.map((a) => [a.name, a.kind, a.state, a.awaits]).sort()).toEqual([
    ['one.mp4', 'clip', 'ready', false],
    ['ticks.wav', 'song', 'ready', false],
    ['two.mp4', 'clip', 'ready', false],
  ]);
  const there = await montageOf(id);
  expect(shown(there)).toEqual(shown(montage));
  expect(there.footage.map((f) => f.assetId).sort()).toEqual(
    assets
      .filter((a) => a.kind === 'clip')
      .map((a) => a.id)
      .sort(),
  );
  for (const clip of assets.filter((a) => a.kind === 'clip')) {
    const original = readFileSync(away.app.get(AssetFiles).path(clip.id, 'original'));
    expect(original.equals(readFileSync(join(media, clip.name)))).toBe(true);
  }
});

test('without its media it says what is missing, and takes what is brought in by that name; a film of it is made then', async () => {
  const bundle = await saved('without');
  expect(bundle.length).toBeLessThan(20_000);
  const { body } = await open(bundle);
  expect([...body.missing].sort()).toEqual(['one.mp4', 'ticks.wav', 'two.mp4']);
  const { id } = body.project;
  const before = await away.assets(id);
  expect(before.find((a) => a.name === 'one.mp4')).toMatchObject({
    state: 'failed',
    problem: '"one.mp4" was not in the bundle. Bring it in by this name, and it takes its place.',
  });
  expect(await coverOf(id)).toEqual({ picture: false, coming: false });
  // One of the same name that is much longer is another one.
  const other = numberedClip(scratchFolder(), 'one.mp4', { frames: 300, fps: '30' });
  expect(before.map((a) => a.id)).not.toContain((await away.ready(id, 'footage', other)).id);
  await away.ready(id, 'song', join(media, 'ticks.wav'));
  for (const clip of clips) expect(before.map((a) => a.id)).toContain((await away.ready(id, 'footage', clip)).id);
  expect((await away.assets(id)).filter((a) => a.state !== 'ready')).toEqual([]);
  expect(await coverOf(id)).toEqual({ picture: true, coming: false });
  const { body: started } = (await away.http.post(ROUTES.exports(id)).expect(201)) as { body: JobAnswer };
  const job = await away.until(
    () => away.job(started.id),
    (j) => !['queued', 'running'].includes(j.state),
  );
  expect(job).toMatchObject({ state: 'done', result: { frames: 180, proof: { good: true } } });
});

describe('a bundle that is not what it should be is refused in a sentence, and leaves nothing', () => {
  const file = (more: object): object => ({
    id: '11111111-2222-4333-8444-555555555555',
    kind: 'clip',
    name: 'kite.mp4',
    size: 4,
    file: 'media/a',
    info: {},
    ...more,
  });
  const manifest = (more: object = {}, files: object[] = []): string =>
    JSON.stringify({ format: 'bluster-bundle', version: 1, name: 'Evil', files, ...more });
  const zip = async (entries: Readonly<Record<string, string | Buffer>>): Promise<Buffer> => {
    const made = new ZipFile();
    for (const [name, content] of Object.entries(entries)) made.addBuffer(Buffer.from(content), name);
    made.end();
    return buffer(made.outputStream);
  };
  const empty = JSON.stringify(emptyMontage());
  /** Says of an entry in the directory of a zip that it is as large as this. */
  function claim(bundle: Buffer, name: string, size: number): Buffer {
    const at = bundle.lastIndexOf(name) - 46;
    expect(bundle.readUInt32LE(at)).toBe(0x02014b50);
    bundle.writeUInt32LE(size, at + 24);
    return bundle;
  }
  const asPath = (bundle: Buffer, from: string, to: string): Buffer =>
    Buffer.from(bundle.toString('latin1').replaceAll(from, to), 'latin1');

  const CASES: readonly (readonly [string, () => Promise<Buffer>, RegExp])[] = [
    ['cut off', async () => (await saved()).subarray(0, 5000), /no zip file, or it was cut off/],
    ['no zip', () => Promise.resolve(Buffer.from('kites '.repeat(1000))), /no zip file/],
    ['a zip of something else', () => zip({ 'readme.txt': 'hello' }), /there is no bundle[.]json in it/],
    [
      'a path that leads outside',
      async () =>
        asPath(await zip({ 'bundle.json': manifest(), 'montage.json': empty, 'aaaaaa/evilx': 'x' }), 'aaaaaa/evilx', '../../evilxx'),
      /outside its place/,
    ],
    [
      'a file that is not in it',
      () => zip({ 'bundle.json': manifest({}, [file({})]), 'montage.json': empty }),
      /"kite[.]mp4" is not in it/,
    ],
    [
      'sizes that differ',
      () => zip({ 'bundle.json': manifest({}, [file({})]), 'montage.json': empty, 'media/a': '12345' }),
      /not as large as it says/,
    ],
    [
      'a bomb: more comes out than is said',
      async () =>
        claim(await zip({ 'bundle.json': manifest({}, [file({})]), 'montage.json': empty, 'media/a': Buffer.alloc(1e7) }), 'media/a', 4),
      /not as large as (it|they) says?/,
    ],
    [
      'a manifest too large',
      async () => claim(await zip({ 'bundle.json': manifest(), 'montage.json': empty }), 'bundle.json', 64 * 2 ** 20),
      /its bundle[.]json is too large/,
    ],
    [
      'a media file outside the media',
      () => zip({ 'bundle.json': manifest({}, [file({ file: 'montage.json', size: empty.length })]), 'montage.json': empty }),
      /is not in it/,
    ],
    [
      'a newer form',
      () => zip({ 'bundle.json': manifest({ version: 2 }), 'montage.json': empty }),
      /newer Bluster \(form 2, this one reads 1\)/,
    ],
    [
      'a montage of a newer version',
      () => zip({ 'bundle.json': manifest(), 'montage.json': JSON.stringify({ ...emptyMontage(), version: 99 }) }),
      /version 99|newer/,
    ],
    ['a file of an unknown kind', () => zip({ 'bundle.json': manifest({}, [file({ kind: 'spell' })]), 'montage.json': empty }), /kind/],
    [
      'a file of which too much is said',
      () => zip({ 'bundle.json': manifest({}, [file({ file: null, info: { strip: { pictures: 1e9 } } })]), 'montage.json': empty }),
      /strip/,
    ],
    [
      'media that are none',
      () => zip({ 'bundle.json': manifest({}, [file({ size: 5 })]), 'montage.json': empty, 'media/a': 'kites' }),
      /kite[.]mp4/,
    ],
  ];
  test.each(CASES)('%s', async (_, make, says) => {
    const before = ((await away.http.get(ROUTES.projects())).body as ProjectSummaryAnswer[]).map((p) => p.id);
    const { status, body } = await open(await make());
    expect(body.message).toMatch(says);
    expect(status).toBeGreaterThanOrEqual(400);
    expect(status).toBeLessThan(500);
    expect(((await away.http.get(ROUTES.projects())).body as ProjectSummaryAnswer[]).map((p) => p.id)).toEqual(before);
    expect((await away.http.get(ROUTES.deletedProjects())).body as unknown[]).toEqual([]);
    expect(readdirSync(join(away.folder, 'incoming'), { withFileTypes: true }).filter((e) => e.isFile())).toEqual([]);
  });
});

describe('from the command line', () => {
  const main = join(import.meta.dirname, '../../dist/command-line/main.js');
  const bluster = (words: readonly string[], folder = scratchFolder()): { code: number | null; out: string; said: string } => {
    const { status, stdout, stderr } = spawnSync('node', [main, ...words], {
      env: { ...process.env, BLUSTER_DATA: folder },
      encoding: 'utf8',
    });
    return { code: status, out: stdout, said: stderr };
  };

  test('films of a bundle in two shapes, with reports', async () => {
    const bundle = join(media, 'whole.zip');
    writeFileSync(bundle, await saved());
    const out = join(scratchFolder(), 'films');
    const {
      code,
      out: paths,
      said,
    } = bluster(['export', bundle, '--shape', '9:16', '--shape', '1:1', '--to', '4', '--loudness', '-20', '--out', out, '--report', 'x']);
    expect(said).toMatch(/^Kites strings 9x16[.]mp4 \d+ %$/m);
    expect(said).toMatch(/^Its one cut found in the film on its frame; sound/m);
    expect(paths.trim().split('\n')).toEqual(['Kites strings 9x16.mp4', 'Kites strings 1x1.mp4'].map((name) => join(out, name)));
    expect(code).toBe(0);
    for (const [path, width, height] of [
      [paths.split('\n')[0]!, 180, 320],
      [paths.split('\n')[1]!, 180, 180],
    ] as const) {
      expect((await probe(path, path)).video).toMatchObject({ width, height, frames: 120 });
      const report = JSON.parse(readFileSync(`${path}.json`, 'utf8')) as FilmReport & { loudness: { integrated: number } };
      expect(report.proof).toMatchObject({ good: true });
      expect(report.loudness.integrated).toBeCloseTo(-20, 0);
    }
    // What was given is still there.
    expect(existsSync(bundle)).toBe(true);
  });

  test('the projects of a data folder, one a line', async () => {
    const folder = scratchFolder();
    const server = await RunningServer.start(folder);
    const id = await server.newProject('Flags');
    const taken = bluster(['project', 'list'], folder);
    expect(taken).toMatchObject({ code: 1, out: '' });
    expect(taken.said).toMatch(/^bluster: Another Bluster works in /);
    await server.stop();
    expect(bluster(['project', 'list'], folder)).toMatchObject({ code: 0, out: `${id}\t0:00\tFlags\n` });
  });

  test.each([
    [['export', 'Nowhere'], 1, /There is no project and no bundle called "Nowhere"/],
    [['export'], 2, /^usage: /],
    [['export', 'x', '--colour', 'red'], 2, /usage: /],
    [['project', 'sing'], 2, /^usage: /],
  ] as const)('%j ends with %i and a sentence', (words, code, says) => {
    const ended = bluster(words);
    expect(ended.said).toMatch(says);
    expect(ended.code).toBe(code);
  });

  test('what a bundle of other things is asked for is said', async () => {
    const bundle = join(media, 'again.zip');
    writeFileSync(bundle, await saved());
    for (const [words, says] of [
      [['--shape', 'wide'], /"wide" is no shape[.] Give width to height, as 9:16[.]/],
      [['--preset', 'flipbook'], /one of these ways: h264/],
      [['--loudness', 'loud'], /--loudness takes a number, not "loud"/],
    ] as const)
      expect(bluster(['export', bundle, ...words]).said).toMatch(says);
    writeFileSync(bundle, await saved('without'));
    expect(bluster(['export', bundle]).said).toMatch(/Not in the bundle: .*Save it with its media/);
  });
});

test('the cut goes out as OpenTimelineIO with the media that it shows, each where the document names it', async () => {
  const response = await fetch(`${home.url}${ROUTES.otioz(project)}`);
  expect(response.headers.get('content-disposition')).toContain(encodeURIComponent('Kites strings.otioz'));
  const zip = await fromBufferPromise(Buffer.from(await response.arrayBuffer()), { lazyEntries: true });
  const inside = new Map<string, Buffer>();
  for await (const entry of zip.eachEntry()) {
    const chunks: Buffer[] = [];
    for await (const chunk of await zip.openReadStreamPromise(entry)) chunks.push(chunk as Buffer);
    inside.set(entry.fileName, Buffer.concat(chunks));
  }
  expect(inside.get('version.txt')!.toString()).toBe('1.0.0');
  const text = inside.get('content.otio')!.toString();
  const named = [...text.matchAll(/"target_url": "([^"]+)"/g)].map((m) => decodeURIComponent(m[1]!));
  expect(named.length).toBe(4);
  for (const place of named) expect([...inside.keys()]).toContain(place);
  expect(inside.size).toBe(2 + new Set(named).size);
  for (const clip of clips) {
    const place = named.find((n) => n.endsWith(basename(clip)));
    if (place) expect(inside.get(place)!.equals(readFileSync(clip))).toBe(true);
  }
  // Our own reader finds the shots in it again.
  expect(readCut('content.otio', text, montage.shape.rate).pieces.map((p) => p.length)).toEqual([2, 2, 2]);
  const empty = await home.newProject('Without a song');
  expect((await fetch(`${home.url}${ROUTES.otioz(empty)}`)).status).toBe(400);
});
