import type { FrameRate } from './rate.ts';

/** How a moment becomes a frame: the nearest one, the last that is not after it, or the first that is not before it. */
export type CutRule = 'nearest' | 'never-late' | 'never-early';

/** A frame in 10,000 of slack, so that a time that came from a frame goes back to that frame. */
const SLACK = 1e-4;

/**
 * The start of frame n, in seconds.
 * @param frame counted from 0; fractions and negative ones are taken as they are
 * @example
 * frameTime(60, { num: 30, den: 1 }) // 2
 */
export function frameTime(frame: number, rate: FrameRate): number {
  return (frame * rate.den) / rate.num;
}

/**
 * The frame that is on the screen at a time in seconds.
 * @returns the last frame that has begun, negative before 0
 * @example
 * frameAt(2.01, { num: 30, den: 1 }) // 60
 */
export function frameAt(seconds: number, rate: FrameRate): number {
  return Math.floor((seconds * rate.num) / rate.den + SLACK);
}

/**
 * The frame on which a cut meant for a moment falls.
 * @param seconds the moment, in montage time
 * @param lead how many frames earlier than the rule says
 * @returns the frame, counted from 0; it may be negative or beyond the end of what it is for
 * @example
 * cutFrame(1.016, { num: 30, den: 1 }, 'nearest') // 30
 * cutFrame(1.016, { num: 30, den: 1 }, 'never-early') // 31
 */
export function cutFrame(seconds: number, rate: FrameRate, rule: CutRule, lead = 0): number {
  const exact = (seconds * rate.num) / rate.den;
  const frame = rule === 'nearest' ? Math.round(exact) : rule === 'never-late' ? Math.floor(exact + SLACK) : Math.ceil(exact - SLACK);
  return Math.max(0, frame - lead);
}

/** How many frames a film of so many seconds has: the last begun frame counts. */
export function frameCount(seconds: number, rate: FrameRate): number {
  return Math.max(0, Math.ceil((seconds * rate.num) / rate.den - SLACK));
}
