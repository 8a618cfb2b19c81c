import readExif from 'exif-reader';
import sharp from 'sharp';
import { UnusableMediaError } from './probe.ts';

/** The largest photo taken, pixels in all. */
const MOST_PIXELS = 180_000_000;
/** Photos are kept upright at this size at most, for the preview and the film alike. */
const LONGEST_SIDE = 4096;

/**
 * Makes the upright copy of a photo that is painted everywhere, and says how large it is.
 * @throws UnusableMediaError when it is no photo, damaged, or too large
 */
export async function preparePhoto(from: string, to: string, name: string): Promise<{ width: number; height: number }> {
  try {
    const { width, height } = await sharp(from, { limitInputPixels: false }).metadata();
    if (width * height > MOST_PIXELS)
      throw new UnusableMediaError(
        `"${name}" is ${width} x ${height} pixels, more than Bluster takes (${MOST_PIXELS / 1e6} megapixels). Make a smaller copy of it.`,
      );
    const info = await sharp(from, { limitInputPixels: MOST_PIXELS, failOn: 'error' })
      .rotate()
      .resize(LONGEST_SIDE, LONGEST_SIDE, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#000000' })
      .jpeg({ quality: 93, chromaSubsampling: '4:4:4' })
      .toFile(to);
    return { width: info.width, height: info.height };
  } catch (error) {
    if (error instanceof UnusableMediaError) throw error;
    throw new UnusableMediaError(`"${name}" cannot be read as a photo; it may be damaged. Choose a JPG, PNG or WebP picture.`);
  }
}

/** When a photo's camera says it was taken, ms since 1970, by its EXIF data; null where it does not say. */
export async function photoTakenAt(path: string): Promise<number | null> {
  try {
    const { exif } = await sharp(path, { limitInputPixels: false }).metadata();
    const taken = exif && readExif(exif).Photo?.DateTimeOriginal;
    return taken instanceof Date && Number.isFinite(taken.getTime()) ? taken.getTime() : null;
  } catch {
    return null; // damaged EXIF data is no reason to refuse a photo
  }
}

/** A small picture of a photo for the shelf. */
export async function photoThumbnail(from: string, to: string, height: number): Promise<{ width: number; height: number }> {
  const info = await sharp(from).resize({ height }).jpeg({ quality: 80 }).toFile(to);
  return { width: info.width, height: info.height };
}

/** Whether a file starts like a photo in one of the formats taken. */
export function looksLikePhoto(head: Buffer): boolean {
  return (
    (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) ||
    head.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])) ||
    (head.toString('latin1', 0, 4) === 'RIFF' && head.toString('latin1', 8, 12) === 'WEBP')
  );
}
