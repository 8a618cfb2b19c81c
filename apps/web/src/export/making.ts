import { create } from 'zustand';
import {
  DEFAULT_PRESET,
  filmPresetNamed,
  sizeInShape,
  type FilmPresetName,
  type FilmWish,
  type FrameRate,
  type Montage,
  type Quality,
} from '@bluster/core';

/** Shapes that are offered beside the montage's own: width to height. */
export const OTHER_SHAPES = ['16:9', '9:16', '1:1', '4:5', '4:3'] as const;
export type OtherShape = (typeof OTHER_SHAPES)[number];
/** The montage's own shape, or one of the others. */
export type ShapeChoice = 'own' | OtherShape;
/** All of it, what is looped, or a section by its id. */
export type StretchChoice = string;

interface Size {
  readonly width: number;
  readonly height: number;
}

interface Making {
  readonly shapes: readonly ShapeChoice[];
  readonly preset: FilmPresetName;
  readonly quality: Quality;
  readonly stretch: StretchChoice;
  /** LUFS; null for as it is */
  readonly loudness: number | null;
  /** pixels of the shorter side; null for as the montage */
  readonly side: number | null;
  /** null for as the montage */
  readonly rate: FrameRate | null;
  /** what films of a project are called, by its id, where that is not its own name */
  readonly names: Readonly<Record<string, string>>;
}

/** What films are to be made; kept while one goes about in the project. */
export const useMaking = create<Making>(() => ({
  shapes: ['own'],
  preset: DEFAULT_PRESET,
  quality: 'good',
  stretch: 'all',
  loudness: null,
  side: null,
  rate: null,
  names: {},
}));

/** The size of a film in a shape. */
export const sizeOf = (shape: ShapeChoice, own: Size, side: number | null): Size => sizeInShape(shape === 'own' ? null : shape, own, side);

/** A stretch as it is offered and as it is asked for, montage seconds; all of it without one. */
export interface OfferedStretch {
  readonly key: StretchChoice;
  readonly title: string;
  readonly stretch: { readonly from: number; readonly to: number } | undefined;
}

/** The films that are asked for by what is chosen, in the order of their shapes. @param now the playhead, montage seconds */
export function wishesOf(
  making: Making,
  projectId: string,
  montage: Montage,
  stretches: readonly OfferedStretch[],
  now: number,
): FilmWish[] {
  const name = making.names[projectId]?.trim();
  const { shapes, preset, quality, loudness, side, rate } = making;
  const { holds, sound } = filmPresetNamed(preset);
  const chosen = stretches.find(({ key }) => key === making.stretch)?.stretch;
  const stretch = holds === 'picture' ? { from: now, to: now } : chosen;
  const common = {
    preset,
    quality,
    ...(stretch ? { stretch } : {}),
    ...(rate ? { rate } : {}),
    ...(name ? { name } : {}),
    ...(loudness !== null && sound.length > 0 ? { loudness } : {}),
  };
  if (holds === 'sound') return [common];
  return shapes.map((shape) => ({ ...common, size: sizeOf(shape, montage.shape, side) }));
}
