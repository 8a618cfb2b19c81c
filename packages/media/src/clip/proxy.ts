import { framesPerSecond } from '@bluster/core/time/rate';
import { BT709_TAGS, countFrames, squarePixels } from '../probe/frame-filters.ts';
import { fitWithin } from './picture-size.ts';
import type { MediaProbe } from '../probe/probe.ts';
import { HOSTILE_INPUT, MediaProgramError, PROGRESS_ARGS, run, type RunOptions } from '../program/run.ts';

/** Proxies fit the screen of the preview. */
const PROXY_BOX = { width: 960, height: 960 };

/**
 * Makes a clip's proxy: H.264 with a keyframe every half second and no B-frames, so that any frame is near, at the clip's
 * own rate counted from its first frame.
 * @returns how many frames the clip really has
 */
export async function makeProxy(from: string, proxyTo: string, media: MediaProbe, options: RunOptions): Promise<number> {
  const video = media.video!;
  const proxy = fitWithin(video.width, video.height, PROXY_BOX);
  const fps = framesPerSecond(video.rate);
  const filters = [...countFrames(video, 'at-start'), ...squarePixels(video, proxy)];
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
      '-map',
      '0:v:0',
      '-vf',
      filters.join(','),
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
    ],
    options,
  );
  const wanted = ['-count_packets', '-select_streams', 'v:0', '-show_entries', 'stream=nb_frames,nb_read_packets', '-of', 'csv=p=0'];
  const counted = (await run('ffprobe', [...HOSTILE_INPUT, '-v', 'error', ...wanted, proxyTo], { signal: options.signal })).toString();
  const [frames, found] = counted.trim().split(',').map(Number) as [number, number];
  if (!(frames >= 1)) throw new MediaProgramError('it has no frame that can be decoded');
  if (found !== frames) throw new MediaProgramError(`its preview came out with ${found} frames in place of ${frames}`);
  return frames;
}
