import { beforeAll, describe, expect, jest, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  UNDESCRIBED,
  carryOut,
  emptyMontage,
  FILL_DEFAULTS,
  FILM_PRESETS,
  scoreOf,
  type Command,
  type FilmPresetName,
  type FilmWish,
  type Montage,
  type Proof,
} from '@bluster/core';
import { probe, type MediaProbe } from '@bluster/media/probe/probe';
import { soundToWav } from '@bluster/media/sound/sound';
import { ffmpeg, frameNumbers, numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { renderFilm, type MadeFilm } from '@bluster/media/film/film';
import { proveFilm } from '@bluster/media/film/prove-film';
import { programPath } from '@bluster/media/program/programs';

jest.setTimeout(240_000);

const media = scratchFolder();
let montage: Montage;
let video: MediaProbe['video'];
let clip: string;
let song: string;

beforeAll(async () => {
  clip = numberedClip(media, 'clip.mp4', { frames: 400, fps: '30' });
  ({ video } = await probe(clip, 'clip'));
  song = join(media, 'song.wav');
  await soundToWav(tickingSong(media, 'ticks.flac', 12), song);
  const { width, height, rate, frames } = video!;
  const commands: Command[] = [
    { do: 'setShape', shape: { width: 320, height: 180, rate: { num: 30, den: 1 } } },
    { do: 'setSong', assetId: 'song', name: 'song', length: 12 },
    { do: 'takeBeatTimes', times: Array.from({ length: 24 }, (_, i) => 0.013 + i * 0.5), metre: 4 },
    {
      do: 'addFootage',
      items: [{ assetId: 'clip', kind: 'clip', name: 'clip', width, height, rate, frames, hasSound: false, ...UNDESCRIBED }],
    },
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 2 } },
    { do: 'fill', options: { ...FILL_DEFAULTS, tooShort: 'next' } },
  ];
  montage = commands.reduce(carryOut, emptyMontage());
  // Each slot shows another part of the clip, so that every cut is seen.
  scoreOf(montage).slots.forEach(({ placed }, i) => {
    montage = carryOut(montage, { do: 'slipShot', id: placed!.shot.id, by: ((i * 7) % 11) - placed!.shot.sourceIn });
  });
});

const sources = { picturePath: (): string => clip, video: (): MediaProbe['video'] => video, soundPath: (): string => song };
const make = (name: string, wish: FilmWish, tags = null as { title: string; date: string } | null): Promise<MadeFilm> =>
  renderFilm(montage, sources, join(media, name), { wish, tags });
const prove = (name: string, made: MadeFilm): Promise<Proof> =>
  proveFilm(join(media, name), { asked: made.asked, prints: made.prints, soundPath: () => song });

describe.each(Object.entries(FILM_PRESETS).filter(([, { holds }]) => holds === 'film' || holds === 'pictures'))(
  'as %s',
  (name, { ending, sound }) => {
    test('every cut is found on its frame, and the sound on the song', async () => {
      const file = `film-${name}.${ending}`;
      const made = await make(file, { preset: name as FilmPresetName });
      const proof = await prove(file, made);
      const cuts = scoreOf(made.asked.montage).slots.length - 1;
      expect(proof.verdict).toMatch(new RegExp(`^All ${cuts} cuts found in the film on their frames`));
      expect(proof).toMatchObject({ good: true, wrongAt: null });
      expect(proof.cuts).toHaveLength(cuts);
      const half = 500 * (made.asked.montage.shape.rate.den / made.asked.montage.shape.rate.num);
      for (const { errorMs } of proof.cuts) expect(Math.abs(errorMs!)).toBeLessThan(half + 1.1);
      if (sound.length === 0) expect(proof.sound).toEqual([]);
      else expect(Math.abs(proof.soundLateMs!)).toBeLessThan(1);
    });
  },
);

