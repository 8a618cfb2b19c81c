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
