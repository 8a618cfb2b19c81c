import { FRAME_RATES, framesPerSecond, type FrameRate } from '../time/rate.ts';

/** Rates at which frames of a variable rate may be counted, rising. */
const RATES: readonly FrameRate[] = [
  ...[5, 6, 8, 10, 12, 12.5, 15, 16, 18, 20].map((fps) => (fps === 12.5 ? { num: 25, den: 2 } : { num: fps, den: 1 })),
  ...FRAME_RATES,
  { num: 100, den: 1 },
  { num: 120000, den: 1001 },
  { num: 120, den: 1 },
  { num: 240, den: 1 },
].sort((a, b) => framesPerSecond(a) - framesPerSecond(b));

/** So far may a frame be shown from the moment that its time stamp says, seconds: a quarter of a frame at 60 a second. */
const NEAR_S = 1 / 240;

/**
 * The constant rate at which the frames of a clip are counted, so that each is seen when its own time stamp says: the lowest
 * at which no two frames fall on the same count and none lies more than 1/240 s beside its count. Clips of a variable rate get
 * the rate of the grid that their camera filmed on; those on no grid are counted at 120 or 240 a second.
 * @param stamps times of frames, seconds, in any order
 * @param mean what the file says, for clips with fewer than two frames and as the first choice
 */
export function countingRate(stamps: readonly number[], mean: FrameRate): FrameRate {
  const times = [...stamps].sort((a, b) => a - b);
  const first = times[0];
  if (first === undefined || times.length < 2) return mean;
  const fits = (rate: FrameRate): boolean => {
    const fps = framesPerSecond(rate);
    let last = -1;
    return times.every((time) => {
      const count = Math.round((time - first) * fps);
      const good = count > last && Math.abs(time - first - count / fps) <= NEAR_S;
      last = count;
      return good;
    });
  };
  return [mean, ...RATES].find(fits) ?? RATES.at(-1)!;
}