describe('a film that is broken on purpose', () => {
  let made: MadeFilm;
  const broken = (name: string, ...words: string[]): Promise<Proof> => {
    ffmpeg('-i', join(media, 'whole.mp4'), ...words, join(media, name));
    return prove(name, made);
  };
  const CODED = ['-c:v', 'libx264', '-crf', '12', '-c:a', 'aac'];

  beforeAll(async () => {
    made = await make('whole.mp4', { preset: 'h264', quality: 'best' });
  });

  test('a frame dropped: every cut after it is one frame early, and the first of them is named', async () => {
    const proof = await broken('dropped.mp4', '-vf', "select='not(eq(n,100))',setpts=N/30/TB", ...CODED);
    const late = proof.cuts.filter((cut) => cut.frame > 104);
    expect(proof.good).toBe(false);
    expect(proof.frames).toEqual({ planned: 360, read: 359 });
    for (const cut of late) expect(cut.found).toBe(cut.frame - 1);
    for (const cut of proof.cuts.filter((c) => c.frame < 96)) expect(cut.found).toBe(cut.frame);
    expect(proof.verdict).toBe(
      `1 of 360 frames are missing; ${late.length} cuts are not where they should be, the first at 0:04: one frame early; sound ${Math.abs(proof.soundLateMs!).toFixed(1)} ms from the song.`,
    );
    expect(proof.wrongAt).toBeCloseTo(late[0]!.frame / 30, 6);
  });

  test('a frame shown twice and one left out later: the cuts between are late', async () => {
    const twice = "select='not(eq(n,250))',setpts='if(lt(N,100),N,if(lt(N,250),N+1,N+1))/30/TB',fps=30";
    const proof = await broken('twice.mp4', '-vf', twice, '-frames:v', '360', ...CODED);
    const between = proof.cuts.filter((cut) => cut.frame > 105 && cut.frame < 245);
    expect(between.length).toBeGreaterThan(2);
    for (const cut of between) expect(cut.found).toBe(cut.frame + 1);
    expect(proof.good).toBe(false);
  });

  test('sound 40 ms late is found, and the cuts are where they are', async () => {
    const proof = await broken('late.mp4', '-af', 'adelay=40:all=1', '-c:v', 'copy', '-c:a', 'aac');
    expect(proof.soundLateMs!).toBeCloseTo(40, 0);
    expect(proof.good).toBe(false);
    expect(proof.verdict).toMatch(/^All 11 cuts found in the film on their frames; the sound is 40 ms late[.]$/);
  });

  test('sound that a file itself says begins later is found too', async () => {
    const late = ['-itsoffset', '0.04', '-i', join(media, 'whole.mp4'), '-map', '0:v', '-map', '1:a', '-c', 'copy'];
    const proof = await broken('offset.mp4', ...late);
    // The container counts the sound in packets' parts: a millisecond is lost on the way.
    expect(Math.abs(proof.soundLateMs! - 40)).toBeLessThan(1);
    expect(proof.good).toBe(false);
  });

  test('another picture in place of one is found', async () => {
    const proof = await broken('other.mp4', '-vf', "negate=enable='between(n,170,190)'", ...CODED);
    expect(proof.good).toBe(false);
    expect(proof.cuts.filter((c) => c.why === 'another picture').map((c) => c.frame)).toEqual([180]);
    expect(proof.verdict).toContain('1 cut is not where it should be: 0:06, another picture stands there');
  });
});

