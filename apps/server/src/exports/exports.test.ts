import { ROUTES, type AssetAnswer, type JobAnswer, type LoudnessAnswer } from '@bluster/wire';
import { getRepositoryToken } from '@nestjs/typeorm';
import type { Repository } from 'typeorm';
import { AssetEntity } from '../assets/asset.entity.ts';
import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals';
import { spawn } from 'node:child_process';
import { readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  UNDESCRIBED,
  carryOut,
  emptyMontage,
  FILL_DEFAULTS,
  mixPlan,
  scoreOf,
  SONG_RATE,
  shownAt,
  sourceFrame,
  syncReport,
  type FilmReport,
  type FootageItem,
  type Loudness,
  type Command,
  type Montage,
} from '@bluster/core';
import { probe } from '@bluster/media/probe/probe';
import { soundToWav, WavFile } from '@bluster/media/sound/sound';
import { ffmpeg, frameNumbers, numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { filmedFrame, likeness, paintedFrame } from '@bluster/media/testing/painted-frame';
import { RunningServer } from '../testing/running-server.ts';
import { onPath } from '@bluster/media/program/programs';
import { renderFilm } from '@bluster/media/film/film';
import { renderMix } from '@bluster/media/film/mix';

jest.setTimeout(180_000);
const media = scratchFolder();

async function clip(path: string, assetId: string): Promise<FootageItem> {
  const { video, sound } = await probe(path, assetId);
  const { width, height, rate, frames } = video!;
  return {
    assetId,
    kind: 'clip',
    name: assetId,
    width,
    height,
    rate,
    frames,
    hasSound: sound !== null,
    ...UNDESCRIBED,
  };
}

describe('a film, frame by frame', () => {
  const kinds = {
    plain: { frames: 140, fps: '30' },
    pal: { frames: 120, fps: '25' },
    ntsc: { frames: 140, fps: '30000/1001' },
    late: { frames: 140, fps: '30', args: ['-preset', 'medium', '-bf', '3', '-output_ts_offset', '2.7'] },
  } as const;
  let paths: Record<string, string>;
  let montage: Montage;
  let wav: string;

  beforeAll(async () => {
    paths = Object.fromEntries(
      Object.entries(kinds).map(([id, o]) => [id, numberedClip(media, `${id}.mp4`, { ...o, args: 'args' in o ? [...o.args] : [] })]),
    );
    wav = join(media, 'song.wav');
    await soundToWav(tickingSong(media, 'ticks.flac', 10), wav);
    const items = await Promise.all(Object.entries(paths).map(([id, path]) => clip(path, id)));
    montage = { ...emptyMontage(), shape: { width: 320, height: 180, rate: { num: 30, den: 1 } } };
    montage = carryOut(montage, { do: 'setSong', assetId: 'song', name: 'song', length: 10 });
    montage = carryOut(montage, { do: 'takeBeatTimes', times: Array.from({ length: 20 }, (_, i) => 0.013 + i * 0.5), metre: 4 });
    montage = carryOut(montage, { do: 'addFootage', items });
    montage = carryOut(montage, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 2 } });
    montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
    // One slowed, one that starts deep in its clip, one gap.
    const { slots } = scoreOf(montage);
    montage = carryOut(montage, { do: 'setRate', id: slots[1]!.placed!.shot.id, rate: 0.6 });
    montage = carryOut(montage, { do: 'slipShot', id: slots[4]!.placed!.shot.id, by: 2.2 });
    montage = carryOut(montage, { do: 'takeDownShot', id: slots[6]!.placed!.shot.id });
  });

  const sources = { picturePath: (id: string) => paths[id]!, video: (): null => null, soundPath: () => wav };
  const videoOf = async (): Promise<(id: string) => Awaited<ReturnType<typeof probe>>['video']> => {
    const known = new Map<string, Awaited<ReturnType<typeof probe>>['video']>();
    for (const id of Object.keys(paths)) known.set(id, (await probe(paths[id]!, id)).video);
    return (id) => known.get(id) ?? null;
  };

  test('every frame of the film is the frame that core chose, over clips of all kinds', async () => {
    const out = join(media, 'film.mp4');
    await renderFilm(montage, { ...sources, video: await videoOf() }, out);
    const score = scoreOf(montage);
    const wanted = score.slots.flatMap((slot) =>
      Array.from({ length: slot.frames }, (_, k) => (slot.placed ? sourceFrame(slot.placed, k, montage) : null)),
    );
    const shown = frameNumbers(out);
    expect(shown).toHaveLength(score.frames);
    // A gap is black, which reads as frame 0.
    expect(shown).toEqual(wanted.map((n) => n ?? 0));
  });

  test('backwards, standing, eased through ties, under a cutaway: every frame is the one that core chose', async () => {
    const out = join(media, 'retimed.mp4');
    const { slots } = scoreOf(montage);
    const id = (n: number): string => slots[n]!.placed!.shot.id;
    const beat = (n: number): string => montage.marks[n]!.id;
    const commands: Command[] = [
      { do: 'slipShot', id: id(0), by: 1.5 },
      { do: 'reverseShot', id: id(0) },
      { do: 'freezeShot', id: id(2), source: 0.7 },
      { do: 'tieFrame', id: id(3), markId: beat(7), source: 1 },
      { do: 'setEase', id: id(3), ease: 'eased' },
      { do: 'hangOver', from: { frame: 130 }, to: { frame: 170 }, assetId: slots[0]!.placed!.item.assetId },
      { do: 'setRate', id: id(5), rate: -0.5 },
      { do: 'slipShot', id: id(5), by: 1 },
    ];
    const m = commands.reduce(carryOut, montage);
    expect(scoreOf(m).over).toHaveLength(1);
    await renderFilm(m, { ...sources, video: await videoOf() }, out);
    expect(frameNumbers(out)).toEqual(Array.from({ length: scoreOf(m).frames }, (_, n) => shownAt(m, n)?.source ?? 0));
  });

  test('between two frames of a clip both are seen, each as much as it is near', async () => {
    const out = join(media, 'mixed.mp4');
    const path = numberedClip(media, 'slow.mp4', { frames: 60, fps: '30' });
    let m = carryOut(montage, { do: 'addFootage', items: [await clip(path, 'slow')] });
    m = carryOut(m, { do: 'hangShot', startPeg: 'start', assetId: 'slow' });
    const shot = m.shots.at(-1)!.id;
    m = carryOut(m, { do: 'setRate', id: shot, rate: 0.25 });
    m = carryOut(m, { do: 'setBlend', ids: [shot], blend: true });
    const known = await videoOf();
    const own = (await probe(path, 'slow')).video;
    await renderFilm(
      m,
      { ...sources, picturePath: (id) => (id === 'slow' ? path : paths[id]!), video: (id) => (id === 'slow' ? own : known(id)) },
      out,
    );
    const raw = ffmpeg('-i', out, '-frames:v', '12', '-vf', 'crop=32:16:24:60', '-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-');
    // The left half of frame n is at 16 + 4 n; a quarter of the way it is one brighter.
    const left = Array.from({ length: 12 }, (_, n) => raw[n * 32 * 16 * 1.5 + 8 * 32 + 6]!);
    left.forEach((level, n) => expect(Math.abs(level - (16 + n))).toBeLessThanOrEqual(1));
    expect(left[10]! - left[2]!).toBeGreaterThanOrEqual(7);
  });

  test('the painter paints the same picture', async () => {
    const out = join(media, 'painted.mp4');
    const odd = numberedClip(media, 'odd.mp4', { frames: 60, fps: '30', size: '240x320' });
    const path: Record<string, string> = { ...paths, odd };
    let m = carryOut(montage, { do: 'addFootage', items: [await clip(odd, 'odd')] });
    const slot = scoreOf(m).slots[0]!;
    m = carryOut(m, { do: 'hangShot', startPeg: slot.start.id, assetId: 'odd' });
    m = carryOut(m, { do: 'setFraming', ids: [m.shots.at(-1)!.id], framing: 'fit' });
    const known = await videoOf();
    const oddVideo = (await probe(odd, 'odd')).video;
    await renderFilm(m, { ...sources, picturePath: (id) => path[id]!, video: (id) => (id === 'odd' ? oddVideo : known(id)) }, out);
    for (const frame of [3, 40, 100])
      expect(
        likeness(
          paintedFrame(m, frame, (id) => path[id]!),
          filmedFrame(out, frame),
        ),
      ).toBeGreaterThan(28);
  });

  test('colours come out as they went in, whichever way the clip codes them', async () => {
    const wanted = [190, 120, 40];
    for (const [name, filter, tags] of [
      ['sd', 'scale=out_color_matrix=bt601,format=yuv420p', []],
      ['hd', 'scale=out_color_matrix=bt709,format=yuv420p', ['-colorspace', 'bt709']],
      ['full', 'scale=out_color_matrix=bt709,format=yuvj420p', ['-colorspace', 'bt709']],
    ] as const) {
      const source = join(media, `colour-${name}.mp4`);
      const lavfi = `color=c=0xbe7828:s=320x180:r=30,format=rgb24,${filter}`;
      ffmpeg('-f', 'lavfi', '-i', lavfi, '-frames:v', '40', '-c:v', 'libx264', '-crf', '4', ...tags, source);
      let m = carryOut(emptyMontage(), { do: 'setShape', shape: montage.shape });
      m = carryOut(m, { do: 'setSong', assetId: 'song', name: 'song', length: 1 });
      m = carryOut(m, { do: 'addFootage', items: [await clip(source, name)] });
      m = carryOut(m, { do: 'fill', options: FILL_DEFAULTS });
      const { video } = await probe(source, name);
      const out = join(media, `colour-${name}-film.mp4`);
      await renderFilm(m, { picturePath: () => source, video: () => video, soundPath: () => wav }, out);
      const rgb = ffmpeg('-i', out, '-vf', 'scale=in_color_matrix=bt709,format=rgb24', '-frames:v', '1', '-f', 'rawvideo', '-');
      const middle = 3 * (90 * 320 + 160);
      for (const [c, value] of wanted.entries()) expect(Math.abs(rgb[middle + c]! - value)).toBeLessThanOrEqual(4);
    }
  });

  test('where the song plays alone its samples are untouched', async () => {
    const mixed = join(media, 'mix.wav');
    await renderMix({ plan: mixPlan(montage), seconds: 10, soundPath: () => wav }, mixed);
    const [a, b] = [await WavFile.open(wav), await WavFile.open(mixed)];
    const count = 9 * SONG_RATE;
    expect(Buffer.from((await a.read(0, count)).buffer).equals(Buffer.from((await b.read(0, count)).buffer))).toBe(true);
    await a.close();
    await b.close();
  });

  test('cancelling leaves no half film behind', async () => {
    const stop = new AbortController();
    const out = join(media, 'cancelled.mp4');
    const work = renderFilm(montage, { ...sources, video: await videoOf() }, out, {
      signal: stop.signal,
      onFrame: (n) => n === 20 && stop.abort(),
    });
    await expect(work).rejects.toThrow(/Cancelled/);
    expect(() => ffmpeg('-i', out, '-f', 'null', '-')).toThrow();
  });

  (onPath('prlimit') ? test : test.skip)(
    'a film that grows larger than there is room for ends as on a full disk, and leaves nothing',
    async () => {
      const out = join(media, 'large.mp4');
      const work = renderFilm(montage, { ...sources, video: await videoOf() }, out, { writes: 8000 });
      await expect(work).rejects.toMatchObject({ code: 'ENOSPC' });
      expect(readdirSync(media).filter((name) => name.startsWith('large.mp4'))).toEqual([]);
    },
  );
});

