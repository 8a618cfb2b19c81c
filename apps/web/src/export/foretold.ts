import { askedFilm, filmPresetNamed, foretell, isRefusal, qualityOf, type FilmWish, type Foretold, type Montage } from '@bluster/core';
import type { JobAnswer } from '@bluster/wire';

/** What films on this computer, of this montage, took: against what is reckoned. */
export interface Experience {
  /** seconds a megapixel of the usual film */
  readonly pace: number;
  /** bytes against those foretold */
  readonly size: number;
}

/** Where nothing was made yet. */
const NONE: Experience = { pace: 0.06, size: 1 };
/** Smaller films say little of others: beginning and ending them takes most of their time. Pixels of all their frames. */
const TELLING_PIXELS = 300e6;

/** What the last film that was made teaches. */
export function experienceOf(jobs: readonly JobAnswer[]): Experience {
  for (const { state, startedAt, endedAt, wish, result } of jobs) {
    if (state !== 'done' || !startedAt || !endedAt || !wish?.preset || !result?.width || !result.height || !result.bytes) continue;
    const preset = filmPresetNamed(wish.preset);
    const pixels = result.width * result.height * result.frames;
    if (preset.holds !== 'film' || pixels < TELLING_PIXELS) continue;
    const bits = preset.bits[qualityOf(preset, wish.quality)] ?? 0;
    const reckoned = (pixels * bits) / 8 + preset.soundBytes * (result.seconds ?? 0);
    return { pace: (endedAt - startedAt) / 1000 / ((pixels * preset.effort) / 1e6), size: result.bytes / reckoned };
  }
  return NONE;
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