describe('what is asked for', () => {
  test('a stretch shows its own frames and its own sound, in another size', async () => {
    const made = await make('part.mp4', {
      preset: 'h264',
      quality: 'best',
      stretch: { from: 3.013, to: 6.013 },
      size: { width: 360, height: 640 },
    });
    expect([made.asked.from, made.asked.to]).toEqual([90, 181]);
    const { video: seen } = await probe(join(media, 'part.mp4'), 'part');
    expect(seen).toMatchObject({ width: 360, height: 640, frames: 91 });
    expect(await prove('part.mp4', made)).toMatchObject({ good: true });
    // Its numbers are those of the whole film's frames, and its sound lies on the song's by the proof above.
    const whole = await make('sized.mp4', { preset: 'h264', quality: 'best', size: { width: 360, height: 640 } });
    expect(whole.asked.to).toBe(360);
    expect(frameNumbers(join(media, 'part.mp4'))).toEqual(frameNumbers(join(media, 'sized.mp4')).slice(90, 181));
  });

  test('the frame at a moment as a picture is that frame', async () => {
    const made = await make('still.png', { preset: 'png', stretch: { from: 4.5, to: 4.5 } });
    expect(made.asked.from).toBe(135);
    ffmpeg(
      '-i',
      join(media, 'still.png'),
      '-vf',
      'scale=in_range=pc:out_range=tv:out_color_matrix=bt709,format=yuv420p',
      '-c:v',
      'libx264',
      '-crf',
      '1',
      join(media, 'still.mp4'),
    );
    const film = await make('again.mp4', { preset: 'h264', quality: 'best' });
    expect(film.asked.from).toBe(0);
    expect(frameNumbers(join(media, 'still.mp4'))).toEqual([frameNumbers(join(media, 'again.mp4'))[135]]);
  });

  test.each([
    ['sound.wav', 'wav', 'pcm_s16le'],
    ['sound.m4a', 'm4a', 'aac'],
  ] as const)('the sound alone as %s lies on the song', async (file, preset, codec) => {
    const made = await make(file, { preset });
    expect(made.prints).toHaveLength(0);
    const proof = await prove(file, made);
    expect(proof.good).toBe(true);
    expect(Math.abs(proof.soundLateMs!)).toBeLessThan(1);
    const said = execFileSync(programPath('ffprobe'), [
      '-v',
      'error',
      '-show_entries',
      'stream=codec_name',
      '-of',
      'csv=p=0',
      join(media, file),
    ]);
    expect(said.toString().trim()).toBe(codec);
  });

  test('loudness is brought to what was asked for, and nothing is clipped', async () => {
    const made = await make('loud.wav', { preset: 'wav', loudness: -23 });
    expect(made.loudness!.integrated!).toBeCloseTo(-23, 1);
    expect((await make('asis.wav', { preset: 'wav' })).loudness!.integrated!).not.toBeCloseTo(-23, 0);
    const loud = await make('louder.wav', { preset: 'wav', loudness: -8 });
    expect(loud.loudness!.peak!).toBeLessThanOrEqual(0);
  });

  test('title, date and the sections as chapters are in the file', async () => {
    const song = {
      ...montage.song!,
      sections: [
        { id: 'a', from: 0, name: 'A = quiet' },
        { id: 'b', from: 6, name: 'B' },
      ],
    };
    const halves = { ...montage, song };
    await renderFilm(halves, sources, join(media, 'tagged.mp4'), {
      wish: { preset: 'h264', stretch: { from: 2, to: 12 } },
      tags: { title: 'Kites; over #1', date: '2026-11-29' },
    });
    const said = execFileSync(programPath('ffprobe'), [
      '-v',
      'error',
      '-show_chapters',
      '-show_format',
      '-of',
      'json',
      join(media, 'tagged.mp4'),
    ]);
    const { chapters, format } = JSON.parse(said.toString()) as {
      chapters: { start_time: string; tags: { title: string } }[];
      format: { tags: Record<string, string> };
    };
    expect(format.tags).toMatchObject({ title: 'Kites; over #1', date: '2026-11-29' });
    expect(chapters.map((c) => [Number(c.start_time), c.tags.title])).toEqual([
      [0, 'A = quiet'],
      [4, 'B'],
    ]);
  });

  test('a GIF that is too long, and a stretch after the end, are refused in a sentence', async () => {
    await expect((async () => make('far.mp4', { preset: 'h264', stretch: { from: 30, to: 40 } }))()).rejects.toThrow(
      'The stretch begins at 0:30.000, after the montage has ended. Choose another one.',
    );
    expect(readFileSync(join(media, 'whole.mp4')).length).toBeGreaterThan(1000);
  });
});
