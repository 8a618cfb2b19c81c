import { framesPerSecond } from '../time/rate.ts';
import type { AskedFilm } from './film-wish.ts';

/** What a film will be like, about. */
export interface Foretold {
  readonly frames: number;
  /** of film */
  readonly seconds: number;
  readonly bytes: number;
  /** megapixels of all its frames in the usual way of writing: what the time goes by */
  readonly work: number;
}

/** Sound alone is as much work as so many megapixels a second. */
const SOUND_WORK = 0.2;

/** How large a film will be, about, and how much work it is against others. */
export function foretell({ montage, preset, quality, from, to }: AskedFilm): Foretold {
  const { width, height, rate } = montage.shape;
  const frames = to - from;
  const seconds = frames / framesPerSecond(rate);
  const pixels = preset.holds === 'sound' ? 0 : width * height * frames;
  return {
    frames,
    seconds,
    bytes: Math.round((pixels * (preset.bits[quality] ?? 0)) / 8 + preset.soundBytes * seconds),
    work: (pixels / 1e6) * preset.effort + SOUND_WORK * seconds,
  };
}
