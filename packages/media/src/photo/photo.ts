import readExif from 'exif-reader';
import { open } from 'node:fs/promises';
import sharp, { type Sharp } from 'sharp';
import { decodeHeic } from './heic.ts';
import { PHOTO_HEAD_BYTES, photoKind, type PhotoKind } from './photo-kind.ts';
import { UnusableMediaError } from '../probe/probe.ts';

/** The largest photo taken, pixels in all. */
const MOST_PIXELS = 180_000_000;
/** Photos are kept upright at this size at most, for the preview and the film alike. */
const LONGEST_SIDE = 4096;
/** What is seen through the transparent parts of a photo. */
const GROUND = '#000000';
/** The picture in which the eye's first place is looked for, pixels. */
const ATTENTION_SIDE = 512;

/** What a file's first bytes say of it: a photo of which kind, or none. */
export async function photoKindOf(path: string): Promise<PhotoKind | null> {
  const file = await open(path, 'r');
  try {
    const head = Buffer.alloc(PHOTO_HEAD_BYTES);
    await file.read(head, 0, head.length, 0);
    return photoKind(head);
  } finally {
    await file.close();
  }
}

const unreadable = (name: string): UnusableMediaError =>
  new UnusableMediaError(
    `"${name}" cannot be read as a photo; it may be damaged. Choose a JPG, PNG, WebP, AVIF, TIFF or HEIC picture, or save it anew.`,
  );

/**
 * How large a photo is before it is turned upright, pixels, and how many pictures it has.
 * @throws UnusableMediaError when it is damaged or too large
 */
export async function photoSize(path: string, name: string): Promise<{ width: number; height: number; pictures: number }> {
  const { width, pageHeight, height, pages } = await sharp(path, { limitInputPixels: false })
    .metadata()
    .catch(() => {
      throw unreadable(name);
    });
  if (width * height > MOST_PIXELS)
    throw new UnusableMediaError(
      `"${name}" is ${width} x ${height} pixels, more than Bluster takes (${MOST_PIXELS / 1e6} megapixels). Make a smaller copy of it.`,
    );
  return { width, height: pageHeight ?? height, pictures: pages ?? 1 };
}

async function opened(path: string): Promise<Sharp> {
  if ((await photoKindOf(path)) !== 'heic') return sharp(path, { limitInputPixels: MOST_PIXELS, failOn: 'error' }).rotate();
  const { width, height, bytes } = await decodeHeic(path);
  return sharp(bytes, { raw: { width, height, channels: 4 } });
}

/**
 * Makes the upright copy of a photo that is painted everywhere, and says how large it is.
 * @throws UnusableMediaError when it is no photo, damaged, or too large
 */
export async function preparePhoto(from: string, to: string, name: string): Promise<{ width: number; height: number }> {
  await photoSize(from, name);
  try {
    const info = await (
      await opened(from)
    )
      .resize(LONGEST_SIDE, LONGEST_SIDE, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: GROUND })
      .jpeg({ quality: 93, chromaSubsampling: '4:4:4' })
      .toFile(to);
    return { width: info.width, height: info.height };
  } catch {
    throw unreadable(name);
  }
}

/**
 * Where a photo draws the eye (luminance frequency, saturated colours and skin tones: the attention strategy of libvips), as
 * parts of its width and height.
 * @param path of the upright copy
 */
export async function photoFocus(path: string): Promise<{ x: number; y: number }> {
  const small = await sharp(path).resize(ATTENTION_SIDE, ATTENTION_SIDE, { fit: 'inside' }).toBuffer({ resolveWithObject: true });
  const { width, height } = small.info;
  // A crop is looked for in the picture scaled to three quarters, so that both ways have something to choose.
  const [across, down] = [Math.max(1, Math.round(width * 0.5)), Math.max(1, Math.round(height * 0.75))];
  const { info } = await sharp(small.data)
    .resize(across, down, { fit: 'cover', position: 'attention' })
    .toBuffer({ resolveWithObject: true });
  const part = (at: number | undefined, of: number): number =>
    at === undefined ? 0.5 : Math.round(1000 * Math.max(0, Math.min(1, at / (0.75 * of)))) / 1000;
  return { x: part(info.attentionX, width), y: part(info.attentionY, height) };
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
