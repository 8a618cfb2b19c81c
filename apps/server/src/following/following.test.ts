import { afterAll, beforeAll, expect, jest, test } from '@jest/globals';
import type { AssetAnswer, JobAnswer } from '@bluster/wire';
import { ROUTES } from '@bluster/wire/routes';
import { numberedClip, scratchFolder } from '@bluster/media/testing/made-media';
import { RunningServer } from '../testing/running-server.ts';

jest.setTimeout(60_000);
const media = scratchFolder();
let server: RunningServer;
beforeAll(async () => {
  server = await RunningServer.start(scratchFolder());
});
afterAll(() => server.stop());

interface Event {
  readonly type: string;
  readonly data: string;
}

/** Reads server-sent events (WHATWG HTML, 9.2) from an address until it has enough, or they end. */
async function events(path: string, enough: (all: readonly Event[]) => boolean, onOpen: () => Promise<unknown>): Promise<Event[]> {
  const response = await fetch(`${server.url}${path}`);
  expect(response.headers.get('content-type')).toMatch('text/event-stream');
  await onOpen();
  const all: Event[] = [];
  let text = '';
  const decoder = new TextDecoder();
  for await (const chunk of response.body!) {
    text += decoder.decode(chunk as Uint8Array, { stream: true });
    const blocks = text.split('\n\n');
    text = blocks.pop()!;
    for (const block of blocks) {
      const field = (name: string): string =>
        block
          .split('\n')
          .filter((line) => line.startsWith(`${name}: `))
          .map((line) => line.slice(name.length + 2))
          .join('\n');
      if (field('event') !== '') all.push({ type: field('event'), data: field('data') });
    }
    if (enough(all)) break;
  }
  return all;
}

const jobsOf = (all: readonly Event[]): JobAnswer[] => all.filter((e) => e.type === 'job').map((e) => JSON.parse(e.data) as JobAnswer);
const assetsOf = (all: readonly Event[]): AssetAnswer[] =>
  all.filter((e) => e.type === 'asset').map((e) => JSON.parse(e.data) as AssetAnswer);

test('what becomes of a clip is told as it happens, to those who follow its project alone', async () => {
  const project = await server.newProject('Followed');
  const other = await server.newProject('Other');
  const clip = numberedClip(media, 'clip.mp4', { frames: 60, fps: '30' });
  const all = await events(
    ROUTES.changes(project),
    (so) => assetsOf(so).some((a) => a.state === 'ready') && jobsOf(so).some((j) => j.kind === 'proxy' && j.state === 'done'),
    async () => {
      await server.upload(other, 'footage', clip).expect(201);
      await server.upload(project, 'footage', clip).expect(201);
    },
  );
  const assets = assetsOf(all);
  expect(new Set(assets.map((a) => a.id)).size).toBe(1);
  expect(assets[0]!.state).toBe('working');
  expect(assets.at(-1)).toEqual((await server.assets(project))[0]);
  const proxy = jobsOf(all).filter((j) => j.kind === 'proxy');
  expect(proxy.map((j) => j.progress)).toEqual([...proxy.map((j) => j.progress)].sort((a, b) => a - b));
  expect(new Set(jobsOf(all).map((j) => j.assetId))).toEqual(new Set([assets[0]!.id]));
});

test('a file that is given up is told of as gone', async () => {
  const project = await server.newProject('Given up');
  const { id } = await server.ready(project, 'footage', numberedClip(media, 'up.mp4', { frames: 20, fps: '30' }));
  const all = await events(
    ROUTES.changes(project),
    (so) => so.some((e) => e.type === 'gone'),
    () => server.http.post(ROUTES.discardAsset(id)).expect(204),
  );
  expect(all.at(-1)).toEqual({ type: 'gone', data: id });
});

test('a project that is not there cannot be followed', () =>
  server.http.get(ROUTES.changes('00000000-0000-4000-8000-000000000000')).expect(404));

test('a server that is stopped ends its streams', async () => {
  const folder = scratchFolder();
  const own = await RunningServer.start(folder);
  const project = await own.newProject('Stopped');
  const response = await fetch(`${own.url}${ROUTES.changes(project)}`);
  const stopped = own.stop();
  const reader = response.body!.getReader();
  while (!(await reader.read()).done);
  await stopped;
});
