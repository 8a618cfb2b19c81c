import type { Montage } from '@bluster/core';
import { countFrames, frameOnScreen, openBefore, squarePixels, wholePicture } from '../probe/frame-filters.ts';
import type { MediaProbe } from '../probe/probe.ts';
import { HOSTILE_INPUT, start } from '../program/run.ts';
import type { Decoder } from './decoders.ts';
import { FrameReader, type PictureReader } from './frame-reader.ts';
import type { PictureRun } from './picture-runs.ts';
import type { SharedFrames } from './shared-frames.ts';

/** Larger pictures than this are worth a second thread, pixels. */
const LARGE = 1920 * 1088;

/** Several decoders run side by side: threads that each of them adds cost memory, 34 MB at 1920x1080, and win no time. */
const threadsFor = ({ width, height }: { width: number; height: number }): string[] => ['-threads', width * height > LARGE ? '2' : '1'];

/** Where pictures lie. */
export interface PictureFiles {
  /** the original clip, or the upright copy of a photo */
  readonly picturePath: (assetId: string) => string;
  /** what the clip's original is; null for photos */
  readonly video: (assetId: string) => MediaProbe['video'];
}

/** The words for ffmpeg that decode what a run needs, from the first source frame of its decoder to the last. */
export function decoderWords({ shape }: Montage, run: PictureRun, { first, last }: Decoder, files: PictureFiles): string[] {
  const { item } = run;
  const picture = run.raster ? wholePicture(item.size, run.raster) : frameOnScreen(item, item.size, shape);
  const raw = ['-an', '-sn', '-f', 'rawvideo', '-pix_fmt', 'yuv420p', 'pipe:1'];
  const path = files.picturePath(item.assetId);
  const video = files.video(item.assetId);
  if (item.kind === 'photo' || !video) {
    const colours = 'scale=in_range=full:out_range=tv:in_color_matrix=bt601:out_color_matrix=bt709';
    return ['-v', 'error', ...HOSTILE_INPUT, '-i', path, '-frames:v', '1', '-vf', [colours, ...picture].join(','), ...raw];
  }
  const cut = [`trim=start_pts=${first}:end_pts=${last + 1}`, 'setpts=PTS-STARTPTS'];
  return [
    '-v',
    'error',
    ...HOSTILE_INPUT,
    ...threadsFor(video),
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

/** Starts decoding what a run needs. */
export function openDecoder(
  montage: Montage,
  run: PictureRun,
  decoder: Decoder,
  files: PictureFiles,
  room: SharedFrames,
  signal?: AbortSignal,
): PictureReader {
  const { width, height } = run.raster ?? montage.shape;
  const words = decoderWords(montage, run, decoder, files);
  return new FrameReader(start('ffmpeg', words, { signal }), (width * height * 3) / 2, room);
}
