/** The longer side of the small pictures that clips are looked at in, pixels. */
export const LOOK_SIDE = 128;

/** Size of a clip's small pictures: its own shape, sides a multiple of eight. */
export function lookSize(width: number, height: number): { width: number; height: number } {
  const scale = LOOK_SIDE / Math.max(width, height);
  const side = (v: number): number => Math.max(16, 8 * Math.round((v * scale) / 8));
  return { width: side(width), height: side(height) };
}

/** Bytes of one small picture: planar Y, U, V with colours at half size (4:2:0), 8 bits. */
export function lookBytes({ width, height }: { width: number; height: number }): number {
  return (width * height * 3) / 2;
}
