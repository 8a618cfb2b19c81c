import { once } from 'node:events';
import { rm } from 'node:fs/promises';
import { DEFAULT_PRESET, FILM_PRESETS, frameTime, mixPlan, scoreOf, type FilmPresetName, type Loudness, type Montage } from '@bluster/core';
import { BT709_TAGS } from '../probe/frame-filters.ts';
import { CancelledError, HOSTILE_INPUT, MediaProgramError, run, start } from '../program/run.ts';
import { failureOf } from '../program/media-program-error.ts';
import { makeWhole } from '../program/whole-file.ts';
import { ahead } from './ahead.ts';
import { filmFrames, type PictureSources } from './film-frames.ts';
import { renderMix, type SoundPath } from './mix.ts';
import { SharedFrames } from './shared-frames.ts';

/** Where a film's material lies. */
export interface FilmSources extends PictureSources {
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

/** Frames that are made while the encoder is busy with those before them. */
const FRAMES_AHEAD = 4;

/** How a film's picture is encoded; the benchmark against ffmpeg alone uses the same words. */
export const videoCodec = (preset: FilmPresetName): readonly string[] => [...FILM_PRESETS[preset].video, ...BT709_TAGS];

/**
 * Renders a montage to a file. Which source frame is seen in which frame of the film comes from core,
 * one by one, so every cut lies where the score says.
 * @returns how loud it is
 * @throws MediaProgramError, CancelledError; an unfinished file is removed
 */
export function renderFilm(montage: Montage, sources: FilmSources, to: string, options: FilmOptions = {}): Promise<Loudness> {
  return makeWhole(to, async (unfinished) => {
    const loudness = await writeFilm(montage, sources, unfinished, options);
    const { frames } = scoreOf(montage);
    const written = await countPackets(unfinished, options.signal);
    if (written !== frames) throw new MediaProgramError(`the film came out with ${written} frames in place of ${frames}`);
    return loudness;
  });
}

/** How many pictures lie in a film, counted one by one. */
async function countPackets(path: string, signal?: AbortSignal): Promise<number> {
  const wanted = ['-count_packets', '-select_streams', 'v:0', '-show_entries', 'stream=nb_read_packets', '-of', 'csv=p=0'];
  return Number((await run('ffprobe', ['-v', 'error', ...HOSTILE_INPUT, ...wanted, path], { signal })).toString().trim());
}

async function writeFilm(montage: Montage, sources: FilmSources, to: string, options: FilmOptions): Promise<Loudness> {
  const { signal, onFrame, preset = DEFAULT_PRESET } = options;
  const score = scoreOf(montage);
  const { width, height, rate } = montage.shape;
  const mix = `${to}.mix.wav`;
  try {
    const { loudness } = await renderMix(mixPlan(montage), frameTime(score.frames, rate), sources.soundPath, mix, signal);
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
    const frames = new SharedFrames();
    let done = 0;
    let ended = false;
    void closed.then(() => (ended = true)).catch(() => (ended = true));
    const write = async (frame: Uint8Array): Promise<void> => {
      if (!toEncoder.write(frame, () => frames.giveBack(frame)) && !ended) await Promise.race([once(toEncoder, 'drain'), closed]);
      onFrame?.(++done, score.frames);
    };

    for await (const frame of ahead(filmFrames(montage, sources, { from: 0, to: score.frames, signal, frames }), FRAMES_AHEAD)) {
      if (broken || ended) break;
      await write(frame);
    }
    toEncoder.end();
    const [code, signalled] = await closed;
    if (signal?.aborted) throw new CancelledError();
    if (signalled === 'SIGXFSZ') throw new MediaProgramError('the film grew larger than there is room for', 'No space left on device');
    if (code !== 0) throw failureOf(said, 'the film could not be encoded');
    return loudness;
  } catch (error) {
    if (signal?.aborted) throw new CancelledError();
    throw error;
  } finally {
    await rm(mix, { force: true });
  }
}
