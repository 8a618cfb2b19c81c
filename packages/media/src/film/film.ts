import { once } from 'node:events';
import { rm } from 'node:fs/promises';
import { DEFAULT_PRESET, FILM_PRESETS, frameTime, mixPlan, scoreOf, type FilmPresetName, type Montage } from '@bluster/core';
import { BT709_TAGS, countFrames, frameOnScreen, openBefore, squarePixels } from '../probe/frame-filters.ts';
import type { MediaProbe } from '../probe/probe.ts';
import { CancelledError, HOSTILE_INPUT, MediaProgramError, run, start } from '../program/run.ts';
import { failureOf } from '../program/media-program-error.ts';
import { makeWhole } from '../program/whole-file.ts';
import { FrameReader } from './frame-reader.ts';
import { renderMix, type SoundPath } from './mix.ts';
import { blackPicture, type Dressing } from './compose-frame.ts';
import { FrameComposer } from './frame-composer.ts';
import { filmPlans, type PictureRun } from './picture-runs.ts';
import { PlannedPictures } from './planned-pictures.ts';
import type { OpenRun } from './run-frames.ts';

/** Where a film's material lies. */
export interface FilmSources {
  /** the original clip, or the upright copy of a photo */
  readonly picturePath: (assetId: string) => string;
  /** what the clip's original is; null for photos */
  readonly video: (assetId: string) => MediaProbe['video'];
  readonly soundPath: SoundPath;
}

export interface FilmOptions {
  /** how it is written; the usual way where none is named */
  readonly preset?: FilmPresetName;
  readonly signal?: AbortSignal | undefined;
  /** how large it may become, bytes; a larger one ends as on a full disk */
  readonly writes?: number;
  /** told after each frame written */
  readonly onFrame?: (done: number, total: number) => void;
}

/** How a film's picture is encoded; the benchmark against ffmpeg alone uses the same words. */
export const videoCodec = (preset: FilmPresetName): readonly string[] => [...FILM_PRESETS[preset].video, ...BT709_TAGS];

/** Nothing is done to the picture. */
const isPlain = ({ camera, veils, bars, titles }: Dressing): boolean =>
  !camera && veils.length === 0 && bars.length === 0 && titles.length === 0;

/** Starts decoding what a run needs, from its lowest source frame to its highest. */
function openRun(montage: Montage, run: PictureRun, sources: FilmSources, signal?: AbortSignal): OpenRun {
  const { item } = run;
  const { width, height } = montage.shape;
  const picture = frameOnScreen(item, item.size, montage.shape);
  const raw = ['-an', '-sn', '-f', 'rawvideo', '-pix_fmt', 'yuv420p', 'pipe:1'];
  const path = sources.picturePath(item.assetId);
  const video = sources.video(item.assetId);
  const frames = run.wants.flat();
  let first = 0;
  let args: string[];
  if (item.kind === 'photo' || !video) {
    const colours = 'scale=in_range=full:out_range=tv:in_color_matrix=bt601:out_color_matrix=bt709';
    args = ['-v', 'error', ...HOSTILE_INPUT, '-i', path, '-frames:v', '1', '-vf', [colours, ...picture].join(','), ...raw];
  } else {
    first = frames.reduce((least, n) => Math.min(least, n), Infinity);
    const last = frames.reduce((most, n) => Math.max(most, n), 0);
    const cut = [`trim=start_pts=${first}:end_pts=${last + 1}`, 'setpts=PTS-STARTPTS'];
    args = [
      '-v',
      'error',
      ...HOSTILE_INPUT,
      ...openBefore(path, video, first),
      '-map',
      '0:v:0',
      '-vf',
      [...countFrames(video, 'before'), ...cut, ...squarePixels(video), ...picture].join(','),
      '-frames:v',
      String(last - first + 1),
      ...raw,
    ];
  }
  return { reader: new FrameReader(start('ffmpeg', args, { signal }), (width * height * 3) / 2), first };
}

/**
 * Renders a montage to a file. Which source frame is seen in which frame of the film comes from core,
 * one by one, so every cut lies where the score says. Pictures are cropped and scaled by ffmpeg, which is faster than
 * painting them; those that are mixed or dressed are put together in a thread of their own. The next run is opened while the
 * present one is read.
 * @throws MediaProgramError, CancelledError; an unfinished file is removed
 */
