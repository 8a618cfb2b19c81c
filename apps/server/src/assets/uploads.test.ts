import type { AssetAnswer } from '@bluster/wire';
import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import sharp from 'sharp';
import { ffmpeg, frameNumbers, numberOf, numberedClip, scratchFolder, textFile, tickingSong } from '@bluster/media/testing/made-media';
import { RunningServer } from '../testing/running-server.ts';

jest.setTimeout(120_000);
let server: RunningServer;
let project: string;
const media = scratchFolder();
beforeAll(async () => {
  server = await RunningServer.start(scratchFolder());
  project = await server.newProject();
});
afterAll(() => server.stop());

async function save(asset: AssetAnswer, part: string): Promise<string> {
  const response = await server.http
    .get(`/api/assets/${asset.id}/${part}`)
    .buffer(true)
    .parse((res, done) => {
      const chunks: Buffer[] = [];
      res.on('data', (c: Buffer) => chunks.push(c));
      res.on('end', () => done(null, Buffer.concat(chunks)));
    });
  expect(response.status).toBe(200);
  const path = join(media, `${asset.id}-${part}`);
  writeFileSync(path, response.body as Buffer);
  return path;
}

/** The number that a small picture of a numbered clip shows. */
async function numberShown(jpeg: Buffer): Promise<number> {
  const { data, info } = await sharp(jpeg).greyscale().raw().toBuffer({ resolveWithObject: true });
  // The picture has levels from 0 to 255, the film's luma those from 16 to 235.
  const luma = (x: number): number => 16 + (data[(info.height >> 1) * info.width + Math.round(x * info.width)]! * 219) / 255;
  return numberOf(luma(0.25), luma(0.75));
}

describe('songs', () => {
  test.each([
    ['WAV', 'a.wav', []],
    ['MP3', 'a.mp3', ['-c:a', 'libmp3lame']],
    ['FLAC', 'a.flac', []],
    ['OGG', 'a.ogg', ['-c:a', 'libvorbis']],
    ['M4A', 'a.m4a', ['-c:a', 'aac']],
  ])('%s is decoded to the WAV that pages play', async (_, file, codec) => {
    const song = await server.ready(project, 'song', tickingSong(media, file, 6, ...codec));
    expect(song).toMatchObject({ state: 'ready', kind: 'song', problem: null });
    expect(Math.abs(song.info.length! - 6)).toBeLessThan(0.08);
    expect(readFileSync(await save(song, 'sound')).toString('latin1', 0, 4)).toBe('RIFF');
  });
});

