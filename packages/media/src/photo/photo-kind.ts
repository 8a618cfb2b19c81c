/** The formats of photos that are taken. */
export type PhotoKind = 'jpeg' | 'png' | 'webp' | 'tiff' | 'avif' | 'heic';

/** How many bytes of a file's start are needed to tell. */
export const PHOTO_HEAD_BYTES = 32;

const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
/** Major brands of ISO base media files (ISO/IEC 14496-12) that hold HEVC pictures (ISO/IEC 23008-12). */
const HEIC_BRANDS = ['heic', 'heix', 'heim', 'heis', 'hevc', 'hevx', 'mif1', 'msf1'];

/** What kind of photo a file is by its first bytes; null where it is none. */
export function photoKind(head: Buffer): PhotoKind | null {
  const text = (from: number, to: number): string => head.toString('latin1', from, to);
  if (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) return 'jpeg';
  if (head.subarray(0, 8).equals(PNG)) return 'png';
  if (text(0, 4) === 'RIFF' && text(8, 12) === 'WEBP') return 'webp';
  if (text(0, 4) === 'II*\0' || text(0, 4) === 'MM\0*') return 'tiff';
  if (text(4, 8) !== 'ftyp') return null;
  const brands = [text(8, 12), text(16, 20), text(20, 24), text(24, 28)];
  if (brands.includes('avif') || brands.includes('avis')) return 'avif';
  return HEIC_BRANDS.includes(brands[0]!) ? 'heic' : null;
}
