import { askedFilm, filmPresetNamed, foretell, isRefusal, type FilmWish, type Foretold, type Montage } from '@bluster/core';
import type { JobAnswer } from '@bluster/wire';

/** Seconds that a megapixel of the usual film takes where nothing was made yet; and to begin and end one. */
const USUAL_PACE = 0.06;

/** How long a megapixel took on this computer, by the films that were made; seconds. */
export function paceOf(jobs: readonly JobAnswer[]): number {
  const made = jobs.find((job) => job.state === 'done' && job.startedAt && job.endedAt && job.wish?.preset && job.result?.width);
  const { width = 0, height = 0, frames = 0 } = made?.result ?? {};
  if (!made?.wish?.preset || frames < 100) return USUAL_PACE;
  const preset = filmPresetNamed(made.wish.preset);
  if (preset.holds !== 'film') return USUAL_PACE;
  return (made.endedAt! - made.startedAt!) / 1000 / ((width * height * frames * preset.effort) / 1e6);
}

/** What a film will be like, or why it cannot be made. */
export type Prospect = { readonly foretold: Foretold; readonly width: number; readonly height: number } | { readonly problem: string };

/** Looks at what is asked for before it is. */
export function prospectOf(montage: Montage, wish: FilmWish): Prospect {
  try {
    const asked = askedFilm(montage, wish);
    return { foretold: foretell(asked), width: asked.montage.shape.width, height: asked.montage.shape.height };
  } catch (error) {
    if (isRefusal(error)) return { problem: error.message };
    throw error;
  }
}

/**
 * A file's size in words.
 * @example
 * sizeInWords(11_800_000) // '11.8 MB'
 */
export function sizeInWords(bytes: number): string {
  if (bytes >= 1e9) return `${(bytes / 1e9).toFixed(1)} GB`;
  if (bytes >= 1e6) return `${(bytes / 1e6).toFixed(bytes < 2e7 ? 1 : 0)} MB`;
  return `${Math.max(1, Math.round(bytes / 1e3))} kB`;
}

/** A length of time in words. @param seconds of 0 and more */
export function timeInWords(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
  return `${Math.floor(seconds / 60)}:${String(Math.round(seconds) % 60).padStart(2, '0')} min`;
}