export function renderFilm(montage: Montage, sources: FilmSources, to: string, options: FilmOptions = {}): Promise<void> {
  return makeWhole(to, async (unfinished) => {
    await writeFilm(montage, sources, unfinished, options);
    const { frames } = scoreOf(montage);
    const written = await countPackets(unfinished, options.signal);
    if (written !== frames) throw new MediaProgramError(`the film came out with ${written} frames in place of ${frames}`);
  });
}

/** How many pictures lie in a film, counted one by one. */
async function countPackets(path: string, signal?: AbortSignal): Promise<number> {
  const wanted = ['-count_packets', '-select_streams', 'v:0', '-show_entries', 'stream=nb_read_packets', '-of', 'csv=p=0'];
  return Number((await run('ffprobe', ['-v', 'error', ...HOSTILE_INPUT, ...wanted, path], { signal })).toString().trim());
}

async function writeFilm(montage: Montage, sources: FilmSources, to: string, options: FilmOptions): Promise<void> {
  const { signal, onFrame, preset = DEFAULT_PRESET } = options;
  const score = scoreOf(montage);
  const { width, height, rate } = montage.shape;
  const mix = `${to}.mix.wav`;
  const composer = new FrameComposer({ width, height });
  try {
    await renderMix(mixPlan(montage), frameTime(score.frames, rate), sources.soundPath, mix, signal);
    if (signal?.aborted) throw new CancelledError();
    const encoder = start(
      'ffmpeg',
      [
        '-v',
        'error',
        '-y',
        '-f',
        'rawvideo',
        '-pix_fmt',
        'yuv420p',
        '-s',
        `${width}x${height}`,
        '-r',
        `${rate.num}/${rate.den}`,
        '-i',
        'pipe:0',
        '-i',
        mix,
        '-map',
        '0:v',
        '-map',
        '1:a',
        ...videoCodec(preset),
        ...FILM_PRESETS[preset].sound,
        '-video_track_timescale',
        String(rate.num),
        ...FILM_PRESETS[preset].containerOptions,
        '-f',
        FILM_PRESETS[preset].container,
        to,
      ],
      // It reads our own frames, and of large ones keeps many.
      { signal, input: 'open', memory: null, ...(options.writes === undefined ? {} : { writes: options.writes }) },
    );
    const toEncoder = encoder.stdin!;
    let said = '';
    let broken = false;
    encoder.stderr!.on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(-2000)));
    toEncoder.on('error', () => (broken = true)); // its reason comes on standard error
    encoder.stdout!.resume();
    const closed = once(encoder, 'close') as Promise<[number | null, NodeJS.Signals | null]>;
    let done = 0;
    let ended = false;
    void closed.then(() => (ended = true)).catch(() => (ended = true));
    const write = async (frame: Uint8Array): Promise<void> => {
      if (!toEncoder.write(frame) && !ended) await Promise.race([once(toEncoder, 'drain'), closed]);
      onFrame?.(++done, score.frames);
    };

    const black = blackPicture({ width, height });
    for (const plan of filmPlans(montage)) {
      const pictures = new PlannedPictures(plan, (run) => openRun(montage, run, sources, signal));
      try {
        for (const [n, { layers, list }] of plan.frames.entries()) {
          if (signal?.aborted) throw new CancelledError();
          if (broken || ended) break;
          const seen = await pictures.of(layers);
          const [only] = seen;
          const whole = isPlain(list) && seen.length < 2 && (!only || only.opacity >= 1);
          const { camera, veils, bars, titles } = list;
          await write(whole ? (only?.picture ?? black) : await composer.compose(seen, { camera, veils, bars, titles }));
          pictures.passed(n);
        }
      } finally {
        pictures.close();
      }
    }
    toEncoder.end();
    const [code, signalled] = await closed;
    if (signal?.aborted) throw new CancelledError();
    if (signalled === 'SIGXFSZ') throw new MediaProgramError('the film grew larger than there is room for', 'No space left on device');
    if (code !== 0) throw failureOf(said, 'the film could not be encoded');
  } catch (error) {
    if (signal?.aborted) throw new CancelledError();
    throw error;
  } finally {
    await composer.close();
    await rm(mix, { force: true });
  }
}
