import { tableNamed, type Montage } from '@bluster/core';
import { countFrames, frameOnScreen, openBefore, squarePixels, wholePicture } from '../probe/frame-filters.ts';
import type { MediaProbe } from '../probe/probe.ts';
import { CancelledError, HOSTILE_INPUT, start } from '../program/run.ts';
import { blackPicture, type ComposedLayer, type Cubes, type Dressing } from './compose-frame.ts';
import { FrameComposer } from './frame-composer.ts';
import { FrameReader } from './frame-reader.ts';
import { filmPlans, type PictureRun } from './picture-runs.ts';
import { PlannedPictures } from './planned-pictures.ts';
import type { OpenRun } from './run-frames.ts';
import type { FaceFiles } from './title-faces.ts';

/** Where the pictures of a film lie. */
export interface PictureSources {
  /** the original clip, or the upright copy of a photo */
  readonly picturePath: (assetId: string) => string;
  /** what the clip's original is; null for photos */
  readonly video: (assetId: string) => MediaProbe['video'];
  /** of each typeface of the montage's own; where left out, the plain one stands in */
  readonly faces?: FaceFiles;
}

/** Nothing is done to the picture. */
const isPlain = ({ camera, mirror, look, veils, bars, titles }: Dressing): boolean =>
  !camera && !mirror && !look && veils.length === 0 && bars.length === 0 && titles.length === 0;

/** The one picture of a layer that is seen as it came. */
function plainPicture({ pictures, opacity, camera, within, look }: ComposedLayer): Uint8Array | null {
  const [only] = pictures;
  const plain = pictures.length === 1 && !only!.placed && only!.opacity >= 1 && opacity >= 1 && !camera && !within && !look;
  return plain ? only!.picture : null;
}

/** The tables of colours of a montage, by their ids. */
const cubesOf = (montage: Montage): Cubes =>
  Object.fromEntries(
    montage.tables.flatMap(({ id }) => {
      const cube = tableNamed(montage, id);
      return cube ? [[id, cube] as const] : [];
    }),
  );

/** Starts decoding what a run needs, from its lowest source frame to its highest. */
function openRun(montage: Montage, run: PictureRun, sources: PictureSources, signal?: AbortSignal): OpenRun {
  const { item } = run;
  const { width, height } = run.raster ?? montage.shape;
  const picture = run.raster ? wholePicture(item.size, run.raster) : frameOnScreen(item, item.size, montage.shape);
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

/** Which frames of a montage, and who puts them together: a thread of its own, unless another one is lent. */
interface Stretch {
  readonly from: number;
  /** the first frame after them */
  readonly to: number;
  readonly signal?: AbortSignal | undefined;
  readonly composer?: Pick<FrameComposer, 'compose'>;
}

/**
 * The frames of a film one after the other, as planes of video. Pictures are cropped and scaled by ffmpeg, which is faster than painting
 * them; those that are mixed, moved or dressed are put together in a thread of their own. The next run is opened while the present one is
 * read.
 * @throws MediaProgramError, CancelledError
 */
export async function* filmFrames(
  montage: Montage,
  sources: PictureSources,
  { from, to, signal, composer }: Stretch,
): AsyncGenerator<Uint8Array> {
  const { width, height } = montage.shape;
  const thread = composer ? null : new FrameComposer({ width, height }, { cubes: cubesOf(montage), faces: sources.faces ?? {} });
  const { compose } = composer ?? { compose: thread!.compose.bind(thread) };
  const black = blackPicture({ width, height });
  try {
    for (const plan of filmPlans(montage, from, to)) {
      const pictures = new PlannedPictures(plan, { width, height }, (run) => openRun(montage, run, sources, signal));
      try {
        for (const [n, { layers, list }] of plan.frames.entries()) {
          if (signal?.aborted) throw new CancelledError();
          const { width: _w, height: _h, ground: _g, layers: drawn, ...dressing } = list;
          const composed: ComposedLayer[] = [];
          for (const [k, { shotId: _s, pictures: _p, ...layer }] of drawn.entries())
            composed.push({ ...layer, pictures: await pictures.of(layers[k]!) });
          const bare = isPlain(dressing) && composed.length < 2;
          const plain = !bare ? null : composed[0] ? plainPicture(composed[0]) : black;
          yield plain ?? (await compose(composed, dressing));
          pictures.passed(n);
        }
      } finally {
        pictures.close();
      }
    }
  } finally {
    await thread?.close();
  }
}
