import { describe, expect, jest, test } from '@jest/globals';
import { spawn, spawnSync, type SpawnSyncReturns } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { detectIn } from '@bluster/core/music/detect';
import { OnsetMeter } from '@bluster/core/music/onset-strength';
import { ANALYSIS_RATE } from '@bluster/core/music/signal';
import { readMarks, type Detection, type SyncReport } from '@bluster/core';
import { ffmpeg, frameNumbers, numberedClip, scratchFolder, textFile, tickingSong } from '@bluster/media/testing/made-media';
import { probe } from '@bluster/media/probe/probe';
import { hearSound } from '@bluster/media/sound/sound';

jest.setTimeout(180_000);
const folder = scratchFolder();
const at = (name: string): string => join(folder, name);

/** Runs the built command line as the launcher does. @param before words for node */
function started(args: readonly string[], before: readonly string[] = []): SpawnSyncReturns<Buffer> {
  const node = args[0] === 'cut' ? [...before, '--conditions=bundle'] : before;
  // How tests are run is nothing to it.
  const { NODE_OPTIONS: _, ...env } = process.env;
  return spawnSync('node', [...node, join(import.meta.dirname, '../dist/main.js'), ...args], { env });
}
function bluster(...args: string[]): { status: number | null; out: string; err: string } {
  const { status, stdout, stderr } = started(args);
  return { status, out: stdout.toString(), err: stderr.toString() };
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
  test('who closes its output early is no fault', () => {
    const { NODE_OPTIONS: _, ...env } = process.env;
    const words = ['node', join(import.meta.dirname, '../dist/main.js'), 'beats', song].map((word) => `'${word}'`).join(' ');
    const { stdout, stderr } = spawnSync('bash', ['-c', `{ ${words}; echo $? >&2; } | true`], { env, encoding: 'utf8' });
    expect({ stdout, stderr }).toEqual({ stdout: '', stderr: '0\n' });
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

const DEMO_SONG = join(import.meta.dirname, '../../../demo/media/gust-on-the-down.ogg');
const truth = readFileSync(DEMO_SONG.replace('.ogg', '.beats.txt'), 'utf8').trimEnd().split('\n').map(Number);

describe('beats in other formats', () => {
  // So much of the song has a drop and three sections in it.
  const song = at('half.flac');
  ffmpeg('-t', '32', '-i', DEMO_SONG, song);
  const run = (...args: string[]): string => {
    const { status, out } = bluster('beats', song, ...args);
    expect(status).toBe(0);
    return out;
  };
  const all = JSON.parse(run('--format', 'json')) as Detection;
  test('there is something of all that is asked for', () => {
    expect(all.drops.length).toBeGreaterThan(0);
    expect(all.sections.length).toBeGreaterThan(1);
  });

  test.each(['labels', 'csv', 'jams'] as const)('%s reads back as what JSON says', (format) => {
    const ending = { labels: 'txt', csv: 'csv', jams: 'jams' }[format];
    const { marks, sections } = readMarks(`x.${ending}`, Buffer.from(run('--format', format)));
    expect(marks.filter((m) => m.kind === 'bar')).toHaveLength(all.beats.filter((b) => b.downbeat).length);
    expect(marks.filter((m) => m.kind === 'accent')).toHaveLength(all.accents.length);
    expect(marks.filter((m) => m.kind === 'drop')).toHaveLength(all.drops.length);
    expect(sections.map((s) => s.name)).toEqual(all.sections.map((s) => s.name));
  });
  test('MIDI comes out as bytes, with the beats where they were found', () => {
    const { stdout } = started(['beats', song, '--format', 'midi']);
    const beats = readMarks('x.mid', stdout).marks.filter((m) => m.kind === 'beat' || m.kind === 'bar');
    expect(beats).toHaveLength(all.beats.length);
    beats.forEach((m, i) => expect(Math.abs(m.time - all.beats[i]!.time)).toBeLessThan(0.0005));
  });
  test('only what is asked for', () => {
    const lines = (text: string): number => text.trimEnd().split('\n').length;
    expect(lines(run('--bars'))).toBe(all.beats.filter((b) => b.downbeat).length);
    expect(lines(run('--drops'))).toBe(all.drops.length);
    expect(lines(run('--accents'))).toBe(all.accents.length);
    expect(lines(run('--sections'))).toBe(all.sections.length);
    expect(Object.keys(JSON.parse(run('--json', '--drops')) as object)).not.toContain('accents');
  });
  test('JSON says how far all that was heard agrees, and how the song could be counted otherwise', () => {
    const { agreement, second } = JSON.parse(run('--json', '--beats')) as {
      agreement: number;
      second: { chance: number; bpm: number; metre: number; beats: number[]; bars: number[] };
    };
    expect(agreement).toBeGreaterThan(0.5);
    expect(agreement + second.chance).toBeLessThanOrEqual(1);
    const gaps = second.beats.slice(1).map((b, i) => b - second.beats[i]!);
    expect(60 / gaps.sort((a, b) => a - b)[gaps.length >> 1]!).toBeCloseTo(second.bpm, 0);
    expect(second.bars.every((b) => second.beats.includes(b))).toBe(true);
    const bars = all.beats.flatMap((b) => (b.downbeat ? [b.time] : []));
    expect(second.bars).not.toEqual(bars);
  });
  test('beats and accents, found side by side, are those that detection finds one after the other', async () => {
    const meter = new OnsetMeter(ANALYSIS_RATE);
    await hearSound(song, (samples) => meter.push(samples));
    const { signal, onsets } = meter.finish();
    const { others: _, ...found } = detectIn(signal, onsets);
    expect(all).toMatchObject(JSON.parse(JSON.stringify(found)) as object);
    expect(all.accents.length).toBeGreaterThan(100);
  });
  test('an unknown format is wrong usage', () => expect(bluster('beats', song, '--format', 'tea').status).toBe(2));
});

describe('songs of every make', () => {
  const sound = (name: string, ...args: string[]): string => {
    ffmpeg(...args, at(name));
    return at(name);
  };
  /** The part of the song's beats that were found. */
  const found = (path: string, until = 30): number => {
    const { status, out, err } = bluster('beats', path);
    expect({ status, err }).toEqual({ status: 0, err: '' });
    const times = out.trimEnd().split('\n').map(Number);
    const wanted = truth.filter((t) => t < until);
    return wanted.filter((t) => times.some((f) => Math.abs(f - t) < 0.04)).length / wanted.length;
  };
  test.each([
    ['mono, 8 bit', 'mono.wav', ['-ac', '1', '-c:a', 'pcm_u8']],
    ['96 kHz', 'high.flac', ['-ar', '96000']],
    ['six channels', 'six.wav', ['-ac', '6']],
    ['8 kHz, as over a telephone', 'low.wav', ['-ar', '8000', '-ac', '1']],
    ['very quiet', 'quiet.wav', ['-filter:a', 'volume=-45dB']],
    ['far too loud', 'loud.wav', ['-filter:a', 'volume=24dB']],
  ])('%s', (_, name, args) => expect(found(sound(name, '-t', '32', '-i', DEMO_SONG, ...args))).toBeGreaterThan(0.9));
  test('one that starts loud, in the middle of a bar', () => {
    const { out } = bluster('beats', sound('middle.wav', '-ss', '20', '-i', DEMO_SONG));
    const times = out.trimEnd().split('\n').map(Number);
    const wanted = truth.filter((t) => t > 21 && t < 55).map((t) => t - 20);
    expect(wanted.filter((t) => times.some((f) => Math.abs(f - t) < 0.04)).length / wanted.length).toBeGreaterThan(0.95);
  });
  test('silence in the middle: the beats on both sides are found', () => {
    const path = sound('hole.wav', '-i', DEMO_SONG, '-filter:a', "volume=enable='between(t,25,33)':volume=0");
    const { out } = bluster('beats', path);
    const times = out.trimEnd().split('\n').map(Number);
    for (const [from, to] of [
      [2, 24],
      [35, 55],
    ] as const) {
      const wanted = truth.filter((t) => t > from && t < to);
      expect(wanted.filter((t) => times.some((f) => Math.abs(f - t) < 0.04)).length / wanted.length).toBeGreaterThan(0.9);
    }
  });
  test('a damaged MP3 gives what can be heard of it', () => {
    const whole = readFileSync(sound('whole.mp3', '-t', '45', '-i', DEMO_SONG, '-b:a', '128k'));
    const broken = Buffer.from(whole);
    broken.fill(0x55, 200_000, 216_000);
    writeFileSync(at('damaged.mp3'), broken.subarray(0, 700_000));
    expect(found(at('damaged.mp3'), 10)).toBeGreaterThan(0.9);
  });
  test('a file whose head lies about its length', () => {
    const wav = readFileSync(sound('lying.wav', '-t', '32', '-i', DEMO_SONG, '-ac', '1', '-ar', '22050', '-c:a', 'pcm_s16le', '-bitexact'));
    wav.writeUInt32LE(0x7fff_fff0, 4);
    wav.writeUInt32LE(0x7fff_ff00, 40);
    writeFileSync(at('lying.wav'), wav);
    expect(found(at('lying.wav'))).toBeGreaterThan(0.9);
  });
  test.each([
    ['rain', ['-f', 'lavfi', '-i', 'anoisesrc=c=pink:d=40:a=0.3:seed=5']],
    ['wind', ['-f', 'lavfi', '-i', 'anoisesrc=c=brown:d=40:a=0.5:seed=6,tremolo=f=0.2:d=0.9']],
  ])('%s has no steady beat, and a sentence says so', (name, args) => {
    const { err } = bluster('beats', sound(`${name}.wav`, ...args));
    expect(err).toMatch(/No (steady )?beat was/);
  });
  test('ten minutes take a while and no more memory than they need', () => {
    const once = sound('once.mp3', '-i', DEMO_SONG, '-ac', '1', '-b:a', '64k');
    const path = sound('long.mp3', '-stream_loop', '20', '-i', once, '-t', '600', '-c', 'copy');
    const script = `process.on('exit', () => require('node:fs').writeFileSync(${JSON.stringify(at('memory'))}, String(process.resourceUsage().maxRSS)))`;
    writeFileSync(at('memory.cjs'), script);
    const { status, stdout } = started(['beats', path], ['-r', at('memory.cjs')]);
    expect(status).toBe(0);
    expect(stdout.toString().trimEnd().split('\n').length).toBeGreaterThan(1100);
    expect(Number(readFileSync(at('memory'), 'utf8')) / 1024).toBeLessThan(400);
  });
});

describe('cut', () => {
  const song = tickingSong(folder, 'song.wav', 12);
  const clips = [numberedClip(folder, 'a.mp4', { frames: 100, fps: '30' }), numberedClip(folder, 'b.mp4', { frames: 90, fps: '25' })];
  const marks = textFile(folder, 'marks.txt', Array.from({ length: 23 }, (_, i) => (0.25 + i * 0.5).toFixed(3)).join('\n'));
  const common = ['--song', song, '--marks', marks, '--size', '320x180'];
  /** For films of which only the report is read. */
  const few = ['--fps', '10'];

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
    const args = [...common, '--footage', ...clips, '--every', 'bar', '--out', at('round.mp4'), '--report', at('round.json'), ...few];
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

  test.each([
    ['while the song is marked', /marking the song/, []],
    ['in the middle of the film', /film [1-9]/, ['--fps', '60']],
  ])('stopped %s it leaves nothing behind', async (_, when, more) => {
    const own = scratchFolder();
    const { NODE_OPTIONS: _options, ...env } = process.env;
    const args = [...common, '--footage', ...clips, '--every', 'beat', '--out', join(own, 'stopped.mp4'), ...more];
    const program = join(import.meta.dirname, '../dist/main.js');
    const child = spawn('node', ['--conditions=bundle', program, 'cut', ...args], { env: { ...env, TMPDIR: own } });
    let err = '';
    child.stderr.on('data', (chunk: Buffer) => {
      // Asked a second time it would end at once.
      const before = when.test(err);
      err += chunk.toString();
      if (!before && when.test(err)) child.kill('SIGTERM');
    });
    expect(await once(child, 'close')).toEqual([143, null]);
    expect(err.trimEnd().split('\n').at(-1)).toBe('stopped; nothing was written');
    expect(readdirSync(own)).toEqual([]);
  });

  test('a shuffled order is the same for the same seed', () => {
    const order = (seed: string, name: string): unknown => {
      const args = [...common, '--footage', ...clips, clips[0]!, '--every', '4bars', '--order', 'shuffle', '--seed', seed, ...few];
      expect(bluster('cut', ...args, '--out', at(`${name}.mp4`), '--report', at(`${name}.json`)).status).toBe(0);
      return (JSON.parse(readFileSync(at(`${name}.json`), 'utf8')) as SyncReport).slots.map((s) => s.clip);
    };
    expect(order('7', 'one')).toEqual(order('7', 'two'));
  });

  test('at the pace of the music it is a first cut: it says what it did, and nothing is left empty', () => {
    const shots = [
      numberedClip(folder, 'wide.mp4', { frames: 240, fps: '30' }),
      numberedClip(folder, 'upright.mp4', { frames: 150, fps: '30', size: '180x320' }),
      ...clips,
      join(import.meta.dirname, '../../../demo/media/morning-hill.jpg'),
    ];
    const footage = shots.flatMap((path) => ['--footage', path]);
    const song = at('half-a-minute.wav');
    ffmpeg('-i', DEMO_SONG, '-t', '30', song);
    const args = ['cut', '--song', song, ...footage, '--every', 'pace', '--size', '160x90', ...few];
    const { status, err } = bluster(...args, '--order', 'match', '--out', at('first.mp4'), '--report', at('first.json'));
    expect(status).toBe(0);
    expect(err).toMatch(/slots, from .* longer where the music is quiet/);
    expect(err).toContain('Photos move gently');
    const { slots, emptySlots } = JSON.parse(readFileSync(at('first.json'), 'utf8')) as SyncReport;
    expect(emptySlots).toBe(0);
    expect(slots.length).toBeGreaterThan(15);
  });

  test('by best match the lively clip goes where the music is full, the still one where it is not', () => {
    const still = at('still.mp4');
    const lively = at('lively.mp4');
    ffmpeg('-f', 'lavfi', '-i', 'color=0x406080:s=320x180:r=30', '-t', '8', '-pix_fmt', 'yuv420p', still);
    ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=30,scroll=horizontal=0.006', '-t', '8', '-pix_fmt', 'yuv420p', lively);
    const half = at('half.wav');
    ffmpeg('-f', 'lavfi', '-i', `aevalsrc='sin(330*t)*if(lt(t,8),0.02,0.9)':s=44100:d=16`, half);
    const quarters = textFile(folder, 'quarters.txt', Array.from({ length: 32 }, (_, i) => (i * 0.5).toFixed(1)).join('\n'));
    const args = ['--song', half, '--marks', quarters, '--size', '320x180', '--footage', lively, still, '--every', '4bars', ...few];
    expect(bluster('cut', ...args, '--order', 'match', '--out', at('match.mp4'), '--report', at('match.json')).status).toBe(0);
    const { slots } = JSON.parse(readFileSync(at('match.json'), 'utf8')) as SyncReport;
    expect(slots.map((s) => s.clip)).toEqual(['still.mp4', 'lively.mp4']);
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
