/** How a film is written: a preset is one file here and one line in `all.ts`. Options are ffmpeg's own words. */
export interface FilmPreset {
  readonly title: string;
  /** of the file's name, without the point */
  readonly ending: string;
  /** MIME type */
  readonly type: string;
  readonly video: readonly string[];
  readonly sound: readonly string[];
  /** the container, as `-f` takes it, and its options */
  readonly container: string;
  readonly containerOptions: readonly string[];
}

/** Defines a preset. */
export function filmPreset(preset: FilmPreset): FilmPreset {
  return preset;
}
