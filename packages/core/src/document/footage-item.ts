import type { FrameRate } from '../time/rate.ts';
import type { FootageItem, Select } from './montage.ts';

/** What footage is before anyone has said anything about it. */
export const UNDESCRIBED = {
  selects: [],
  rating: 0,
  note: '',
  tags: [],
  framing: 'fill',
  focus: { x: 0.5, y: 0.5 },
} as const satisfies Partial<FootageItem>;

/** What is known of a clip or a photo when it is brought in; pixels, and frames at its own rate. */
export interface BroughtIn {
  readonly width?: number | undefined;
  readonly height?: number | undefined;
  readonly rate?: FrameRate | undefined;
  readonly frames?: number | undefined;
  readonly hasSound?: boolean | undefined;
  /** what should stay in the picture, where it was found */
  readonly focus?: FootageItem['focus'] | undefined;
}

/**
 * A clip or photo as a montage has it before anyone has said anything about it.
 * @example
 * footageItem('p', 'photo', 'hill.jpg', { width: 1600, height: 1200 }).frames // 1
 */
export function footageItem(assetId: string, kind: FootageItem['kind'], name: string, info: BroughtIn): FootageItem {
  const { width = 16, height = 9, rate = { num: 1, den: 1 }, frames = 1, hasSound = false, focus } = info;
  const length = kind === 'photo' ? 1 : frames;
  return { assetId, kind, name, width, height, rate, frames: length, hasSound, ...UNDESCRIBED, ...(focus ? { focus } : {}) };
}

/**
 * Length of a clip in seconds; a photo lasts as long as it is wanted.
 * @returns seconds of a clip at its own rate
 * @example
 * clipLength(montage.footage[0]) // 4
 */
export function clipLength(item: FootageItem): number {
  return item.kind === 'photo' ? Infinity : (item.frames * item.rate.den) / item.rate.num;
}

/**
 * The stretches of a clip that are worth using: its selects, or all of it where there are none.
 * @returns clip seconds; never none
 * @example
 * stretchesOf(montage.footage[0]).map((s) => [s.id, s.out]) // [["whole", 4]]
 */
export function stretchesOf(item: FootageItem): readonly Select[] {
  return item.selects.length > 0 ? item.selects : [{ id: WHOLE_CLIP, in: 0, out: item.kind === 'photo' ? 0 : clipLength(item), hit: null }];
}

/** Stands for a clip without selects. */
export const WHOLE_CLIP = 'whole';
