import { pixelsOfVideo, type PaintImage, type PlaneLayout } from '@bluster/painter';
import type { VideoSample } from 'mediabunny';

/** A frame in planes of its own. */
interface Planes {
  readonly bytes: Uint8Array;
  readonly layout: readonly [PlaneLayout, PlaneLayout, PlaneLayout];
  readonly width: number;
  readonly height: number;
}

/**
 * A decoded frame. One that lies in memory is copied out of its decoder at once and turned into pixels here when it is painted: to draw a
 * frame of video, a worker waits for the page's own thread each time where there is no graphics card, and misses frames while that is busy.
 */
export interface Decoded {
  readonly planes: Planes | null;
  /** where it does not lie in memory, or is coded in another way */
  readonly sample: VideoSample | null;
}

/** Memory of frames that were let go. */
const spare: Uint8Array[] = [];
const MOST_SPARE = 12;

function roomFor(bytes: number): Uint8Array {
  const at = spare.findIndex(({ length }) => length === bytes);
  return at < 0 ? new Uint8Array(bytes) : spare.splice(at, 1)[0]!;
}

/** Takes a frame over from its decoder: the sample is closed, here or when the frame is let go. */
export async function decodedOf(sample: VideoSample): Promise<Decoded> {
  const frame = sample.toVideoFrame();
  try {
    const { format, colorSpace, visibleRect, displayWidth: width, displayHeight: height } = frame;
    const usual = format === 'I420' && colorSpace.matrix === 'bt709' && colorSpace.fullRange === false;
    if (!usual || visibleRect?.width !== width || visibleRect.height !== height) return { planes: null, sample };
    const bytes = roomFor(frame.allocationSize());
    const layout = await frame.copyTo(bytes).catch(() => null);
    // One that cannot be copied may still be drawn.
    if (!layout) return { planes: null, sample };
    const [luma, blue, red] = layout;
    sample.close();
    return { planes: { bytes, layout: [luma!, blue!, red!], width, height }, sample: null };
  } finally {
    frame.close();
  }
}

/** Lets a frame go. */
export function letGo({ planes, sample }: Decoded): void {
  sample?.close();
  if (!planes) return;
  // Those of another size, which nobody asks for any longer, go first.
  spare.push(planes.bytes);
  if (spare.length > MOST_SPARE) spare.shift();
}

/** A frame ready to paint, and how it is done with. */
export interface Opened {
  readonly picture: PaintImage<OffscreenCanvas | VideoFrame | ImageBitmap>;
  close: () => void;
}

/** Canvases for frames of video, those that are not in use. */
const free: { readonly canvas: OffscreenCanvas; readonly pixels: ImageData }[] = [];

export function openDecoded({ planes, sample }: Decoded): Opened {
  if (!planes) {
    const image = sample!.toVideoFrame();
    return { picture: { image, width: sample!.displayWidth, height: sample!.displayHeight }, close: () => image.close() };
  }
  const { bytes, layout, width, height } = planes;
  const at = free.findIndex(({ pixels }) => pixels.width === width && pixels.height === height);
  const one = at < 0 ? { canvas: new OffscreenCanvas(width, height), pixels: new ImageData(width, height) } : free.splice(at, 1)[0]!;
  pixelsOfVideo(bytes, layout, width, height, one.pixels.data);
  one.canvas.getContext('2d', { willReadFrequently: true })!.putImageData(one.pixels, 0, 0);
  const close = (): void => {
    free.push(one);
    if (free.length > MOST_SPARE) free.shift();
  };
  return { picture: { image: one.canvas, width, height }, close };
}