describe('footage', () => {
  test.each([
    ['30 a second', { frames: 137, fps: '30' }],
    ['25 a second', { frames: 60, fps: '25' }],
    ['30000/1001', { frames: 95, fps: '30000/1001' }],
    ['B-frames and late start', { frames: 90, fps: '30', args: ['-preset', 'medium', '-bf', '3', '-output_ts_offset', '1.3'] }],
  ])('frame n of the proxy is frame n of the clip: %s', async (name, options) => {
    const clip = await server.ready(project, 'footage', numberedClip(media, `${name.replace(/\W/g, '')}.mp4`, options));
    expect(clip).toMatchObject({ state: 'ready', kind: 'clip' });
    expect(clip.info.frames).toBe(options.frames);
    expect(frameNumbers(await save(clip, 'proxy'))).toEqual(Array.from({ length: options.frames }, (_, n) => n));
  });

  test('a clip with sound has a sound curve, a filmstrip and a small picture', async () => {
    const clip = await server.ready(project, 'footage', numberedClip(media, 'sound.mov', { frames: 60, fps: '30', sound: true }));
    expect(clip.info.hasSound).toBe(true);
    const look = JSON.parse(readFileSync(await save(clip, 'look'), 'utf8')) as { soundCurve: number[]; frames: number };
    expect(look.frames).toBe(60);
    expect(look.soundCurve.length).toBeGreaterThan(80);
    expect(Math.max(...look.soundCurve)).toBeGreaterThan(0.05);
    const { width, height } = await sharp(await save(clip, 'strip')).metadata();
    expect(width).toBe(clip.info.strip!.width * clip.info.strip!.columns);
    expect(height % clip.info.strip!.height).toBe(0);
    await save(clip, 'thumb');
    const { body, headers } = (await server.http.get(`/api/assets/${clip.id}/tiles/1`).expect(200)) as {
      body: Buffer;
      headers: Record<string, string>;
    };
    expect(await sharp(body).metadata()).toMatchObject({ width: clip.info.strip!.width, height: clip.info.strip!.height });
    expect(headers['cache-control']).toMatch(/immutable/);
    await server.http.get(`/api/assets/${clip.id}/tiles/999`).expect(404);
    await server.http.get(`/api/assets/${clip.id}/tiles/-1`).expect(404);
    await server.http.get(`/api/assets/${clip.id}/tiles/one`).expect(400);
  });

  test('each small picture shows its own frame, and a filmstrip without them is cut when they are asked for', async () => {
    const clip = await server.ready(project, 'footage', numberedClip(media, 'strip.mov', { frames: 60, fps: '30' }));
    const { every, pictures } = clip.info.strip!;
    const tiles = (): Promise<Buffer[]> =>
      Promise.all(
        Array.from({ length: pictures }, async (_, n) => {
          const { body } = (await server.http.get(`/api/assets/${clip.id}/tiles/${n}`).expect(200)) as { body: Buffer };
          return body;
        }),
      );
    const wanted = Array.from({ length: pictures }, (_, n) => Math.round(n * every * 30));
    expect(await Promise.all((await tiles()).map(numberShown))).toEqual(wanted);
    const pack = join(server.folder, 'assets', clip.id, 'tiles.pack');
    rmSync(pack);
    expect(await Promise.all((await tiles()).map(numberShown))).toEqual(wanted);
    expect(existsSync(pack)).toBe(true);
  });

  test('small pictures of many files come in one answer, in the order asked for, nothing where there is none', async () => {
    const clip = await server.ready(project, 'footage', numberedClip(media, 'many.mov', { frames: 40, fps: '20' }));
    const photo = join(media, 'many.png');
    await sharp({ create: { width: 300, height: 200, channels: 3, background: '#c98a10' } })
      .png()
      .toFile(photo);
    const { id } = await server.ready(project, 'footage', photo);
    const absent = clip.id.replace(/^./, (c) => (c === 'a' ? 'b' : 'a'));
    const of = [`${clip.id}.2`, `${id}.0`, `${clip.id}.999`, `${absent}.0`, `${clip.id}.0`].join(',');
    const { body } = (await server.http.get(`/api/tiles?of=${of}`).expect(200)) as { body: Buffer };
    const tiles: Buffer[] = [];
    for (let at = 0; at < body.length; at += 4 + body.readUInt32LE(at)) tiles.push(body.subarray(at + 4, at + 4 + body.readUInt32LE(at)));
    expect(tiles.map((t) => t.length > 0)).toEqual([true, true, false, false, true]);
    expect(await numberShown(tiles[0]!)).toBe(10);
    expect(await numberShown(tiles[4]!)).toBe(0);
    const [red, green, blue] = (await sharp(tiles[1]).stats()).channels.map((c) => c.mean) as [number, number, number];
    expect([red, green, blue].map((v, i) => Math.abs(v - [0xc9, 0x8a, 0x10][i]!) < 6)).toEqual([true, true, true]);
    for (const bad of ['', 'x.1', `${clip.id}.-1`, Array.from({ length: 65 }, () => `${clip.id}.0`).join(',')])
      await server.http.get(`/api/tiles?of=${bad}`).expect(400);
  });

  test('WebM works too', async () => {
    const path = join(media, 'a.webm');
    ffmpeg('-f', 'lavfi', '-i', 'testsrc=s=320x180:r=25', '-frames:v', '30', '-c:v', 'libvpx', path);
    expect(await server.ready(project, 'footage', path)).toMatchObject({ state: 'ready', info: { frames: 30 } });
  });

  test('an upright phone film is upright', async () => {
    const flat = numberedClip(media, 'flat.mp4', { frames: 20, fps: '30' });
    const turned = join(media, 'turned.mp4');
    ffmpeg('-i', flat, '-c', 'copy', '-metadata:s:v:0', 'rotate=90', turned);
    expect((await server.ready(project, 'footage', turned)).info).toMatchObject({ width: 180, height: 320 });
  });

  test('a photo that lies on its side by its EXIF flag stands upright', async () => {
    const path = join(media, 'turned.jpg');
    await sharp({ create: { width: 400, height: 300, channels: 3, background: '#d9542f' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toFile(path);
    const photo = await server.ready(project, 'footage', path);
    expect(photo).toMatchObject({ kind: 'photo', state: 'ready', info: { width: 300, height: 400 } });
    expect(await sharp(await save(photo, 'photo')).metadata()).toMatchObject({ width: 300, height: 400 });
  });
});

/** Files that came in and were not taken away again. */
const leftIn = (folder: string): string[] => readdirSync(join(folder, 'incoming')).filter((name) => name !== 'resumable');

describe('bad input, each with its own sentence', () => {
  async function refused(role: 'song' | 'footage', path: string, sentence: RegExp): Promise<void> {
    const before = (await server.assets(project)).length;
    const { status, body } = (await server.upload(project, role, path)) as { status: number; body: unknown };
    expect(status).toBe(422);
    expect((body as { message: string }).message).toMatch(sentence);
    expect((await server.assets(project)).length).toBe(before);
    expect(leftIn(server.folder)).toEqual([]);
  }

  test('an empty file', () => refused('footage', textFile(media, 'empty.mp4', ''), /is empty/));
  test('marks that lie beside the footage', () =>
    refused('footage', textFile(media, 'taps.txt', '0.5\n1.0\n'), /is a text file\. .*Song view/));
  test('a text file named .mp4', () => refused('footage', textFile(media, 'letter.mp4', 'Dear kite,\nfly.\n'), /is a text file/));
  test('a playlist that points at an address', () =>
    refused('footage', textFile(media, 'list.m3u8', '#EXTM3U\n#EXTINF:5,\nhttp://127.0.0.1:9/secret.ts\n'), /playlist/));
  test('a playlist that points at a file of this computer', () =>
    refused('footage', textFile(media, 'list.mp4', "ffconcat version 1.0\nfile '/etc/passwd'\n"), /playlist/));
  test('a playlist as a song', () => refused('song', textFile(media, 'list.mp3', '#EXTM3U\nfile:///etc/passwd\n'), /playlist/));
  test('a playlist that hides behind a zero byte is not followed', () => {
    const inside = numberedClip(media, 'inside.mp4', { frames: 30, fps: '30' });
    const list = join(media, 'hidden.mp4');
    writeFileSync(list, `#EXTM3U\n#EXT-X-TARGETDURATION:9\n#EXTINF:1,\n${inside}\n#EXT-X-ENDLIST\n\0`);
    return refused('footage', list, /cannot be read|damaged|playlist/);
  });
  test('pixels so wide that the picture would be 25,600 pixels across', () => {
    const path = join(media, 'stretched.mkv');
    ffmpeg('-i', numberedClip(media, 'square.mp4', { frames: 10, fps: '30' }), '-vf', 'setsar=80', '-c:v', 'mjpeg', path);
    return refused('footage', path, /25600 x 180 pixels when it is shown/);
  });
  test('a project that is not there, before the file is taken in', async () => {
    const path = numberedClip(media, 'nowhere.mp4', { frames: 20, fps: '30' });
    await server.upload('00000000-0000-4000-8000-000000000000', 'footage', path).expect(404);
    await server.http.post('/api/projects/nonsense/assets?role=footage').attach('file', path).expect(404);
  });
  test('a song without sound', () => refused('song', numberedClip(media, 'mute.mp4', { frames: 120, fps: '30' }), /no sound/));
  test('a song of 2 s', () => refused('song', tickingSong(media, 'short.wav', 2), /2\.0 s long/));
  test('a zip named .mov', () =>
    refused('footage', textFile(media, 'archive.mov', `PK\u0003\u0004${'\u0000\u0001'.repeat(200)}`), /cannot be read|damaged/));
  test('a photo that is damaged', () => {
    const path = join(media, 'broken.jpg');
    writeFileSync(path, Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 0x10, 0x4a, 0x46, 0x49, 0x46, 0, 1, 1, 1]));
    return refused('footage', path, /damaged|cannot be read/);
  });
  test('a photo of 20,000 x 20,000', async () => {
    // Its head says so; the pixels themselves would take a while to make.
    const path = join(media, 'huge.png');
    const bytes = await sharp({ create: { width: 20, height: 20, channels: 3, background: '#7fb4cf' } })
      .png()
      .toBuffer();
    bytes.writeUInt32BE(20_000, 16);
    bytes.writeUInt32BE(20_000, 20);
    bytes.writeUInt32BE(crc32(bytes.subarray(12, 29)), 29);
    writeFileSync(path, bytes);
    await refused('footage', path, /20000 x 20000/);
  });
  test('a film cut off before its index', () => {
    const whole = readFileSync(numberedClip(media, 'whole.mp4', { frames: 200, fps: '30' }));
    const path = join(media, 'cut.mp4');
    writeFileSync(path, whole.subarray(0, Math.floor(whole.length * 0.6)));
    return refused('footage', path, /damaged|cut off/);
  });

  test('a film cut off after its index is taken as far as it goes, or fails with a sentence', async () => {
    const whole = readFileSync(numberedClip(media, 'whole2.mp4', { frames: 300, fps: '30', args: ['-movflags', '+faststart'] }));
    const path = join(media, 'cut2.mp4');
    writeFileSync(path, whole.subarray(0, Math.floor(whole.length * 0.6)));
    const clip = await server.ready(project, 'footage', path);
    if (clip.state === 'failed') expect(clip.problem).toMatch(/[.]$/);
    else expect(clip.info.frames!).toBeLessThan(300);
  });

  test.each([
    ['../../etc/kite.jpg', 'kite.jpg'],
    ['..\\..\\kite.jpg', 'kite.jpg'],
    ['a "quoted" \'name\'.jpg', 'a "quoted" \'name\'.jpg'],
    ['drachen 🪁 fliegen.jpg', 'drachen 🪁 fliegen.jpg'],
  ])('the name %p stays a name', async (given, shown) => {
    const path = join(media, 'plain.jpg');
    if (!existsSync(path))
      await sharp({ create: { width: 40, height: 30, channels: 3, background: '#1f665c' } })
        .jpeg()
        .toFile(path);
    const form = new FormData();
    // Each another file: the same one would be kept once, by its first name.
    form.append('file', new Blob([readFileSync(path), given]), given);
    const response = await fetch(`${server.url}/api/projects/${project}/assets?role=footage`, { method: 'POST', body: form });
    expect(response.status).toBe(201);
    expect(((await response.json()) as AssetAnswer).name).toBe(shown);
    expect(existsSync(join(server.folder, '..', 'etc'))).toBe(false);
  });

  test('a name of 300 characters is cut, its ending kept', async () => {
    const path = join(media, 'plain2.jpg');
    await sharp({ create: { width: 40, height: 30, channels: 3, background: '#1f665c' } })
      .jpeg({ quality: 71 })
      .toFile(path);
    const { body } = (await server.upload(project, 'footage', path, `${'k'.repeat(296)}.jpg`).expect(201)) as { body: unknown };
    expect((body as AssetAnswer).name.length).toBeLessThanOrEqual(200);
    expect((body as AssetAnswer).name).toMatch(/\.jpg$/);
  });

  test('no file, a wrong role, an unknown part', async () => {
    await server.http.post(`/api/projects/${project}/assets?role=footage`).expect(400);
    await server.http.post(`/api/projects/${project}/assets?role=other`).expect(400);
    const [asset] = await server.assets(project);
    await server.http.get(`/api/assets/${asset!.id}/original`).expect(404);
    await server.http.get(`/api/assets/${asset!.id}/..%2f..%2fbluster.sqlite`).expect(400);
    // Ids are written small.
    await server.http.get(`/api/assets/${asset!.id.toUpperCase()}/tiles/0`).expect(404);
  });

  test('the server is alive after all this', async () => {
    await server.http.get('/api/projects').expect(200);
  });
});

/** A disk of its own that is nearly full. */
function smallDisk(): string {
  const folder = join(scratchFolder(), 'disk');
  mkdirSync(folder);
  execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=3m', 'tmpfs', folder]);
  return folder;
}

// Only root can make such a disk.
(process.getuid?.() === 0 ? test : test.skip)('a full disk is said in a sentence, and what was saved before is still there', async () => {
  const disk = smallDisk();
  const full = await RunningServer.start(disk);
  try {
    const id = await full.newProject('Before it was full');
    const big = join(media, 'big.wav');
    tickingSong(media, 'big.wav', 60);
    const { status, body } = (await full.upload(id, 'song', big)) as { status: number; body: unknown };
    expect(status).toBe(507);
    expect((body as { message: string }).message).toMatch(/^The file needs about \d+ MB\. The disk has 3 MB left.*Make room/);
    expect((await full.http.get(`/api/projects/${id}`).expect(200)).body).toMatchObject({ name: 'Before it was full' });
    expect(leftIn(disk)).toEqual([]);
  } finally {
    await full.stop();
    execFileSync('umount', [disk]);
  }
});
