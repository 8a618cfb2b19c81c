import { ROUTES, type AssetAnswer } from '@bluster/wire';
import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals';
import { appendFileSync, existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { ffmpeg, numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { RunningServer } from '../testing/running-server.ts';

jest.setTimeout(120_000);
const media = scratchFolder();
const folder = scratchFolder();
let server: RunningServer;
let project: string;
beforeAll(async () => {
  server = await RunningServer.start(folder);
  project = await server.newProject();
});
afterAll(() => server.stop());

const TUS = { 'Tus-Resumable': '1.0.0' };
const base64 = (text: string): string => Buffer.from(text).toString('base64');

async function begin(bytes: Buffer, name: string, role = 'footage', to = project): Promise<Response> {
  const metadata = `project ${base64(to)},role ${base64(role)},filename ${base64(name)}`;
  return fetch(`${server.url}/api/uploads`, {
    method: 'POST',
    headers: { ...TUS, 'Upload-Length': String(bytes.length), 'Upload-Metadata': metadata },
  });
}
const placeOf = (response: Response): string => response.headers.get('location')!;
async function send(place: string, bytes: Buffer, from: number, to: number): Promise<Response> {
  return fetch(`${server.url}${place}`, {
    method: 'PATCH',
    headers: { ...TUS, 'Upload-Offset': String(from), 'Content-Type': 'application/offset+octet-stream' },
    body: new Uint8Array(bytes.subarray(from, to)),
  });
}
const offsetAt = async (place: string): Promise<number> =>
  Number((await fetch(`${server.url}${place}`, { method: 'HEAD', headers: TUS })).headers.get('upload-offset'));
async function whole(bytes: Buffer, name: string, role = 'footage', to = project): Promise<Response> {
  return send(placeOf(await begin(bytes, name, role, to)), bytes, 0, bytes.length);
}

describe('an upload in pieces', () => {
  const bytes = readFileSync(numberedClip(media, 'pieces.mp4', { frames: 60, fps: '30' }));

  test('cut at any byte it goes on where it was, also after the server was stopped, and the file is whole', async () => {
    const place = placeOf(await begin(bytes, 'pieces.mp4'));
    const cuts = [0, 1, 17, Math.floor(bytes.length / 3), Math.floor(bytes.length / 2) + 1, bytes.length];
    for (let i = 0; i + 1 < cuts.length; i++) {
      expect(await offsetAt(place)).toBe(cuts[i]);
      const response = await send(place, bytes, cuts[i]!, cuts[i + 1]!);
      expect(response.status).toBe(i + 2 === cuts.length ? 200 : 204);
      if (i === 2) {
        await server.stop();
        server = await RunningServer.start(folder);
      }
      if (i + 2 < cuts.length) continue;
      const asset = (await response.json()) as AssetAnswer;
      expect(asset).toMatchObject({ kind: 'clip', name: 'pieces.mp4', size: bytes.length });
      expect(readFileSync(join(folder, 'assets', asset.id, 'original')).equals(bytes)).toBe(true);
    }
    expect(readdirSync(join(folder, 'incoming', 'resumable'))).toEqual([]);
  });

  test('a piece sent to the wrong place is refused, and nothing is lost by it', async () => {
    const other = readFileSync(numberedClip(media, 'other.mp4', { frames: 40, fps: '30' }));
    const place = placeOf(await begin(other, 'other.mp4'));
    await send(place, other, 0, 500);
    expect((await send(place, other, 400, 900)).status).toBe(409);
    expect(await offsetAt(place)).toBe(500);
    expect((await send(place, other, 500, other.length)).status).toBe(200);
  });

  test('that came whole just before the server stopped is taken in when it starts again', async () => {
    const late = readFileSync(numberedClip(media, 'late.mp4', { frames: 33, fps: '25' }));
    const place = placeOf(await begin(late, 'late.mp4'));
    await send(place, late, 0, late.length - 10);
    await server.stop();
    // The last bytes reached the disk, but not the answer.
    appendFileSync(join(folder, 'incoming', 'resumable', place.split('/').at(-1)!), late.subarray(late.length - 10));
    server = await RunningServer.start(folder);
    expect((await server.assets(project)).map((a) => a.name)).toContain('late.mp4');
  });
});

describe('the same file', () => {
  test('twice is kept once, whatever it is called', async () => {
    const bytes = readFileSync(numberedClip(media, 'twin.mp4', { frames: 50, fps: '30' }));
    const first = (await (await whole(bytes, 'twin.mp4')).json()) as AssetAnswer;
    const second = (await (await whole(bytes, 'twin copy.mp4')).json()) as AssetAnswer;
    expect(second.id).toBe(first.id);
    expect(second.name).toBe('twin.mp4');
  });
  test('coming twice at once is kept once', async () => {
    const bytes = readFileSync(numberedClip(media, 'race.mp4', { frames: 51, fps: '30' }));
    const both = await Promise.all([whole(bytes, 'race.mp4'), whole(bytes, 'race.mp4')]);
    const [a, b] = (await Promise.all(both.map((r) => r.json()))) as AssetAnswer[];
    expect(a!.id).toBe(b!.id);
    expect((await server.assets(project)).filter((x) => x.name === 'race.mp4').length).toBe(1);
  });
  test('may be the song and footage, and lie in two projects', async () => {
    const bytes = readFileSync(tickingSong(media, 'both.wav', 5));
    const song = (await (await whole(bytes, 'both.wav', 'song')).json()) as AssetAnswer;
    const sound = (await (await whole(bytes, 'both.wav')).json()) as AssetAnswer;
    expect([song.kind, sound.kind]).toEqual(['song', 'sound']);
    const elsewhere = await server.newProject('Elsewhere');
    expect(((await (await whole(bytes, 'both.wav', 'song', elsewhere)).json()) as AssetAnswer).id).not.toBe(song.id);
  });
});

test('what one project made ready is ready at once in another, and stays when it is removed from the first', async () => {
  const clip = numberedClip(media, 'travelled.mp4', { frames: 40, fps: '30' });
  const first = await server.ready(await server.newProject('From'), 'footage', clip);
  const to = await server.newProject('To');
  const second = (await (await whole(readFileSync(clip), 'came along.mp4', 'footage', to)).json()) as AssetAnswer;
  expect(second).toMatchObject({ state: 'ready', name: 'came along.mp4', kind: 'clip', awaits: true });
  expect(second.id).not.toBe(first.id);
  const { place: _, ...made } = first.info;
  expect(second.info).toMatchObject(made);
  const folders = [first.id, second.id].map((id) => join(folder, 'assets', id));
  expect(readdirSync(folders[1]!).sort()).toEqual(readdirSync(folders[0]!).sort());
  await server.http.post(`/api/assets/${first.id}/discard`).expect(204);
  const proxy = await fetch(`${server.url}${ROUTES.assetPart(second.id, 'proxy')}`);
  expect((await proxy.arrayBuffer()).byteLength).toBeGreaterThan(1000);
});

describe('what is refused', () => {
  test.each([
    ['a text file', Buffer.from('Dear kite,\nfly.\n'), 'letter.mp4', /text file/],
    ['a zip named .mov', Buffer.from(`PK\u0003\u0004${'\u0000\u0001'.repeat(200)}`), 'archive.mov', /cannot be read|damaged/],
  ])('%s, with the reason, when it has come', async (_, bytes, name, sentence) => {
    const response = await whole(bytes, name);
    expect(response.status).toBe(422);
    expect(((await response.json()) as { message: string }).message).toMatch(sentence);
    expect(readdirSync(join(folder, 'incoming', 'resumable'))).toEqual([]);
  });
  test('an upload for no project, in no role, or too large, before a byte is sent', async () => {
    const bytes = Buffer.alloc(10);
    expect((await begin(bytes, 'a.mp4', 'footage', '00000000-0000-4000-8000-000000000000')).status).toBe(404);
    expect((await begin(bytes, 'a.mp4', 'nonsense')).status).toBe(400);
    const huge = await fetch(`${server.url}/api/uploads`, { method: 'POST', headers: { ...TUS, 'Upload-Length': String(30 * 2 ** 30) } });
    expect(huge.status).toBe(413);
  });
  test('addresses that are none, and reading what was sent', async () => {
    for (const path of ['/api/uploads/..%2f..%2fbluster.sqlite', '/api/uploads/zz', `/api/uploads/${'a'.repeat(32)}`])
      expect((await fetch(`${server.url}${path}`, { method: 'HEAD', headers: TUS })).status).toBe(404);
    const place = placeOf(await begin(Buffer.alloc(100), 'a.mp4'));
    expect((await fetch(`${server.url}${place}`)).status).toBe(404);
    expect((await fetch(`${server.url}${place}`, { method: 'DELETE', headers: TUS })).status).toBe(204);
    expect(existsSync(join(folder, 'incoming', 'resumable', place.split('/').at(-1)!))).toBe(false);
  });
});

describe('work on a file', () => {
  test('is called off, and the file removed, as long as it is not in the montage', async () => {
    const bytes = readFileSync(numberedClip(media, 'unwanted.mp4', { frames: 600, fps: '30' }));
    const asset = (await (await whole(bytes, 'unwanted.mp4')).json()) as AssetAnswer;
    await server.http.post(`/api/assets/${asset.id}/discard`).expect(204);
    expect((await server.assets(project)).some((a) => a.id === asset.id)).toBe(false);
    expect(existsSync(join(folder, 'assets', asset.id))).toBe(false);
    await server.http.post(`/api/assets/${asset.id}/discard`).expect(404);
  });
  test('comes first when someone looks at it', async () => {
    const elsewhere = await server.newProject('Hurry');
    // Five that take long, each another one by a byte behind its end, and a short one that comes last.
    const long = readFileSync(numberedClip(media, 'long.mp4', { frames: 600, fps: '30' }));
    const clips = [0, 1, 2, 3, 4].map((n) => Buffer.concat([long, Buffer.from([n])]));
    clips.push(readFileSync(numberedClip(media, 'short.mp4', { frames: 60, fps: '30' })));
    const assets: AssetAnswer[] = [];
    for (const [i, bytes] of clips.entries())
      assets.push((await (await whole(bytes, `hurry-${i}.mp4`, 'footage', elsewhere)).json()) as AssetAnswer);
    const last = assets.at(-1)!;
    await server.http.post(`/api/assets/${last.id}/hurry`).expect(204);
    const done = await server.until(
      () => server.assets(elsewhere),
      (list) => list.find((a) => a.id === last.id)!.state === 'ready',
    );
    expect(done.filter((a) => a.state !== 'ready').length).toBeGreaterThan(0);
    // What is left of the work goes with the project.
    await server.http.delete(`/api/projects/${elsewhere}`).expect(204);
  });
});

test('a sound without picture is an effect, with the moment where it strikes', async () => {
  const path = join(media, 'boom.wav');
  ffmpeg('-f', 'lavfi', '-i', `aevalsrc='if(lt(t,0.7),0.004*random(0),0.9*sin(700*t)*exp(-9*(t-0.7)))':s=44100:d=2`, path);
  const sound = await server.ready(project, 'footage', path);
  expect(sound).toMatchObject({ kind: 'sound', state: 'ready' });
  expect(sound.info.hit).toBeCloseTo(0.7, 1);
});
