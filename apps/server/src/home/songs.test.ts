import { afterAll, beforeAll, expect, jest, test } from '@jest/globals';
import { scratchFolder } from '@bluster/media/testing/made-media';
import { ROUTES } from '@bluster/wire/routes';
import { SHIPPED_SONG_ID, type AssetAnswer, type ShippedSongAnswer } from '@bluster/wire';
import { RunningServer } from '../testing/running-server.ts';

jest.setTimeout(60_000);
let server: RunningServer;
let songs: readonly ShippedSongAnswer[];
beforeAll(async () => {
  server = await RunningServer.start(scratchFolder());
  songs = (await server.http.get(ROUTES.songs()).expect(200)).body as ShippedSongAnswer[];
});
afterAll(() => server.stop());

test('songs that ship are listed in several tempi and metres, and each can be heard', async () => {
  expect(songs.length).toBeGreaterThanOrEqual(6);
  expect(songs.every((s) => SHIPPED_SONG_ID.test(s.id) && s.length > 60 && s.length < 130)).toBe(true);
  expect(Math.max(...songs.map((s) => s.bpm)) / Math.min(...songs.map((s) => s.bpm))).toBeGreaterThan(2);
  expect(new Set(songs.map((s) => s.metre)).size).toBe(3);
  for (const { id } of songs) {
    const answer = await server.http.get(ROUTES.songSound(id)).expect(200);
    expect(answer.headers['content-type']).toBe('audio/ogg');
    const sound = answer.body as Buffer;
    expect(sound.subarray(0, 4).toString()).toBe('OggS');
    expect(sound.length).toBeLessThan(4e6);
  }
});

test('one is taken into a project as its song, as long as it says', async () => {
  const project = await server.newProject('With a song of the house');
  const [song] = songs;
  const taken = (await server.http.post(ROUTES.takeSong(project)).send({ song: song!.id }).expect(201)).body as AssetAnswer;
  expect(taken).toMatchObject({ kind: 'song', name: `${song!.title}.ogg`, awaits: true });
  const [ready] = await server.until<AssetAnswer[]>(
    () => server.assets(project),
    (list) => list.every((a) => a.state !== 'working'),
  );
  expect(ready).toMatchObject({ id: taken.id, state: 'ready' });
  expect(Math.abs(ready!.info.length! - song!.length)).toBeLessThan(1);
  // Twice is once.
  const again = await server.http.post(ROUTES.takeSong(project)).send({ song: song!.id }).expect(201);
  expect((again.body as AssetAnswer).id).toBe(ready!.id);
});

test('what does not ship, is no name or goes into no project is refused', async () => {
  const project = await server.newProject('Refused');
  await server.http.get(ROUTES.songSound('no-such-song')).expect(404);
  await server.http.get('/api/songs/..%2F..%2Fpackage/sound').expect(404);
  const refused = await server.http.post(ROUTES.takeSong(project)).send({ song: '../secret' }).expect(400);
  expect((refused.body as { message: string }).message).toContain('short name of a song');
  await server.http.post(ROUTES.takeSong(project)).send({ song: 'no-such-song' }).expect(404);
  await server.http.post(ROUTES.takeSong('00000000-0000-4000-8000-000000000000')).send({ song: songs[0]!.id }).expect(404);
});
