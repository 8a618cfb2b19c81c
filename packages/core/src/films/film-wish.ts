import { frameAt, frameCount } from '../time/frames.ts';
import { framesPerSecond, type FrameRate } from '../time/rate.ts';
import { clock } from '../time/clock.ts';
import { Refusal } from '../refusal/refusal.ts';
import type { Montage } from '../document/montage.ts';
import { reshaped } from '../document/reshaped.ts';
import { DEFAULT_PRESET, filmPresetNamed, type FilmPresetName } from '../formats/films/all.ts';
import { QUALITIES, type FilmPreset, type Quality } from '../formats/films/film-preset.ts';
import { scoreOf } from '../score/score.ts';

/** A film that is asked for. What is left out is as the montage has it. */
export interface FilmWish {
  readonly preset: FilmPresetName;
  readonly quality?: Quality | undefined;
  /** pixels, even */
  readonly size?: { readonly width: number; readonly height: number } | undefined;
  readonly rate?: FrameRate | undefined;
  /** montage seconds; of a single picture where it begins */
  readonly stretch?: { readonly from: number; readonly to: number } | undefined;
  /** what its loudness is brought to, LUFS */
  readonly loudness?: number | undefined;
  /** what its file and the title in its tags are called; as the project where nothing is said */
  readonly name?: string | undefined;
}

/** A film as it is made: a montage in its shape, and which of that montage's frames. */
export interface AskedFilm {
  readonly montage: Montage;
  readonly preset: FilmPreset;
  readonly quality: Quality;
  readonly from: number;
  /** the first frame after them */
  readonly to: number;
  readonly loudness: number | null;
}

/** What is asked for where nothing is said. */
export const USUAL_WISH: FilmWish = { preset: DEFAULT_PRESET };
/** Loudness that films are brought to: from the quietest to the loudest, LUFS. */
export const LOUDNESS_TARGETS = { quietest: -30, loudest: -8 } as const;

/** The quality that is meant: the one asked for where the preset has it, else the middle one or the one there is. */
export function qualityOf(preset: FilmPreset, quality: Quality | undefined): Quality {
  const there = QUALITIES.filter((q) => preset.video[q]);
  return quality && there.includes(quality) ? quality : (there.find((q) => q === 'good') ?? 'good');
}

const even = (side: number): number => Math.max(16, 2 * Math.round(side / 2));

/**
 * The size of a film in a shape: its shorter side is the montage's, or as said.
 * @param shape width to height, as "9:16"; null for the montage's own
 * @param side pixels of the shorter side; null for the montage's
 * @throws Refusal where the shape is none
 * @example
 * sizeInShape('9:16', { width: 1280, height: 720 }, null) // { width: 720, height: 1280 }
 */
export function sizeInShape(
  shape: string | null,
  own: { readonly width: number; readonly height: number },
  side: number | null,
): { width: number; height: number } {
  const parts = /^([1-9]\d{0,3}):([1-9]\d{0,3})$/.exec(shape ?? `${own.width}:${own.height}`);
  if (!parts) throw new Refusal(`"${shape}" is no shape. Give width to height, as 9:16.`);
  const [wide, high] = [Number(parts[1]), Number(parts[2])];
  const by = (side ?? Math.min(own.width, own.height)) / Math.min(wide, high);
  return { width: even(wide * by), height: even(high * by) };
}

/** The size of a film: what is asked for or the montage's, within what the preset is held to. */
export function filmSize(
  preset: FilmPreset,
  { width, height }: { readonly width: number; readonly height: number },
): { width: number; height: number } {
  const less = preset.most ? Math.min(1, preset.most.side / Math.max(width, height)) : 1;
  return less < 1 ? { width: even(width * less), height: even(height * less) } : { width, height };
}

/**
 * The montage as a film is made of it, in the film's size and rate, and which of its frames.
 * @throws Refusal where the stretch lies outside the montage, holds no frame, or is longer than the preset is held to
 */
export function askedFilm(montage: Montage, wish: FilmWish): AskedFilm {
  const preset = filmPresetNamed(wish.preset);
  const quality = qualityOf(preset, wish.quality);
  const asked = wish.rate ?? montage.shape.rate;
  const rate = preset.most && framesPerSecond(asked) > preset.most.rate ? { num: preset.most.rate, den: 1 } : asked;
  const shape = { ...filmSize(preset, wish.size ?? montage.shape), rate };
  const shaped = reshaped(montage, shape);
  const { frames } = scoreOf(shaped);
  const whole = wish.stretch === undefined;
  const from = whole ? 0 : frameAt(wish.stretch.from, rate);
  const single = preset.holds === 'picture';
  const to = single ? from + 1 : whole ? frames : Math.min(frames, frameCount(wish.stretch.to, rate));
  if (from < 0 || from >= frames)
    throw new Refusal(`The stretch begins at ${clock(wish.stretch?.from ?? 0)}, after the montage has ended. Choose another one.`);
  if (to <= from) throw new Refusal('The stretch is shorter than a frame. Choose a longer one.');
  const seconds = (to - from) / framesPerSecond(rate);
  if (preset.most && seconds > preset.most.seconds + 1e-6)
    throw new Refusal(
      `A ${preset.title} may be ${preset.most.seconds} s long, and this one is ${seconds.toFixed(1)} s. Choose a shorter stretch.`,
    );
  return { montage: shaped, preset, quality, from, to, loudness: preset.sound.length > 0 ? (wish.loudness ?? null) : null };
}
