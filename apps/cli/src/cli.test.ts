import { describe, expect, jest, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Detection, SyncReport } from '@bluster/core';
import { ffmpeg, frameNumbers, numberedClip, scratchFolder, textFile, tickingSong } from '@bluster/server/testing/made-media';
import { probe } from '@bluster/server/media/probe';

jest.setTimeout(180_000);
const folder = scratchFolder();
const at = (name: string): string => join(folder, name);

/** Runs the built command line as a shell would. */
function bluster(...args: string[]): { status: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync('node', [join(import.meta.dirname, '../dist/main.js'), ...args], { encoding: 'utf8' });
  return { status, out: stdout, err: stderr };
}

describe('beats', () => {
  const song = tickingSong(folder, 'ticks.flac', 20);
  test('one time a line', () => {
    const { status, out, err } = bluster('beats', song);
    expect({ status, err }).toEqual({ status: 0, err: '' });
    const times = out.trimEnd().split('\n').map(Number);
    expect(times.length).toBeGreaterThanOrEqual(38);
    for (const time of times) expect(Math.abs(time - Math.round(time * 2) / 2)).toBeLessThan(0.01);
  });
  test('bars are some of the beats', () => {
    const beats = bluster('beats', song).out.trimEnd().split('\n');
    const bars = bluster('beats', song, '--bars').out.trimEnd().split('\n');
    expect(bars.length).toBeGreaterThan(6);
    expect(bars.every((bar) => beats.includes(bar))).toBe(true);
  });
  test('all there is, as JSON', () => {
    const found = JSON.parse(bluster('beats', song, '--json').out) as Detection;
    expect(found.length).toBeCloseTo(20, 1);
    expect(found.bpm).toBeCloseTo(120, 0);
    expect(found.beats[0]).toEqual(expect.objectContaining({ time: expect.any(Number), downbeat: expect.any(Boolean) }));
  });
});

describe('cut', () => {
  const song = tickingSong(folder, 'song.wav', 12);
  const clips = [numberedClip(folder, 'a.mp4', { frames: 100, fps: '30' }), numberedClip(folder, 'b.mp4', { frames: 90, fps: '25' })];
  const marks = textFile(folder, 'marks.txt', Array.from({ length: 23 }, (_, i) => (0.25 + i * 0.5).toFixed(3)).join('\n'));
  const common = ['--song', song, '--marks', marks, '--size', '320x180'];

  test('the film is cut where its report says, and the report says where the marks are', async () => {
    const args = [...common, '--footage', ...clips, '--every', '2', '--out', at('film.mp4'), '--report', at('film.json'), '--fps', '29.97'];
    const { status, out, err } = bluster('cut', ...args);
    expect(status).toBe(0);
    expect(out).toBe('');
    expect(err).toMatch(/film 100 %/);
    const report = JSON.parse(readFileSync(at('film.json'), 'utf8')) as SyncReport;
    expect(report.cuts.map((c) => c.mark!.time)).toEqual(Array.from({ length: 12 }, (_, i) => 0.25 + i).map((t) => expect.closeTo(t, 6)));
    for (const cut of report.cuts) expect(Math.abs(cut.errorFrames!)).toBeLessThanOrEqual(0.5);
    const shown = frameNumbers(at('film.mp4'));
    expect(shown).toHaveLength(report.frames);
    const jumps: number[] = [];
    for (let n = 1; n < shown.length; n++) if (Math.abs(shown[n]! - shown[n - 1]!) > 3) jumps.push(n);
    expect(jumps).toEqual(report.cuts.filter((c) => c.visible).map((c) => c.frame));
    expect((await probe(at('film.mp4'), 'film')).video).toMatchObject({ width: 320, height: 180, rate: { num: 30000, den: 1001 } });
  });

  test('footage that runs out goes round again, unused parts first', () => {
    const args = [...common, '--footage', ...clips, '--every', 'bar', '--out', at('round.mp4'), '--report', at('round.json')];
    expect(bluster('cut', ...args).status).toBe(0);
    const { slots } = JSON.parse(readFileSync(at('round.json'), 'utf8')) as SyncReport;
    expect(slots.every((s) => s.clip !== null && s.missing === 0)).toBe(true);
    // a and b from their starts; the first round left 1 s and more of each, which comes next.
    expect(slots.slice(0, 2).map((s) => [s.clip, s.sourceIn])).toEqual([
      ['a.mp4', 0],
      ['b.mp4', 0],
    ]);
    expect(slots[2]!.sourceIn).toBeGreaterThan(0.2);
  });

  test('a shuffled order is the same for the same seed', () => {
    const order = (seed: string, name: string): unknown => {
      const args = [...common, '--footage', ...clips, clips[0]!, '--every', '4bars', '--order', 'shuffle', '--seed', seed];
      expect(bluster('cut', ...args, '--out', at(`${name}.mp4`), '--report', at(`${name}.json`)).status).toBe(0);
      return (JSON.parse(readFileSync(at(`${name}.json`), 'utf8')) as SyncReport).slots.map((s) => s.clip);
    };
    expect(order('7', 'one')).toEqual(order('7', 'two'));
  });
});

