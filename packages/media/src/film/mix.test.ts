import { beforeAll, describe, expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { JOIN_FADE_S, LIMIT_BLOCK, SONG_RATE, type MixPlan } from '@bluster/core';
import { soundToWav, WavFile } from '../sound/sound.ts';
import { ffmpeg, scratchFolder } from '../testing/made-media.ts';
import { measureMix, renderMix } from './mix.ts';
import { programPath } from '../program/programs.ts';

const folder = scratchFolder();
const at = (name: string): string => join(folder, name);
const LENGTH = 4;

async function samples(path: string): Promise<Float32Array> {
  const wav = await WavFile.open(path);
  const all = await wav.read(0, wav.length);
  await wav.close();
  return all;
}

describe('the sound of a film', () => {
  let song: Float32Array;
  let clip: Float32Array;
  beforeAll(async () => {
    ffmpeg('-f', 'lavfi', '-i', `aevalsrc='0.3*sin(2*PI*220*t)|0.2*sin(2*PI*330*t)':s=44100:d=${LENGTH}`, at('song.flac'));
    ffmpeg('-f', 'lavfi', '-i', `aevalsrc='0.4*sin(2*PI*97*t)':s=44100:d=3`, at('clip.flac'));
    for (const name of ['song', 'clip']) await soundToWav(at(`${name}.flac`), at(`${name}.wav`));
    [song, clip] = [await samples(at('song.wav')), await samples(at('clip.wav'))];
  });
  const mix = async (plan: Partial<MixPlan>, seconds = LENGTH): Promise<Float32Array> => {
    const whole: MixPlan = {
      length: LENGTH,
      song: { assetId: 'song', pieces: [{ from: 0, to: LENGTH }], fadeIn: 0, fadeOut: 0, line: [], ducks: [] },
      clips: [],
      ...plan,
    };
    await renderMix({ plan: whole, seconds, soundPath: (id) => at(`${id}.wav`) }, at('mix.wav'));
    return samples(at('mix.wav'));
  };

  test('a clip is added to the song at its level, and only where it hangs', async () => {
    const out = await mix({
      clips: [{ assetId: 'clip', at: 1, length: 1.5, from: 0.5, speed: 1, level: 0.5, fadeIn: 0.01, fadeOut: 0.01, line: null }],
    });
    const step = 1.5 / 32768; // rounding to 16 bits, once more
    let [outside, inside, loudest] = [0, 0, 0];
    for (let n = 0; n < out.length; n += 2) {
      const t = n / 2 / SONG_RATE;
      const added = out[n]! - song[n]!;
      if (t < 1 || t >= 2.5) outside = Math.max(outside, Math.abs(added));
      else if (t > 1.02 && t < 2.48) {
        inside = Math.max(inside, Math.abs(added - 0.5 * clip[n - SONG_RATE]!));
        loudest = Math.max(loudest, Math.abs(added));
      }
    }
    expect(outside).toBe(0);
    expect(inside).toBeLessThanOrEqual(step);
    expect(loudest).toBeCloseTo(0.2, 2);
  });

  test.each([0.5, 1.6])('a clip at %f of its speed keeps its pitch, comes in without a click and ends with its slot', async (speed) => {
    const sound = { assetId: 'clip', at: 0.5, length: 1.5, from: 0.2, speed, level: 1, fadeIn: 0.01, fadeOut: 0.01, line: null };
    const out = await mix({ song: null, clips: [sound] });
    const left = Float32Array.from({ length: out.length / 2 }, (_, n) => out[2 * n]!);
    const upward = (from: number, to: number): number => {
      let count = 0;
      for (let n = Math.round(from * SONG_RATE); n < to * SONG_RATE; n++) if (left[n - 1]! < 0 && left[n]! >= 0) count++;
      return count;
    };
    expect(upward(0.7, 1.7)).toBeGreaterThanOrEqual(96);
    expect(upward(0.7, 1.7)).toBeLessThanOrEqual(98);
    const loudest = (from: number, to: number): number => Math.max(...left.subarray(from * SONG_RATE, to * SONG_RATE).map(Math.abs));
    expect(loudest(0, 0.5)).toBe(0);
    expect(loudest(0.5, 0.502)).toBeLessThan(0.1);
    expect(loudest(0.8, 1.8)).toBeGreaterThan(0.35);
    expect(loudest(2.001, 2.5)).toBe(0);
  });

  test('pieces of the song follow one another to the sample; over the last 30 ms before a join one gives way to the other', async () => {
    const pieces = [
      { from: 0, to: 1 },
      { from: 2.5, to: 3.5 },
    ];
    const out = await mix({ length: 2, song: { assetId: 'song', pieces, fadeIn: 0, fadeOut: 0, line: [], ducks: [] } }, 2);
    expect(out).toHaveLength(4 * SONG_RATE);
    const fade = Math.round(JOIN_FADE_S * SONG_RATE);
    const join = 2 * (SONG_RATE - fade);
    expect(out.subarray(0, join)).toEqual(song.subarray(0, join));
    expect(out.subarray(2 * SONG_RATE)).toEqual(song.subarray(5 * SONG_RATE, 7 * SONG_RATE));
    for (const part of [0.1, 0.5, 0.9]) {
      const n = SONG_RATE - fade + Math.round(part * fade);
      const angle = (Math.PI / 2) * (Math.round(part * fade) / fade);
      const expected = Math.cos(angle) * song[2 * n]! + Math.sin(angle) * song[2 * (n + 1.5 * SONG_RATE)]!;
      expect(out[2 * n]).toBeCloseTo(expected, 2);
    }
  });

  test('fades rise and fall in a straight line; after the song there is silence', async () => {
    const out = await mix(
      { song: { assetId: 'song', pieces: [{ from: 0, to: LENGTH }], fadeIn: 1, fadeOut: 2, line: [], ducks: [] } },
      LENGTH + 0.5,
    );
    const middle = (t: number): number => Math.max(...out.subarray(2 * (t - 0.01) * SONG_RATE, 2 * (t + 0.01) * SONG_RATE)) / 0.3;
    expect(middle(0.5)).toBeCloseTo(0.5, 1);
    expect(middle(1.5)).toBeCloseTo(1, 1);
    expect(middle(3)).toBeCloseTo(0.5, 1);
    expect(Math.max(...out.subarray(2 * LENGTH * SONG_RATE))).toBe(0);
  });

  test('its loudness is what ffmpeg measures of the film (EBU R 128), and is the same before it is written', async () => {
    const clips = [{ assetId: 'clip', at: 1, length: 2, from: 0, speed: 1, level: 0.8, fadeIn: 0.2, fadeOut: 0.5, line: null }];
    const line = [
      { id: '1', time: 0, level: 0.1 },
      { id: '2', time: 3, level: 1.6 },
    ];
    const plan: MixPlan = {
      length: LENGTH,
      song: { assetId: 'song', pieces: [{ from: 0, to: LENGTH }], fadeIn: 0, fadeOut: 0, line, ducks: [] },
      clips,
    };
    const path = (id: string): string => at(`${id}.wav`);
    const { loudness } = await renderMix({ plan, seconds: LENGTH, soundPath: path }, at('loud.wav'));
    const { stderr } = spawnSync(programPath('ffmpeg'), ['-nostats', '-i', at('loud.wav'), '-af', 'ebur128=peak=true', '-f', 'null', '-']);
    const said = (name: string): number =>
      Number(
        stderr
          .toString()
          .split('Summary:')[1]!
          .match(new RegExp(`${name}: +(-?[0-9.]+)`))![1],
      );
    expect(Math.abs(loudness.integrated! - said('I'))).toBeLessThan(0.2);
    expect(Math.abs(loudness.range - said('LRA'))).toBeLessThan(0.5);
    expect(Math.abs(loudness.peak! - said('Peak'))).toBeLessThan(0.3);
    const before = await measureMix({ plan, seconds: LENGTH, soundPath: path });
    expect(Math.abs(before.loudness.integrated! - loudness.integrated!)).toBeLessThan(0.01);
  });

  test('what would lie beyond full scale is turned down as a whole, not cut off', async () => {
    const clips = Array.from({ length: 4 }, () => ({
      assetId: 'clip',
      at: 0,
      length: 2,
      from: 0,
      speed: 1,
      level: 4,
      fadeIn: 0.01,
      fadeOut: 0.01,
      line: null,
    }));
    const out = await mix({ clips });
    let [full, loudest] = [0, 0];
    for (const sample of out) {
      if (Math.abs(sample) >= 32767 / 32768) full++;
      loudest = Math.max(loudest, Math.abs(sample));
    }
    expect(loudest).toBeGreaterThan(0.9);
    expect(full / out.length).toBeLessThan(0.01);
    // It keeps its form: what is heard goes with what came in, sample by sample, within a hundredth of a second.
    for (let from = SONG_RATE / 2; from < SONG_RATE; from += LIMIT_BLOCK) {
      let [least, most] = [Infinity, 0];
      for (let n = 2 * from; n < 2 * (from + LIMIT_BLOCK); n += 2) {
        const sum = 16 * clip[n]! + song[n]!;
        if (Math.abs(sum) < 2) continue;
        least = Math.min(least, out[n]! / sum);
        most = Math.max(most, out[n]! / sum);
      }
      expect(most - least).toBeLessThan(0.02);
    }
  });
});
