import { beforeAll, expect, jest, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { FILL_DEFAULTS, UNDESCRIBED, carryOut, emptyMontage, type Montage } from '@bluster/core';
import { glanceAtFilm } from '@bluster/media/clip/film-glance';
import { lookAtFilm } from '@bluster/media/clip/film-look';
import { probe } from '@bluster/media/probe/probe';
import { makeProxy } from '@bluster/media/clip/proxy';
import { soundToWav } from '@bluster/media/sound/sound';
import { ffmpeg, frameNumbers, numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { renderFilm } from '@bluster/media/film/film';

jest.setTimeout(180_000);
const media = scratchFolder();
const FRAMES = 120;
const plain = numberedClip(media, 'plain.mp4', { frames: FRAMES, fps: '30' });
let song: string;
beforeAll(async () => {
  song = join(media, 'song.wav');
  await soundToWav(tickingSong(media, 'ticks.flac', 6), song);
});
const upsideDown = (n: number): number => Math.floor(n / 50) + 50 * (n % 50);
const same = (n: number): number => n;

/** Kinds of clips that cameras and programs make; each is the plain one, coded otherwise. */
const KINDS: readonly [string, string, readonly string[], ((n: number) => number)?][] = [
  ['ten bits', 'ten.mp4', ['-c:v', 'libx264', '-pix_fmt', 'yuv420p10le', '-crf', '4']],
  ['interlaced', 'laced.mp4', ['-c:v', 'libx264', '-flags', '+ildct+ilme', '-x264-params', 'tff=1', '-crf', '4']],
  ['pixels that are not square', 'wide.mp4', ['-vf', 'setsar=4/3', '-c:v', 'libx264', '-crf', '4']],
  ['alpha', 'alpha.mov', ['-vf', 'format=rgba', '-c:v', 'qtrle', '-pix_fmt', 'argb']],
  ['alpha in WebM', 'alpha.webm', ['-c:v', 'libvpx', '-pix_fmt', 'yuva420p', '-auto-alt-ref', '0', '-crf', '4', '-b:v', '4M']],
  ['a second picture track', 'two.mkv', ['-map', '0:v', '-map', '0:v', '-c:v:0', 'copy', '-filter:v:1', 'negate', '-c:v:1', 'libx264']],
  ['a start time of 2.5 s and B-frames', 'late.mkv', ['-c:v', 'libx264', '-bf', '3', '-crf', '4', '-output_ts_offset', '2.5']],
  ['only whole pictures', 'intra.mov', ['-c:v', 'mjpeg', '-q:v', '1', '-pix_fmt', 'yuvj420p']],
  ['turned by half', 'turned.mp4', ['-c', 'copy', '-metadata:s:v:0', 'rotate=180'], upsideDown],
];

function montageOf(video: NonNullable<Awaited<ReturnType<typeof probe>>['video']>, frames: number): Montage {
  const { width, height, rate } = video;
  const item = { assetId: 'clip', kind: 'clip' as const, name: 'clip', width, height, rate, frames, hasSound: false, ...UNDESCRIBED };
  let montage: Montage = { ...emptyMontage(), shape: { width: 320, height: 180, rate } };
  montage = carryOut(montage, { do: 'setSong', assetId: 'song', name: 'song', length: (frames * rate.den) / rate.num });
  montage = carryOut(montage, { do: 'addFootage', items: [item] });
  return carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
}

async function shownBy(path: string): Promise<{ proxy: number[]; film: number[]; looked: number; glanced: number }> {
  const info = await probe(path, path);
  const proxy = `${path}.proxy.mp4`;
  await makeProxy(path, proxy, info, {});
  const { summary } = await lookAtFilm(path, `${path}.jpg`, info);
  // A glance may know that it cannot tell; what it tells is true.
  const glance = await glanceAtFilm(path, info);
  const film = `${path}.film.mp4`;
  const sources = { picturePath: () => path, video: () => info.video, soundPath: () => song };
  await renderFilm(montageOf(info.video!, summary.frames), sources, film);
  return { proxy: frameNumbers(proxy), film: frameNumbers(film), looked: summary.frames, glanced: glance?.frames ?? summary.frames };
}

test.each(KINDS)('%s: frame n is frame n in the preview and in the film', async (_, file, args, map = same) => {
  const path = join(media, file);
  ffmpeg('-i', plain, ...args, path);
  const { proxy, film, looked, glanced } = await shownBy(path);
  const wanted = Array.from({ length: FRAMES }, (_unused, n) => map(n));
  expect(proxy).toEqual(wanted);
  expect(film).toEqual(wanted);
  expect(looked).toBe(FRAMES);
  expect(glanced).toBe(FRAMES);
});

test('a variable rate: each frame is seen when its own time stamp says, in preview and film', async () => {
  const path = join(media, 'variable.mkv');
  ffmpeg('-i', plain, '-vf', 'select=not(mod(n\\,3))+not(mod(n\\,7))+gt(n\\,90)', '-fps_mode', 'vfr', '-c:v', 'libx264', '-crf', '4', path);
  const { proxy, film, looked } = await shownBy(path);
  const kept = Array.from({ length: FRAMES }, (_, n) => n).filter((n) => n % 3 === 0 || n % 7 === 0 || n > 90);
  const seen = Array.from({ length: FRAMES }, (_, n) => kept.findLast((k) => k <= n)!);
  expect((await probe(path, path)).video!.rate).toEqual({ num: 30, den: 1 });
  expect(proxy).toEqual(seen);
  expect(film).toEqual(seen);
  expect(looked).toBe(FRAMES);
});

test.each([
  ['pq', 'smpte2084'],
  ['hlg', 'arib-std-b67'],
] as const)('high dynamic range (%s) comes out as bright as it was meant, in preview and film alike', async (hdr, transfer) => {
  const path = join(media, `${hdr}.mp4`);
  const plainly = 'setparams=color_primaries=bt709:color_trc=bt709:colorspace=bt709:range=tv';
  const coded = `${plainly},zscale=t=linear:npl=203,format=gbrpf32le,zscale=p=bt2020:t=${transfer}:m=bt2020nc:r=tv:npl=203`;
  const tags = ['-colorspace', 'bt2020nc', '-color_primaries', 'bt2020', '-color_trc', transfer, '-color_range', 'tv'];
  const steps = `color=black:s=320x180:r=30,format=yuv420p,geq=lum='40+40*floor(X/80)':cb=128:cr=128`;
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    steps,
    '-frames:v',
    '12',
    '-vf',
    `${coded},format=yuv420p10le`,
    '-c:v',
    'libx264',
    '-crf',
    '4',
    ...tags,
    path,
  );
  const info = await probe(path, path);
  expect(info.video!.hdr).toBe(hdr);
  const proxy = `${path}.proxy.mp4`;
  await makeProxy(path, proxy, info, {});
  const film = `${path}.film.mp4`;
  await renderFilm(montageOf(info.video!, 12), { picturePath: () => path, video: () => info.video, soundPath: () => song }, film);
  const levels = (of: string): number[] => {
    const raw = ffmpeg('-i', of, '-frames:v', '1', '-vf', 'format=yuv420p', '-f', 'rawvideo', '-');
    return [40, 120, 200, 280].map((x) => raw[90 * 320 + x]!);
  };
  const [inPreview, inFilm] = [levels(proxy), levels(film)];
  inPreview.forEach((level, i) => expect(Math.abs(level - inFilm[i]!)).toBeLessThanOrEqual(2));
  // What a plain screen shows is seen as it was: left as it is coded, PQ would put all four steps between 40 and 130.
  inFilm.forEach((level, i) => expect(Math.abs(level - (40 + 40 * i))).toBeLessThanOrEqual(6));
});

test('broken slices: the clip is used as far as its pictures go, and said to be damaged', async () => {
  const path = join(media, 'broken.mp4');
  const bytes = readFileSync(plain);
  // Zeros in the middle of the coded pictures, as a bad card leaves them.
  const from = bytes.indexOf('mdat') + Math.floor(bytes.length / 3);
  writeFileSync(path, bytes.fill(0, from, from + 700));
  const { damaged, summary } = await lookAtFilm(path, `${path}.jpg`, await probe(path, path));
  expect(damaged).toBe(true);
  expect(summary.frames).toBeGreaterThan(FRAMES - 60);
  expect((await lookAtFilm(plain, `${path}.jpg`, await probe(plain, plain))).damaged).toBe(false);
});

/** Films of unusual size, rate or length, as cheap to make as can be. */
test.each([
  ['one frame a second', '320x180', '1', 9, []],
  ['240 frames a second', '320x180', '240', 300, []],
  ['16 x 16', '16x16', '30', 40, []],
  ['8192 pixels wide', '8192x64', '30', 12, []],
  ['three hours long', '64x36', '1', 10_800, ['-g', '600']],
])('%s: looked at, with a preview of as many frames', async (_, size, fps, frames, args) => {
  const path = join(media, `${size}-${fps}.mp4`);
  const source = `color=0x7fb4cf:s=${size}:r=${fps}`;
  ffmpeg('-f', 'lavfi', '-i', source, '-frames:v', String(frames), '-c:v', 'libx264', '-preset', 'ultrafast', ...args, path);
  const info = await probe(path, path);
  const { strip, summary } = await lookAtFilm(path, `${path}.jpg`, info);
  expect(summary.frames).toBe(frames);
  expect(summary.hits).toEqual([]);
  expect(strip.pictures).toBeLessThanOrEqual(200);
  expect(summary.movementCurve.length).toBeLessThanOrEqual(20_001);
  expect(await makeProxy(path, `${path}.proxy.mp4`, info, {})).toBe(frames);
});