describe('what is wrong is said in one sentence', () => {
  const song = tickingSong(folder, 'good.wav', 6);
  const clip = numberedClip(folder, 'good.mp4', { frames: 60, fps: '30' });
  const short = tickingSong(folder, 'short.wav', 2);
  const silent = at('silent.wav');
  ffmpeg('-f', 'lavfi', '-i', 'anullsrc=r=44100:cl=stereo', '-t', '5', silent);
  const cut = (...more: string[]): string[] => [
    'cut',
    '--song',
    song,
    '--footage',
    clip,
    '--every',
    'bar',
    '--out',
    at('never.mp4'),
    ...more,
  ];

  test.each([
    ['a song that is not there', ['beats', at('nowhere.mp3')], /There is no file/],
    ['a text file', ['beats', textFile(folder, 'text.mp3', 'la la la')], /is a text file/],
    ['two seconds', ['beats', short], /2\.0 s long/],
    ['silence', ['beats', silent], /silent/],
    ['a playlist', ['beats', textFile(folder, 'list.m3u8', '#EXTM3U\nhttp://127.0.0.1/a.ts')], /playlist/],
    ['marks that are none', cut('--marks', textFile(folder, 'bad.txt', '1.0\ntwo')), /Line 2/],
    ['marks after the end', cut('--marks', textFile(folder, 'late.txt', '100\n101')), /after the end of the song/],
    ['sound as footage', ['cut', '--song', song, '--footage', song, '--every', 'bar', '--out', at('never.mp4')], /no picture/],
    ['a folder that is not there', ['cut', '--song', song, '--footage', clip, '--every', 'bar', '--out', at('no/where.mp4')], /folder/],
  ])('%s', (_, args, sentence) => {
    const { status, out, err } = bluster(...args);
    expect(status).toBe(1);
    expect(out).toBe('');
    expect(err).toMatch(sentence);
    expect(err).not.toMatch(/ {4}at /);
    expect(existsSync(at('never.mp4'))).toBe(false);
  });

  test.each([
    ['nothing', []],
    ['an unknown command', ['fly']],
    ['no song', ['cut', '--footage', clip, '--every', 'bar', '--out', at('x.mp4')]],
    ['an unknown rule', ['cut', '--song', song, '--footage', clip, '--every', 'minute', '--out', at('x.mp4')]],
    ['an odd size', cut('--size', '101x100')],
    ['a rate that is none', cut('--fps', 'fast')],
  ])('wrong usage exits with 2: %s', (_, args) => {
    const { status, err } = bluster(...args);
    expect(status).toBe(2);
    expect(err.length).toBeGreaterThan(5);
  });
});
