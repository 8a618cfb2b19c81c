/** A size that fits into a box, upright, even numbers, never larger than it was. */
export function fitWithin(width: number, height: number, box: { width: number; height: number }): { width: number; height: number } {
  const scale = Math.min(1, box.width / width, box.height / height);
  const even = (v: number): number => Math.max(2, 2 * Math.round((v * scale) / 2));
  return { width: even(width), height: even(height) };
}
