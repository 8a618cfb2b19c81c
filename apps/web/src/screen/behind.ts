import type { ToPicture } from './messages.ts';

let ask: ((message: ToPicture) => void) | null = null;
const waiting = new Map<number, ((pixels: ImageData | null) => void)[]>();

/** The screen that is there answers; it says so when it comes. */
export function answersBehind(tell: (message: ToPicture) => void): void {
  ask = tell;
  waiting.clear();
}

/** What a screen answered. */
export function behindCame(frame: number, pixels: ImageData | null): void {
  for (const give of waiting.get(frame) ?? []) give(pixels);
  waiting.delete(frame);
}

/** What lies behind the titles of a frame of the montage, small; null where it cannot be seen yet. */
export function behindTitles(frame: number): Promise<ImageData | null> {
  if (!ask) return Promise.resolve(null);
  const tell = ask;
  return new Promise((resolve) => {
    const others = waiting.get(frame);
    waiting.set(frame, [...(others ?? []), resolve]);
    if (!others) tell({ do: 'behind', frame });
  });
}
