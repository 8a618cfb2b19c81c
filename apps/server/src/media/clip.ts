import { framesPerSecond } from '@bluster/core';
import { BT709_TAGS, countFrames, squarePixels } from './frame-filters.ts';
import { fitWithin } from './picture-size.ts';
import type { MediaProbe } from './probe.ts';
import { HOSTILE_INPUT, MediaProgramError, PROGRESS_ARGS, run, type RunOptions } from './run.ts';

/** Proxies fit the screen of the preview. */
const PROXY_BOX = { width: 960, height: 960 };
/** The shorter side of a small picture. */
const STRIP_SIDE = 90;
/** A filmstrip's pictures lie in a row of rows this wide. */
export const STRIP_COLUMNS = 10;
const MOST_STRIP_PICTURES = 200;

/** A filmstrip: one picture holding small ones, left to right and down, evenly spaced in time. */
export interface Filmstrip {
  readonly pictures: number;
  readonly columns: number;
  /** of one small picture */
  readonly width: number;
  readonly height: number;
  /** seconds from one to the next */
  readonly every: number;
}

/**
 * Makes a clip's proxy: H.264 with a keyframe every half second and no B-frames, so that any frame is near, at the clip's
 * own rate counted from its first frame, and the filmstrip in the same run.
 * @returns the filmstrip's layout and how many frames the clip really has
 */
export async function prepareClip(
  from: string,
  proxyTo: string,
  stripTo: string,
  media: MediaProbe,
  options: RunOptions,
): Promise<{ strip: Filmstrip; frames: number }> {
  const video = media.video!;
  const proxy = fitWithin(video.width, video.height, PROXY_BOX);
  const wide = video.width >= video.height;
  const even = (v: number): number => Math.max(2, 2 * Math.round(v / 2));
  const small = {
    width: wide ? even((STRIP_SIDE * video.width) / video.height) : STRIP_SIDE,
    height: wide ? STRIP_SIDE : even((STRIP_SIDE * video.height) / video.width),
  };
  const fps = framesPerSecond(video.rate);
  const every = Math.max(0.25, media.length / MOST_STRIP_PICTURES);
  const pictures = Math.max(1, Math.ceil(media.length / every - 1e-6));
  const rows = Math.ceil(pictures / STRIP_COLUMNS);
  // For the strip every n-th frame is taken, then laid out in a grid.
  const step = Math.max(1, Math.round(every * fps));
  const graph = [
    `[0:v:0]${[...countFrames(video, 'at-start'), ...squarePixels(video), `scale=${proxy.width}:${proxy.height}:flags=bicubic`, 'format=yuv420p'].join(',')},split=2[proxy][more]`,
    `[more]select='not(mod(n\\,${step}))',scale=${small.width}:${small.height},tile=${STRIP_COLUMNS}x${rows}:color=black[strip]`,
  ].join(';');
  await run(
    'ffmpeg',
    [
      ...HOSTILE_INPUT,
      '-v',
      'error',
      '-y',
      ...PROGRESS_ARGS,
      '-i',
      from,
      '-filter_complex',
      graph,
      '-map',
      '[proxy]',
      '-an',
      '-c:v',
      'libx264',
      '-preset',
      'veryfast',
      '-crf',
      '21',
      ...BT709_TAGS,
      '-bf',
      '0',
      '-g',
      String(Math.max(1, Math.round(fps / 2))),
      '-keyint_min',
      '1',
      '-video_track_timescale',
      String(video.rate.num),
      '-movflags',
      '+faststart',
      '-map_metadata',
      '-1',
      '-f',
      'mp4',
      proxyTo,
      '-map',
      '[strip]',
      '-frames:v',
      '1',
      '-q:v',
      '4',
      '-f',
      'image2',
      '-update',
      '1',
      stripTo,
    ],
    options,
  );
  const counted = await run('ffprobe', [
    '-v',
    'error',
    '-select_streams',
    'v:0',
    '-show_entries',
    'stream=nb_frames',
    '-of',
    'csv=p=0',
    proxyTo,
  ]);
  const frames = Number(counted.toString().trim());
  if (!(frames >= 1)) throw new MediaProgramError('it has no frame that can be decoded');
  return { strip: { pictures: Math.min(pictures, Math.ceil(frames / step)), columns: STRIP_COLUMNS, ...small, every: step / fps }, frames };
}
