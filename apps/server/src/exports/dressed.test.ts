import { beforeAll, describe, expect, jest, test } from '@jest/globals';
import { join } from 'node:path';
import {
  UNDESCRIBED,
  carryOut,
  emptyMontage,
  firingsOf,
  scoreOf,
  transitionsOf,
  undressed,
  type Command,
  type FootageItem,
  type Montage,
} from '@bluster/core';
import { probe, type MediaProbe } from '@bluster/media/probe/probe';
import { soundToWav } from '@bluster/media/sound/sound';
import { ffmpeg, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';
import { filmedFrame, likeness, paintedFrame } from '@bluster/media/testing/painted-frame';
import { renderFilm } from '@bluster/media/film/film';

jest.setTimeout(180_000);

describe('a film that is dressed', () => {
  const media = scratchFolder();
  const videos = new Map<string, MediaProbe['video']>();
  const paths = new Map<string, string>();
  const pathOf = (id: string): string => paths.get(id)!;
  let plain: Montage;
  let song: string;

  /** A still colour, or a pattern with edges and colours that moves a little. */
  async function clip(id: string, source: string): Promise<FootageItem> {
    const path = join(media, `${id}.mp4`);
    const colours = 'scale=out_color_matrix=bt709:out_range=tv,format=yuv420p';
    ffmpeg('-f', 'lavfi', '-i', `${source},${colours}`, '-frames:v', '120', '-c:v', 'libx264', '-crf', '4', '-colorspace', 'bt709', path);
    paths.set(id, path);
    const { video } = await probe(path, id);
    videos.set(id, video);
    const { width, height, rate, frames } = video!;
    return { assetId: id, kind: 'clip', name: id, width, height, rate, frames, hasSound: false, ...UNDESCRIBED };
  }

  const filmed = async (montage: Montage, name: string): Promise<string> => {
    const out = join(media, name);
    await renderFilm(montage, { picturePath: pathOf, video: (id) => videos.get(id) ?? null, soundPath: () => song }, out);
    return out;
  };
  const after = (commands: readonly Command[]): Montage => commands.reduce(carryOut, plain);
  /** Mean of red, green and blue in the middle of the picture. */
  const middle = (rgba: Buffer): number => {
    const i = 4 * (90 * 320 + 160);
    return (rgba[i]! + rgba[i + 1]! + rgba[i + 2]!) / 3;
  };
  const cut = (n: number): string => scoreOf(plain).slots[n]!.start.id;

  beforeAll(async () => {
    song = join(media, 'song.wav');
    await soundToWav(tickingSong(media, 'ticks.flac', 6), song);
    const items = [
      await clip('dark', 'color=c=0x282828:s=320x180:r=30'),
      await clip('light', 'color=c=0xb4b4b4:s=320x180:r=30'),
      await clip('pattern', 'testsrc2=s=320x180:r=30'),
    ];
    let m: Montage = { ...emptyMontage(), shape: { width: 320, height: 180, rate: { num: 30, den: 1 } } };
    m = carryOut(m, { do: 'setSong', assetId: 'song', name: 'song', length: 6 });
    m = carryOut(m, { do: 'takeBeatTimes', times: Array.from({ length: 12 }, (_, i) => i * 0.5), metre: 4 });
    m = carryOut(m, { do: 'addFootage', items });
    m = carryOut(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    for (const [i, assetId] of ['dark', 'light', 'pattern'].entries())
      m = carryOut(m, { do: 'hangShot', startPeg: scoreOf(m).slots[i]!.start.id, assetId });
    plain = m;
  });

  test('a dissolve lies over its cut and goes evenly from one picture to the other', async () => {
    const m = after([{ do: 'setTransition', pegIds: [cut(1)], transition: { kind: 'dissolve', beats: 1, place: 'over' } }]);
    const [transition] = transitionsOf(m);
    expect([transition!.from, transition!.cut, transition!.to]).toEqual([53, 60, 68]);
    const out = await filmed(m, 'dissolve.mp4');
    const levels = [52, 53, 56, 60, 64, 67, 68].map((n) => middle(filmedFrame(out, n)));
    const expected = [52, 53, 56, 60, 64, 67, 68].map((n) => 40 + (180 - 40) * Math.max(0, Math.min(1, (n - 52) / 16)));
    levels.forEach((level, i) => expect(Math.abs(level - expected[i]!)).toBeLessThanOrEqual(5));
  });

  test('through black all is black at the cut; a flash is brightest on its mark and has died away half a beat later', async () => {
    const bar = m0().id;
    const m = after([
      { do: 'setTransition', pegIds: [cut(1)], transition: { kind: 'black', beats: 1, place: 'over' } },
      { do: 'toggleEffect', kind: 'flash', markId: bar, firing: [] },
    ]);
    const strong = carryOut(m, { do: 'changeEffects', ids: m.effects.map((e) => e.id), strength: 1, beats: 0.5 });
    expect(firingsOf(strong).map((f) => f.frame)).toEqual([0]);
    const out = await filmed(strong, 'black.mp4');
    expect(middle(filmedFrame(out, 60))).toBeLessThan(4);
    expect(middle(filmedFrame(out, 45))).toBeGreaterThan(36);
    expect(Math.abs(middle(filmedFrame(out, 0)) - (40 + 0.9 * (255 - 40)))).toBeLessThanOrEqual(5);
    expect(middle(filmedFrame(out, 4))).toBeLessThan(middle(filmedFrame(out, 2)));
    expect(Math.abs(middle(filmedFrame(out, 8)) - 40)).toBeLessThanOrEqual(5);
  });

  test('dressed with everything, the painter paints the same picture', async () => {
    const m = after([
      { do: 'addEffect', kind: 'punch', what: 'beat' },
      { do: 'addEffect', kind: 'shake', what: 'cut' },
      { do: 'addEffect', kind: 'dip', what: 'bar' },
      { do: 'addLetterbox', aspect: 2.39 },
      { do: 'setTransition', pegIds: [cut(2)], transition: { kind: 'dissolve', beats: 2, place: 'before' } },
      { do: 'setPictureFades', in: 0.5, out: 1 },
      { do: 'addTitle', text: 'Kite day\non the down', at: { markId: m0().id }, beats: 8 },
      { do: 'addTitle', text: 'žluťoučký drak', at: { time: 4.2 }, beats: 2 },
    ]);
    const coloured = carryOut(m, {
      do: 'changeTitle',
      id: m.titles[1]!.id,
      colour: 'coral',
      place: 'bottom',
      enter: 'rise',
      weight: 'light',
    });
    const out = await filmed(coloured, 'everything.mp4');
    // Over a fade, a title, the dissolve, shaken and punched pictures with edges, a rising title, the last fade.
    const frames = [4, 30, 66, 112, 121, 125, 128, 160, 172];
    const alike = frames.map((n) => Math.round(likeness(paintedFrame(coloured, n, pathOf), filmedFrame(out, n))));

    expect(Math.min(...alike)).toBeGreaterThan(36);
    // They differ from what they would be undressed by far more.
    const bare = frames.map((n) => Math.round(likeness(paintedFrame(undressed(coloured), n, pathOf), filmedFrame(out, n))));
    for (const [i, level] of bare.entries()) expect(level).toBeLessThan(alike[i]! - 4);
  });

  function m0(): Montage['marks'][number] {
    return plain.marks.find((mark) => mark.kind === 'bar')!;
  }
});
