import { rename, rm } from 'node:fs/promises';
import sharp from 'sharp';
import { countingRate, framesPerSecond } from '@bluster/core';
import { UnusableMediaError } from '../probe/probe.ts';
import { run } from '../program/run.ts';

/** All pictures of an animation together, pixels: they are held at once. */
const MOST_PIXELS = 130_000_000;
const LEAST_DELAY_MS = 10;
const USUAL_DELAY_MS = 100;

/** The pictures of an animation, one after the other, each as often as it is seen at a constant rate. */
function* repeated(all: Buffer, pictureBytes: number, times: readonly number[]): Generator<Buffer> {
  for (const [i, count] of times.entries()) for (let n = 0; n < count; n++) yield all.subarray(i * pictureBytes, (i + 1) * pictureBytes);
}

/**
 * An animated WebP becomes a film without loss (FFV1 in Matroska), since the programs that decode films cannot read it. Its
 * pictures stand for as long as it says. The film takes the file's place.
 * @throws UnusableMediaError where it is too large or damaged
 */
export async function unpackAnimation(path: string, name: string): Promise<void> {
  const film = `${path}.mkv`;
  try {
    const picture = sharp(path, { animated: true, limitInputPixels: MOST_PIXELS, failOn: 'error' });
    const { width, pageHeight: height = 0, pages = 1, delay = [] } = await picture.metadata();
    const starts = [0];
    for (let i = 0; i < pages; i++) starts.push(starts[i]! + Math.max(LEAST_DELAY_MS, delay[i] ?? USUAL_DELAY_MS) / 1000);
    const rate = countingRate(starts, { num: 10, den: 1 });
    const counts = starts.map((time) => Math.round(time * framesPerSecond(rate)));
    const times = counts.slice(1).map((count, i) => count - counts[i]!);
    const all = await picture.flatten({ background: '#000000' }).removeAlpha().raw().toBuffer();
    const read = ['-f', 'rawvideo', '-pix_fmt', 'rgb24', '-s', `${width}x${height}`, '-r', `${rate.num}/${rate.den}`, '-i', 'pipe:0'];
    const coded = ['-vf', 'scale=out_color_matrix=bt709:out_range=tv,format=yuv444p', '-colorspace', 'bt709', '-c:v', 'ffv1'];
    await run('ffmpeg', ['-v', 'error', '-y', ...read, ...coded, '-f', 'matroska', film], {
      input: repeated(all, width * height * 3, times),
    });
    await rename(film, path);
  } catch {
    throw new UnusableMediaError(
      `"${name}" is an animation that cannot be taken apart; it is damaged, or larger than ${MOST_PIXELS / 1e6} megapixels in all. Convert it to MP4.`,
    );
  } finally {
    await rm(film, { force: true });
  }
}