describe('exports over HTTP', () => {
  let server: RunningServer;
  let folder: string;
  beforeAll(async () => {
    folder = scratchFolder();
    server = await RunningServer.start(folder);
  });
  afterAll(() => server.stop());

  async function projectWithFilm(): Promise<{ id: string; montage: Montage }> {
    const id = await server.newProject('Two clips');
    const song = await server.ready(id, 'song', tickingSong(media, 'ticks2.wav', 8));
    const assets: AssetAnswer[] = [];
    for (const name of ['one', 'two'])
      assets.push(await server.ready(id, 'footage', numberedClip(media, `${name}.mp4`, { frames: name === 'one' ? 120 : 250, fps: '30' })));
    let montage: Montage = { ...emptyMontage(), shape: { width: 320, height: 180, rate: { num: 30000, den: 1001 } } };
    montage = carryOut(montage, { do: 'setSong', assetId: song.id, name: song.name, length: song.info.length! });
    montage = carryOut(montage, { do: 'takeBeatTimes', times: Array.from({ length: 16 }, (_, i) => i * 0.5), metre: 4 });
    montage = carryOut(montage, {
      do: 'addFootage',
      items: assets.map((a, i): FootageItem => ({
        assetId: a.id,
        kind: 'clip',
        name: a.name,
        width: a.info.width!,
        height: a.info.height!,
        rate: a.info.rate!,
        frames: a.info.frames!,
        hasSound: false,
        ...UNDESCRIBED,
        selects: [{ id: `c${i}`, in: i * 3.5, out: a.info.length!, hit: null }],
      })),
    });
    montage = carryOut(montage, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
    expect((await server.save(id, 1, montage)).status).toBe(200);
    return { id, montage };
  }
  const ended = (id: string): Promise<JobAnswer> =>
    server.until(
      () => server.job(id),
      (j) => !['queued', 'running'].includes(j.state),
    );

  test('a film and its report', async () => {
    const { id, montage } = await projectWithFilm();
    const { body } = (await server.http.post(`/api/projects/${id}/exports`).expect(201)) as { body: unknown };
    const job = await ended((body as JobAnswer).id);
    expect(job).toMatchObject({ state: 'done', progress: 1 });
    const report = await server.http.get(`/api/exports/${job.id}/report`).expect(200);
    const { loudness, proof, stretch, ...cuts } = report.body as FilmReport & { loudness: Loudness };
    expect(cuts).toEqual(JSON.parse(JSON.stringify(syncReport(montage))));
    expect(stretch).toEqual({ from: 0, to: cuts.frames });
    // It was read back, and says the same in a line.
    expect(proof).toMatchObject({ good: true, frames: { planned: cuts.frames, read: cuts.frames } });
    expect(job.result!.proof).toMatchObject({ good: true, verdict: proof!.verdict, wrongAt: null });
    // Before the film it was measured to be as loud.
    const before = (await server.http.get(ROUTES.loudness(id)).expect(200)).body as LoudnessAnswer;
    expect(loudness).toEqual(before.loudness);
    expect(loudness.integrated).toBeLessThan(0);
    expect(job.result!.loudness).toEqual(loudness);
    const film = await server.http
      .get(`/api/exports/${job.id}/film`)
      .buffer(true)
      .parse((res, done) => {
        const chunks: Buffer[] = [];
        res.on('data', (c: Buffer) => chunks.push(c));
        res.on('end', () => done(null, Buffer.concat(chunks)));
      });
    const path = join(media, 'http-film.mp4');
    writeFileSync(path, film.body as Buffer);
    const shown = frameNumbers(path);
    for (const cut of syncReport(montage).cuts.filter((c) => c.visible))
      expect(Math.abs(shown[cut.frame]! - shown[cut.frame - 1]!)).toBeGreaterThan(1);
    const { video, sound } = await probe(path, 'film');
    expect(video).toMatchObject({ width: 320, height: 180, rate: { num: 30000, den: 1001 }, codec: 'h264' });
    expect(sound).toMatchObject({ codec: 'aac' });
  });

  test('a film does not wait for previews, only for what is still to be looked at', async () => {
    const { id, montage } = await projectWithFilm();
    const rows = server.app.get<Repository<AssetEntity>>(getRepositoryToken(AssetEntity));
    const [{ assetId }] = montage.footage as readonly [FootageItem];
    const row = (await rows.findOneBy({ id: assetId }))!;
    await rows.save({ ...row, state: 'working', info: { ...row.info, looked: false } });
    const refused = (await server.http.post(ROUTES.exports(id)).expect(400)).body as { message: string };
    expect(refused.message).toBe('"one.mp4" is still being prepared. Export again in a moment.');
    await rows.save({ ...row, state: 'working', info: { ...row.info, looked: true } });
    const started = (await server.http.post(ROUTES.exports(id)).expect(201)).body as JobAnswer;
    expect((await ended(started.id)).state).toBe('done');
    await rows.save(row);
  });

  test('the report comes as a table and as a page too, with what was found', async () => {
    const { id } = await projectWithFilm();
    const { body } = (await server.http.post(ROUTES.exports(id)).expect(201)) as { body: JobAnswer };
    const job = await ended(body.id);
    const rows = (
      await server.http
        .get(ROUTES.report(job.id, 'csv'))
        .expect(200)
        .expect('Content-Type', /text\/csv/)
    ).text.split('\r\n');
    expect(rows[0]).toContain('frame found,error measured ms');
    const { text, headers } = await server.http
      .get(ROUTES.report(job.id, 'html'))
      .expect(200)
      .expect('Content-Type', /text\/html/);
    expect(headers['content-disposition']).toContain(encodeURIComponent('Two clips 16x9.mp4.html'));
    expect(text).toContain(job.result!.proof!.verdict);
    expect(text.match(/<tr>/g)).toHaveLength(job.result!.cuts + 1);
    expect(text).not.toContain('<script');
    await server.http.get(`/api/exports/${job.id}/report?as=pdf`).expect(400);
  });

  test('what is asked for is what is made, and stands with the film', async () => {
    const { id } = await projectWithFilm();
    const wish = {
      preset: 'vp9',
      quality: 'small',
      size: { width: 180, height: 320 },
      stretch: { from: 1, to: 3 },
      loudness: -20,
      name: 'Kites at noon',
    } as const;
    const { body } = (await server.http.post(ROUTES.exports(id)).send(wish).expect(201)) as { body: JobAnswer };
    expect(body.wish).toEqual(wish);
    const job = await ended(body.id);
    expect(job).toMatchObject({ state: 'done', wish, result: { width: 180, height: 320, frames: 61 } });
    expect(job.result!.loudness!.integrated!).toBeCloseTo(-20, 0);
    const film = await server.http.get(ROUTES.film(job.id)).expect(200).expect('Content-Type', 'video/webm');
    expect(film.headers['content-length']).toBe(String(job.result!.bytes));
    expect(film.headers['content-disposition']).toContain(encodeURIComponent('Kites at noon 9x16.webm'));
  });

  test.each([
    [{ name: ' ' }, /name of a film has 1 to 120 characters/],
    [{ preset: 'flipbook' }, /one of these ways: h264/],
    [{ size: { width: 321, height: 180 } }, /even number of pixels wide/],
    [{ loudness: 3 }, /loudness/],
    [{ stretch: { from: -1, to: 3 } }, /from/],
    [{ more: true }, /more/],
  ])('%j is refused in a sentence', async (wish, says) => {
    const { id } = await projectWithFilm();
    const { body } = (await server.http.post(ROUTES.exports(id)).send(wish).expect(400)) as { body: { message: string } };
    expect(body.message).toMatch(says);
  });

  test('a stretch after the end comes to nothing, in a sentence', async () => {
    const { id } = await projectWithFilm();
    const { body } = (await server.http
      .post(ROUTES.exports(id))
      .send({ stretch: { from: 100, to: 120 } })
      .expect(201)) as { body: JobAnswer };
    expect(await ended(body.id)).toMatchObject({
      state: 'failed',
      problem: 'The stretch begins at 1:40.000, after the montage has ended. Choose another one.',
    });
  });

  test('a film is taken away with its report, and not while it is made', async () => {
    const { id } = await projectWithFilm();
    const { body } = (await server.http.post(ROUTES.exports(id)).expect(201)) as { body: JobAnswer };
    const refused = await server.http.delete(ROUTES.removeFilm(body.id)).expect(400);
    expect((refused.body as { message: string }).message).toBe('This film is still being made. Cancel it first, then remove it.');
    await ended(body.id);
    await server.http.delete(ROUTES.removeFilm(body.id)).expect(204);
    await server.http.get(ROUTES.film(body.id)).expect(404);
    expect(readdirSync(join(server.folder, 'exports')).filter((file) => file.startsWith(body.id))).toEqual([]);
    expect(((await server.http.get(ROUTES.jobs(id))).body as JobAnswer[]).map((j) => j.id)).not.toContain(body.id);
  });

  test('without a song or shots it says what is missing', async () => {
    const id = await server.newProject('Bare');
    const { body } = (await server.http.post(`/api/projects/${id}/exports`).expect(400)) as { body: unknown };
    expect((body as { message: string }).message).toMatch(/no song/);
  });

  test('a job is cancelled', async () => {
    const { id } = await projectWithFilm();
    const { body } = (await server.http.post(`/api/projects/${id}/exports`).expect(201)) as { body: unknown };
    await server.http.post(`/api/jobs/${(body as JobAnswer).id}/cancel`).expect(201);
    expect((await ended((body as JobAnswer).id)).state).toBe('cancelled');
  });
});

test('a server killed while it worked does the job when it comes back', async () => {
  const folder = scratchFolder();
  const path = join(media, 'long.mp4');
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=30', '-frames:v', '200', '-c:v', 'libx264', '-preset', 'ultrafast', path);
  // A real process, so that it can really be killed in the middle.
  const main = join(import.meta.dirname, '../../dist/main.js');
  const child = spawn('node', [main, '--port', '0', '--no-web'], {
    env: { ...process.env, BLUSTER_DATA: folder },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise<string>((resolve) => {
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => {
      said += chunk.toString();
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec(said);
      if (found) resolve(found[0]);
    });
  });
  const project = (
    (await (
      await fetch(`${url}/api/projects`, {
        method: 'POST',
        body: JSON.stringify({ name: 'Cut short' }),
        headers: { 'Content-Type': 'application/json' },
      })
    ).json()) as { id: string }
  ).id;
  const form = new FormData();
  form.append('file', new Blob([await import('node:fs/promises').then((fs) => fs.readFile(path))]), 'long.mp4');
  await fetch(`${url}/api/projects/${project}/assets?role=footage`, { method: 'POST', body: form });
  const running = async (): Promise<boolean> =>
    ((await (await fetch(`${url}/api/projects/${project}/jobs`)).json()) as JobAnswer[])[0]!.state === 'running';
  while (!(await running())) await new Promise((r) => setTimeout(r, 10));
  child.kill('SIGKILL');
  await new Promise((r) => child.once('close', r));

  const server = await RunningServer.start(folder);
  const [asset] = await server.until(
    () => server.assets(project),
    (list) => list[0]!.state !== 'working',
  );
  expect(asset).toMatchObject({ state: 'ready', info: { frames: 200 } });
  await server.stop();
});
