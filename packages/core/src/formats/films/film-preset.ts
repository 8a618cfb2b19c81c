/** How good a film is to be: the smaller, the more is lost. */
export const QUALITIES = ['small', 'good', 'best'] as const;
export type Quality = (typeof QUALITIES)[number];

/** What is in a file: picture and sound, pictures alone, one picture, or sound alone. */
export type Holds = 'film' | 'pictures' | 'picture' | 'sound';

/** How a film is written: a preset is one file here and one line in `all.ts`. Words are ffmpeg's own. */
export interface FilmPreset {
  /** a few letters for a chip */
  readonly title: string;
  /** what is in the file and what it is for, in a sentence */
  readonly says: string;
  /** of the file's name, without the point */
  readonly ending: string;
  /** MIME type */
  readonly type: string;
  readonly holds: Holds;
  /** the qualities there are to choose from, and how the picture is encoded for each; one where there is no choice */
  readonly video: Readonly<Partial<Record<Quality, readonly string[]>>>;
  readonly sound: readonly string[];
  /** How much earlier the container plays the sound than it was written, seconds: it is written so much later. */
  readonly soundEarly?: number;
  /** the container, as `-f` takes it, and its options */
  readonly container: string;
  readonly containerOptions: readonly string[];
  /** About how many bits a pixel of each frame takes; of sound alone none. For foretelling. */
  readonly bits: Readonly<Partial<Record<Quality, number>>>;
  /** Bytes of sound a second, about. */
  readonly soundBytes: number;
  /** About how long it takes against the usual way, which is 1. */
  readonly effort: number;
  /** What it is held to where it would grow out of hand: frames a second, pixels of its longer side, seconds. */
  readonly most?: { readonly rate: number; readonly side: number; readonly seconds: number };
}

/** Defines a preset. */
export function filmPreset(preset: FilmPreset): FilmPreset {
  return preset;
}

/** How a film's picture is encoded at each quality, where they differ by one number: ffmpeg's words before it, that number, and those after it. */
export function byNumber(
  before: readonly string[],
  numbers: Readonly<Record<Quality, number>>,
  after: readonly string[] = [],
): Record<Quality, readonly string[]> {
  const at = (quality: Quality): readonly string[] => [...before, String(numbers[quality]), ...after];
  return { small: at('small'), good: at('good'), best: at('best') };
}
