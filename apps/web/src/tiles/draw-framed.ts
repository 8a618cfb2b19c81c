import type { FilmFrame } from './film-frame.ts';

/** How a frame of the film lies in a place of another shape: cropped to it, or whole with ground beside it. */
export type Within = 'cover' | 'contain';

/** The film's own ground, and what lies beside a frame that is shown whole. */
const BLACK = '#000000';
const BESIDE = '#11181f';

/** Draws what the film shows of a picture into a place. Pixels of the canvas; the picture may be of any size. */
export function drawFramed(
  c: CanvasRenderingContext2D,
  picture: ImageBitmap,
  { source, target, size, screen }: FilmFrame,
  place: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  within: Within,
): void {
  const scales = [place.width / screen.width, place.height / screen.height] as const;
  const scale = within === 'cover' ? Math.max(...scales) : Math.min(...scales);
  const left = place.x + (place.width - screen.width * scale) / 2;
  const top = place.y + (place.height - screen.height * scale) / 2;
  const [across, down] = [picture.width / size.width, picture.height / size.height];
  c.save();
  c.beginPath();
  c.rect(place.x, place.y, place.width, place.height);
  c.clip();
  c.fillStyle = BESIDE;
  c.fillRect(place.x, place.y, place.width, place.height);
  c.fillStyle = BLACK;
  c.fillRect(left, top, screen.width * scale, screen.height * scale);
  c.drawImage(
    picture,
    source.x * across,
    source.y * down,
    source.width * across,
    source.height * down,
    left + target.x * scale,
    top + target.y * scale,
    target.width * scale,
    target.height * scale,
  );
  c.restore();
}
