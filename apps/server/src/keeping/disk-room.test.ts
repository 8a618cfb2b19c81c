import { expect, jest, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { Config } from '../config.ts';
import { RunningServer } from '../testing/running-server.ts';
import { DiskRoom, NoRoomError, spoken } from './disk-room.ts';

jest.setTimeout(60_000);

test('what is larger than the disk has left is refused, with how much is missing', async () => {
  const room = new DiskRoom(new Config(scratchFolder(), 0, null));
  await room.require(1000, 'A file');
  const refused: unknown = await room.require(1e18, '"kites.mp4"').catch((error: unknown) => error);
  expect(refused).toBeInstanceOf(NoRoomError);
  expect((refused as Error).message).toMatch(
    /^"kites.mp4" needs about 1000000000\.0 GB\. The disk has \d+\.?\d* [GM]B left, and Bluster leaves \d+\.?\d* [GM]B free/,
  );
});

test.each([
  [0, '1 MB'],
  [1.4e6, '1 MB'],
  [2e9, '2.0 GB'],
])('%d bytes are spoken of as %s', (bytes, said) => expect(spoken(bytes)).toBe(said));

test('a project takes no more files than it may hold; resumable uploads hear of it before they send', async () => {
  const server = await RunningServer.start(scratchFolder(), 1e6);
  const project = await server.newProject();
  const media = scratchFolder();
  await server.upload(project, 'song', tickingSong(media, 'short.wav', 4)).expect(201);
  const sentence = /^This project holds 1 MB of files, and may hold 1 MB\. What comes now would be too much\./;
  const refused = (await server.upload(project, 'song', tickingSong(media, 'long.wav', 9)).expect(413)).body as { message: string };
  expect(refused.message).toMatch(sentence);
  const base64 = (text: string): string => Buffer.from(text).toString('base64');
  const begun = await server.http.post('/api/uploads').set({
    'Tus-Resumable': '1.0.0',
    'Upload-Length': '900000',
    'Upload-Metadata': `project ${base64(project)},role ${base64('footage')},filename ${base64('a.mp4')}`,
  });
  expect(begun.status).toBe(413);
  expect((JSON.parse(begun.text) as { message: string }).message).toMatch(sentence);
  expect(await server.assets(project)).toHaveLength(1);
  await server.stop();
});

test('a preview never grows into what is kept free: it waits, says so, and goes on by itself', async () => {
  const server = await RunningServer.start(scratchFolder());
  const room = server.app.get(DiskRoom);
  // So little is left that the preview looks as if it went in, and then does not.
  const left = jest.spyOn(room, 'left').mockResolvedValue(3000);
  const project = await server.newProject();
  await server.upload(project, 'footage', numberedClip(scratchFolder(), 'grows.mp4', { frames: 60, fps: '30' })).expect(201);
  const waiting = await server.until(
    async () => (await server.jobs(project)).find((job) => job.kind === 'proxy'),
    (job) => job?.state === 'queued' && job.problem !== null,
  );
  expect(waiting!.problem).toMatch(/^The preview of "grows\.mp4" needs more than 1 MB, .* It goes on by itself when there is room\.$/);
  left.mockRestore();
  const [clip] = await server.until(
    () => server.assets(project),
    ([asset]) => asset?.state !== 'working',
  );
  expect(clip!.state).toBe('ready');
  await server.stop();
});

// Only root can make such a disk.
(process.getuid?.() === 0 ? test : test.skip)(
  'a file that finds no room to be made ready waits, says so, and goes on by itself',
  async () => {
    const disk = join(scratchFolder(), 'disk');
    mkdirSync(disk);
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=60m', 'tmpfs', disk]);
    const server = await RunningServer.start(disk);
    try {
      const ballast = join(disk, 'ballast');
      writeFileSync(ballast, Buffer.alloc(45e6));
      const project = await server.newProject();
      await server.upload(project, 'song', tickingSong(scratchFolder(), 'ticks.wav', 4)).expect(201);
      const [waiting] = await server.until(
        () => server.jobs(project),
        ([job]) => job?.state === 'queued' && job.problem !== null,
      );
      expect(waiting!.problem).toMatch(
        /^Making "ticks\.wav" ready needs about \d+ MB\. The disk has \d+ MB left.* It goes on by itself when there is room\.$/,
      );
      rmSync(ballast);
      const [song] = await server.until(
        () => server.assets(project),
        ([asset]) => asset?.state !== 'working',
      );
      expect(song!.state).toBe('ready');
    } finally {
      await server.stop();
      execFileSync('umount', [disk]);
    }
  },
);
