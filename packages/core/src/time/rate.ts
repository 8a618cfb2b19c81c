/** A frame rate as an exact fraction, frames per second. 29.97 is 30000/1001 (SMPTE ST 12-1). */
export interface FrameRate {
  readonly num: number;
  readonly den: number;
}

/** The rates offered as presets, frames per second. */
export const FRAME_RATES: readonly FrameRate[] = [
  { num: 24000, den: 1001 },
  { num: 24, den: 1 },
  { num: 25, den: 1 },
  { num: 30000, den: 1001 },
  { num: 30, den: 1 },
  { num: 50, den: 1 },
  { num: 60000, den: 1001 },
  { num: 60, den: 1 },
];

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/**
 * Reads a frame rate: "30", "30000/1001", or a decimal such as "29.97", which is taken as the exact NTSC fraction.
 * @throws RangeError when the text is no rate between 1 and 240 frames per second.
 */
export function parseRate(text: string): FrameRate {
  const bad = (): RangeError =>
    new RangeError(`"${text}" is not a frame rate. Give one between 1 and 240, such as 25, 29.97 or 30000/1001.`);
  const match = /^(\d+(?:\.\d+)?)(?:\/(\d+))?$/.exec(text.trim());
  if (!match) throw bad();
  const value = Number(match[1]) / Number(match[2] ?? 1);
  if (!(value >= 1 && value <= 240)) throw bad();
  const whole = Math.round(value);
  if (Math.abs(value - whole) < 1e-6) return { num: whole, den: 1 };
  const ntsc = Math.ceil(value);
  if (Math.abs(value - (ntsc * 1000) / 1001) < 0.006) return { num: ntsc * 1000, den: 1001 };
  const den = match[2] ? Number(match[2]) : 1000;
  const num = Math.round(value * den);
  const common = gcd(num, den);
  return { num: num / common, den: den / common };
}

/**
 * Frames per second as a plain number.
 * @returns Hz
 * @example
 * framesPerSecond({ num: 30000, den: 1001 }) // 29.97002997002997
 */
export function framesPerSecond(rate: FrameRate): number {
  return rate.num / rate.den;
}

/**
 * A rate as people write it: "30", "29.97", "23.976".
 * @returns with three decimals at most, none for whole rates
 */
export function rateLabel(rate: FrameRate): string {
  return String(Math.round((rate.num / rate.den) * 1000) / 1000).replace(/^(\d+\.\d\d)\d$/, (all, two: string) =>
    all.startsWith('23.97') ? all : two,
  );
}

/**
 * Whether two rates are the same number.
 * @returns true for 30/1 and 60/2 too
 */
export function sameRate(a: FrameRate, b: FrameRate): boolean {
  return a.num * b.den === b.num * a.den;
}
