import { frame, type FootageItem, type Framed, type Framing } from '@bluster/core';

/** How a piece of footage stands in the film's frame. */
export interface FilmFrame extends Framed {
  /** of the footage, pixels */
  readonly size: { readonly width: number; readonly height: number };
  readonly screen: { readonly width: number; readonly height: number };
}

const kept = new Map<string, FilmFrame>();
const MOST_KEPT = 2000;

/** What the film shows of a piece of footage. The same object for the same question, so that nothing is painted anew. */
export function filmFrame(
  { width, height, focus, framing: own }: Pick<FootageItem, 'width' | 'height' | 'focus' | 'framing'>,
  screen: { readonly width: number; readonly height: number },
  framing: Framing = own,
): FilmFrame {
  const key = [width, height, focus.x, focus.y, screen.width, screen.height, framing].join();
  let found = kept.get(key);
  if (!found) {
    if (kept.size >= MOST_KEPT) kept.clear();
    kept.set(key, (found = { ...frame(width, height, screen, framing, focus), size: { width, height }, screen }));
  }
  return found;
}
