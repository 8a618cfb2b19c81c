import { afterAll, beforeAll, expect, jest, test } from '@jest/globals';
import { ROUTES } from '@bluster/wire';
import { copyFile, readFile, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { ffmpeg, numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { RunningServer } from '../testing/running-server.ts';

/*
 * Each row of the README's table of what is read, with a real file of that kind, brought in over HTTP.
 */
jest.setTimeout(180_000);
const media = scratchFolder();
let server: RunningServer;
let project: string;
let plain: string;
beforeAll(async () => {
  server = await RunningServer.start(scratchFolder());
  project = await server.newProject();
  plain = numberedClip(media, 'plain.mp4', { frames: 60, fps: '30', sound: true });
});
afterAll(() => server.stop());

const X264 = ['-c:v', 'libx264', '-preset', 'ultrafast'];
const AAC = ['-c:a', 'aac'];

test.each([
  ['.mov', [...X264, ...AAC]],
  ['.mkv', [...X264, '-c:a', 'flac']],
  ['.webm', ['-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8', '-c:a', 'libopus']],
  ['.avi', ['-c:v', 'mpeg4', '-c:a', 'libmp3lame']],
  ['.mts', ['-c:v', 'mpeg2video', '-c:a', 'ac3', '-f', 'mpegts']],
  ['.m2ts', [...X264, '-c:a', 'ac3', '-f', 'mpegts', '-mpegts_m2ts_mode', '1']],
  ['.ts', [...X264, ...AAC, '-f', 'mpegts']],
  ['.3gp', ['-c:v', 'h263', '-s', '352x288', '-an']],
  ['.mpg', ['-c:v', 'mpeg2video', '-c:a', 'mp2']],
  ['.gif', ['-an', '-vf', 'fps=10']],
])('a clip: %s', async (ending, args) => {
  const path = join(media, `clip${ending}`);
  ffmpeg('-i', plain, ...args, path);
  const { kind, state, problem, info } = await server.ready(project, 'footage', path);
  expect({ kind, state, problem }).toEqual({ kind: 'clip', state: 'ready', problem: null });
  expect(info.damaged).toBeUndefined();
  expect(info.length).toBeGreaterThan(1.85);
  expect(info.length).toBeLessThan(2.15);
  expect(Math.abs(info.frames! - (ending === '.gif' ? 20 : 60))).toBeLessThanOrEqual(1);
});

test('an animated WebP is a clip whose pictures stand as long as it says', async () => {
  const path = join(media, 'moving.webp');
  const pages = ['#d9542f', '#1f665c', '#c98a10'].map((background) => ({
    create: { width: 64, height: 48, channels: 3 as const, background },
  }));
  const pictures = await Promise.all(pages.map((page) => sharp(page).png().toBuffer()));
  await sharp(pictures, { join: { animated: true } })
    .webp({ delay: [100, 300, 200], loop: 0 })
    .toFile(path);
  const asset = await server.ready(project, 'footage', path);
  expect(asset).toMatchObject({ kind: 'clip', state: 'ready', info: { width: 64, height: 48, frames: 6, rate: { num: 10, den: 1 } } });
  const { body } = (await server.http.get(`/api/assets/${asset.id}/tiles/1`).expect(200)) as { body: Buffer };
  const { dominant } = await sharp(body).stats();
  // A quarter of a second in, the second picture is seen: spruce green.
  expect(dominant.g).toBeGreaterThan(dominant.r);
});

const HILL = Buffer.from(
  '<svg width="240" height="160"><rect width="240" height="160" fill="#9fc6e0"/><path d="M190 40l14 16-14 22-14-22z" fill="#d9542f"/></svg>',
);
test.each([
  ['.jpg', (path: string) => sharp(HILL).jpeg().toFile(path)],
  ['.png', (path: string) => sharp(HILL).png().toFile(path)],
  ['.webp', (path: string) => sharp(HILL).webp().toFile(path)],
  ['.avif', (path: string) => sharp(HILL).avif({ effort: 0 }).toFile(path)],
  ['.tiff', (path: string) => sharp(HILL).tiff().toFile(path)],
  ['.heic', (path: string) => copyFile(join(import.meta.dirname, '../testing/specimens/kite.heic'), path)],
])('a photo: %s, with its focus where the kite is', async (ending, make) => {
  const path = join(media, `hill${ending}`);
  await make(path);
  const asset = await server.ready(project, 'footage', path);
  expect(asset).toMatchObject({ kind: 'photo', state: 'ready', problem: null });
  const { width, height, focus } = asset.info;
  expect(width! / height!).toBeCloseTo(1.5, 2);
  const kite = ending === '.heic' ? { x: 60 / 96, y: 23 / 64 } : { x: 190 / 240, y: 58 / 160 };
  expect(Math.abs(focus!.x - kite.x)).toBeLessThan(0.15);
  expect(Math.abs(focus!.y - kite.y)).toBeLessThan(0.25);
  const { body } = (await server.http.get(`/api/assets/${asset.id}/photo`).expect(200)) as { body: Buffer };
  const { data, info } = await sharp(body).raw().toBuffer({ resolveWithObject: true });
  const at = (Math.round(kite.y * info.height) * info.width + Math.round(kite.x * info.width)) * info.channels;
  expect(data[at]! - data[at + 2]!).toBeGreaterThan(80);
});

test('what a photo lets through is black', async () => {
  const path = join(media, 'cut-out.png');
  await sharp({ create: { width: 40, height: 30, channels: 4, background: { r: 255, g: 255, b: 255, alpha: 0 } } })
    .png()
    .toFile(path);
  const asset = await server.ready(project, 'footage', path);
  const { body } = (await server.http.get(`/api/assets/${asset.id}/photo`).expect(200)) as { body: Buffer };
  expect((await sharp(body).stats()).channels.map((c) => c.max)).toEqual([0, 0, 0]);
});

const fonts = join(dirname(fileURLToPath(import.meta.resolve('@fontsource/special-elite/package.json'))), 'files');
test.each([
  ['.woff2', 'special-elite-latin-400-normal.woff2'],
  ['.woff', 'special-elite-latin-400-normal.woff'],
])('a typeface: %s, handed out as it came', async (ending, name) => {
  const path = join(media, `own${ending}`);
  await copyFile(join(fonts, name), path);
  const asset = await server.ready(project, 'footage', path);
  expect(asset).toMatchObject({ kind: 'face', state: 'ready', problem: null, info: { family: 'Special Elite' } });
  const { body } = (await server.http
    .get(ROUTES.assetPart(asset.id, 'original'))
    .responseType('blob')
    .expect(200)
    .expect('Content-Type', /octet-stream/)) as { body: Buffer };
  expect(body.equals(await readFile(path))).toBe(true);
});

test('a typeface that is broken is refused, and what breaks is not the server', async () => {
  const whole = await readFile(join(fonts, 'special-elite-latin-400-normal.woff2'));
  const path = join(media, 'broken.woff2');
  for (const broken of [whole.subarray(0, 900), Buffer.concat([whole.subarray(0, 60), Buffer.alloc(whole.length - 60, 0xa5)])]) {
    await writeFile(path, broken);
    const { body } = (await server.upload(project, 'footage', path).expect(422)) as { body: unknown };
    expect((body as { message: string }).message).toBe(
      '"broken.woff2" cannot be read as a typeface. Bring in a TTF, OTF, WOFF or WOFF2 file that other programs can open.',
    );
  }
});

test.each([
  ['.wav', []],
  ['.mp3', []],
  ['.flac', []],
  ['.ogg', ['-c:a', 'libvorbis']],
  ['.opus', ['-c:a', 'libopus']],
  ['.m4a', AAC],
  ['.aac', AAC],
  ['.aiff', []],
  ['.wma', ['-c:a', 'wmav2']],
])('a song: %s', async (ending, args) => {
  const path = tickingSong(media, `song${ending}`, 5, ...args);
  const asset = await server.ready(project, 'song', path);
  expect(asset).toMatchObject({ kind: 'song', state: 'ready', problem: null });
  expect(Math.abs(asset.info.length! - 5)).toBeLessThan(0.15);
});

test('the sound of a film as the song', async () => {
  const path = numberedClip(media, 'with-sound.mp4', { frames: 120, fps: '30', sound: true });
  const asset = await server.ready(project, 'song', path);
  expect(asset).toMatchObject({ kind: 'song', state: 'ready' });
  // ffmpeg lets the endless tone it was made from run on by a few packets.
  expect(Math.abs(asset.info.length! - 4)).toBeLessThan(0.2);
});

test('what is none of these is refused with a sentence that says what to do', async () => {
  const path = join(media, 'drawing.svg.mp4');
  ffmpeg('-f', 'lavfi', '-i', 'color=red:s=64x64:d=1', '-c:v', 'rawvideo', '-f', 'nut', path);
  const { body } = (await server.upload(project, 'footage', path).expect(422)) as { body: unknown };
  expect((body as { message: string }).message).toMatch(/Convert it to MP4|damaged/);
});
