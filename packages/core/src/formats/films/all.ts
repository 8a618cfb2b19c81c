import { h264 } from './h264.ts';

/** Every way to write a film, in the order in which they are offered. */
export const FILM_PRESETS = { h264 };

export type FilmPresetName = keyof typeof FILM_PRESETS;
/** What is made where nothing is asked for. */
export const DEFAULT_PRESET: FilmPresetName = 'h264';
