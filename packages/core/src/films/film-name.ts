import { leastSides } from '../document/reshaped.ts';
import { filmPresetNamed, type FilmPresetName } from '../formats/films/all.ts';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Sides beyond this are no shape that anybody speaks of. */
const LARGEST_PART = 21;

/**
 * A size as people speak of its shape.
 * @param size pixels
 * @example
 * shapeLabel({ width: 1080, height: 1350 }) // '4:5'
 * shapeLabel({ width: 1366, height: 768 }) // '1366×768'
 */
export function shapeLabel({ width, height }: Size): string {
  const [wide, high] = leastSides({ width, height });
  return Math.max(wide, high) <= LARGEST_PART ? `${wide}:${high}` : `${width}×${height}`;
}

/** A name as any folder takes it: letters, figures and a few signs. */
export function fileName(project: string): string {
  const safe = project.replace(/[^\p{L}\p{N} _.-]/gu, '').replace(/\s+/g, ' ');
  return safe.trim() || 'montage';
}

/**
 * What a film's file is called: the project and its shape, or the project alone where it is sound.
 * @param size pixels; null where it is not known
 */
export function filmName(project: string, preset: FilmPresetName, size: Size | null): string {
  const { ending, holds } = filmPresetNamed(preset);
  const shape = size && holds !== 'sound' ? ` ${shapeLabel(size).replace(/[:×]/, 'x')}` : '';
  return `${fileName(project)}${shape}.${ending}`;
}
