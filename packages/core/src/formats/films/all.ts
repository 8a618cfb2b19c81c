import { av1 } from './av1.ts';
import type { FilmPreset } from './film-preset.ts';
import { gif } from './gif.ts';
import { h264 } from './h264.ts';
import { h265 } from './h265.ts';
import { m4a } from './m4a.ts';
import { png } from './png.ts';
import { prores } from './prores.ts';
import { vp9 } from './vp9.ts';
import { wav } from './wav.ts';

/** Every way to write a film, in the order in which they are offered. */
export const FILM_PRESETS = { h264, h265, vp9, av1, prores, gif, png, wav, m4a } satisfies Record<string, FilmPreset>;

export type FilmPresetName = keyof typeof FILM_PRESETS;
/** What is made where nothing is asked for. */
export const DEFAULT_PRESET: FilmPresetName = 'h264';
/** A preset by its name. */
export const filmPresetNamed = (name: FilmPresetName): FilmPreset => FILM_PRESETS[name];
