import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { rename, rm } from 'node:fs/promises';
import { frameTime, mixPlan, scoreOf, type Montage } from '@bluster/core';
import { BT709_TAGS, countFrames, frameOnScreen, openBefore, squarePixels } from '../media/frame-filters.ts';
import type { MediaProbe } from '../media/probe.ts';
import { programPath } from '../media/programs.ts';
import { CancelledError, HOSTILE_INPUT, MediaProgramError, start } from '../media/run.ts';
import { FrameReader } from './frame-reader.ts';
import { renderMix, type SoundPath } from './mix.ts';
import { pictureRuns, type PictureRun } from './picture-runs.ts';
import { RunFrames, mixPictures, type OpenRun } from './run-frames.ts';

/** Where a film's material lies. */
export interface FilmSources {
  /** the original clip, or the upright copy of a photo */
  readonly picturePath: (assetId: string) => string;
  /** what the clip's original is; null for photos */
  readonly video: (assetId: string) => MediaProbe['video'];
  readonly soundPath: SoundPath;
}

export interface FilmOptions {
  readonly signal?: AbortSignal | undefined;
  /** told after each frame written */
  readonly onFrame?: (done: number, total: number) => void;
}

/** How films are encoded; the benchmark against ffmpeg alone uses the same words. */
export const FILM_VIDEO_CODEC = ['-c:v', 'libx264', '-preset', 'medium', '-crf', '19', '-pix_fmt', 'yuv420p', ...BT709_TAGS] as const;
const FILM_SOUND_CODEC = ['-c:a', 'aac', '-b:a', '192k'] as const;

function blackFrame(width: number, height: number): Buffer {
  const frame = Buffer.alloc((width * height * 3) / 2, 128);
  frame.fill(16, 0, width * height);
  return frame;
}

/** Starts decoding what a run needs, from its lowest source frame to its highest. */
function openRun(montage: Montage, run: PictureRun, sources: FilmSources, signal?: AbortSignal): OpenRun | null {
  const { item } = run;
  if (!item) return null;
  const { width, height } = montage.shape;
  const picture = frameOnScreen(item, item.size, montage.shape);
  const raw = ['-an', '-sn', '-f', 'rawvideo', '-pix_fmt', 'yuv420p', 'pipe:1'];
  const path = sources.picturePath(item.assetId);
  const video = sources.video(item.assetId);
  const frames = run.wants.flatMap((w) => (w.mixed ? [w.source, w.mixed.source] : [w.source]));
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
  return { reader: new FrameReader(start('ffmpeg', args, signal), (width * height * 3) / 2), first };
}

/**
 * Renders a montage to an MP4 file (H.264, AAC). Which source frame is seen in which frame of the film comes from core,
 * one by one, so every cut lies where the score says. Pictures are cropped and scaled by ffmpeg, which is faster than
 * painting them; the next run is opened while the present one is read.
 * @throws MediaProgramError, CancelledError; an unfinished file is removed
 */
export async function renderFilm(montage: Montage, sources: FilmSources, to: string, options: FilmOptions = {}): Promise<void> {
  const { signal, onFrame } = options;
  const score = scoreOf(montage);
  const { width, height, rate } = montage.shape;
  const mix = `${to}.mix.wav`;
  const unfinished = `${to}.part`;
  const opened: (OpenRun | null)[] = [];
  try {
    await renderMix(mixPlan(montage), frameTime(score.frames, rate), sources.soundPath, mix, signal);
    if (signal?.aborted) throw new CancelledError();
    const encoder = spawn(
      programPath('ffmpeg'),
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
        ...FILM_VIDEO_CODEC,
        ...FILM_SOUND_CODEC,
        '-video_track_timescale',
        String(rate.num),
        '-movflags',
        '+faststart',
        '-f',
        'mp4',
        unfinished,
      ],
      { stdio: ['pipe', 'ignore', 'pipe'] },
    );
    let said = '';
    let broken = false;
    encoder.stderr.on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(-2000)));
    encoder.stdin.on('error', () => (broken = true)); // its reason comes on standard error
    const stop = (): void => void encoder.kill('SIGKILL');
    signal?.addEventListener('abort', stop, { once: true });
    const closed = once(encoder, 'close') as Promise<[number | null]>;
    let done = 0;
    let ended = false;
    void closed.then(() => (ended = true)).catch(() => (ended = true));
    const write = async (frame: Buffer): Promise<void> => {
      if (!encoder.stdin.write(frame) && !ended) await Promise.race([once(encoder.stdin, 'drain'), closed]);
      onFrame?.(++done, score.frames);
    };

    const black = blackFrame(width, height);
    const runs = pictureRuns(montage);
    const openNext = (i: number): void => {
      if (runs[i]) opened.push(openRun(montage, runs[i], sources, signal));
    };
    openNext(0);
    for (const [i, run] of runs.entries()) {
      openNext(i + 1);
      const now = opened[i];
      const frames = now ? new RunFrames(now, run.order) : null;
      for (const { source, mixed } of run.wants) {
        if (signal?.aborted) throw new CancelledError();
        if (broken || ended) break;
        const below = frames && (await frames.frame(source));
        const above = frames && mixed && (await frames.frame(mixed.source));
        await write(below && above && mixed ? mixPictures(below, above, mixed.part) : (below ?? black));
      }
      now?.reader.close();
    }
    encoder.stdin.end();
    const [code] = await closed;
    signal?.removeEventListener('abort', stop);
    if (signal?.aborted) throw new CancelledError();
    if (code !== 0)
      throw new MediaProgramError(
        said
          .trim()
          .split('\n')
          .at(-1)
          ?.replace(/\/\S*\//g, '') || 'the film could not be encoded',
      );
    await rename(unfinished, to);
  } catch (error) {
    if (signal?.aborted) throw new CancelledError();
    throw error;
  } finally {
    for (const run of opened) run?.reader.close();
    await rm(mix, { force: true });
    await rm(unfinished, { force: true });
  }
}
