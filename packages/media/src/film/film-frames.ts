import { tableNamed, type Montage } from '@bluster/core';
import { CancelledError } from '../program/run.ts';
import { ahead } from './ahead.ts';
import { blackPicture, type ComposedLayer, type Cubes, type Dressing } from './compose-frame.ts';
import { FrameComposer } from './frame-composer.ts';
import { openDecoder, type PictureFiles } from './open-decoder.ts';
import { filmPlans } from './picture-runs.ts';
import { PlannedPictures } from './planned-pictures.ts';
import { SharedFrames } from './shared-frames.ts';
import type { FaceFiles } from './title-faces.ts';

/** Where the pictures of a film lie, and what its titles are written with. */
export interface PictureSources extends PictureFiles {
  /** of each typeface of the montage's own; where left out, the plain one stands in */
  readonly faces?: FaceFiles;
}

/** Who puts frames together. */
type Composer = Pick<FrameComposer, 'compose'>;

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

/** Which frames of a montage, and who puts them together: a thread of its own, unless another one is lent. */
interface Stretch {
  readonly from: number;
  /** the first frame after them */
  readonly to: number;
  readonly signal?: AbortSignal | undefined;
  readonly composer?: Composer;
  /** where frames come from; whoever gives back those that are used up has them used again */
  readonly frames?: SharedFrames;
  /** who starts decoding */
  readonly open?: typeof openDecoder;
}

/** A frame that is being put together. */
interface Started {
  readonly frame: Promise<Uint8Array>;
}

/** Frames made ahead of those that are asked for: while one is put together, the pictures of the next are read. */
const FRAMES_AHEAD = 2;

/**
 * The frames of a film one after the other, as planes of video. Pictures are cropped and scaled by ffmpeg, which is faster than painting
 * them; those that are mixed, moved or dressed are put together in a thread of their own. The next decoder is opened while the present one
 * is read.
 * @throws MediaProgramError, CancelledError
 */
export async function* filmFrames(montage: Montage, sources: PictureSources, stretch: Stretch): AsyncGenerator<Uint8Array> {
  const { shape } = montage;
  const thread = stretch.composer ? null : new FrameComposer(shape, { cubes: cubesOf(montage), faces: sources.faces ?? {} });
  try {
    for await (const { frame } of ahead(startedFrames(montage, sources, stretch, stretch.composer ?? thread!), FRAMES_AHEAD))
      yield await frame;
  } finally {
    await thread?.close();
  }
}

/** Keeps the pictures that a frame is put together from until it is, or has failed. */
function holdUntil(frame: Promise<Uint8Array>, layers: readonly ComposedLayer[], frames: SharedFrames): void {
  const held = layers.flatMap(({ pictures }) => pictures.flatMap(({ picture }) => (picture ? [picture] : [])));
  for (const picture of held) frames.share(picture);
  const giveBack = (): void => held.forEach((picture) => frames.giveBack(picture));
  // What went wrong is told to whoever waits for the frame.
  void frame.then(giveBack, giveBack);
}

async function* startedFrames(
  montage: Montage,
  sources: PictureSources,
  { from, to, signal, frames = new SharedFrames(), open = openDecoder }: Stretch,
  composer: Composer,
): AsyncGenerator<Started> {
  const { width, height } = montage.shape;
  const black = blackPicture({ width, height });
  for (const plan of filmPlans(montage, from, to)) {
    const pictures = new PlannedPictures(
      plan,
      { width, height },
      (run, decoder) => open(montage, run, decoder, sources, frames, signal),
      (frame) => frames.giveBack(frame),
    );
    try {
      for (const [n, { layers, list }] of plan.frames.entries()) {
        if (signal?.aborted) throw new CancelledError();
        const { width: _w, height: _h, ground: _g, layers: drawn, ...dressing } = list;
        const composed: ComposedLayer[] = [];
        for (const [k, { shotId: _s, pictures: _p, ...layer }] of drawn.entries())
          composed.push({ ...layer, pictures: await pictures.of(layers[k]!) });
        const bare = isPlain(dressing) && composed.length < 2;
        const plain = !bare ? null : composed[0] ? plainPicture(composed[0]) : black;
        const frame = plain ? Promise.resolve(plain) : composer.compose(composed, dressing, frames.lend((width * height * 3) / 2));
        // A picture that is a frame by itself is needed by whoever takes the frame; the others until the frame is put together, by when
        // those who read them may have gone on.
        if (plain) frames.share(plain);
        else holdUntil(frame, composed, frames);
        yield { frame };
        pictures.passed(n);
      }
    } finally {
      pictures.close();
    }
  }
}
