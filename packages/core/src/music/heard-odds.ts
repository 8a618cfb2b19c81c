import { highestNear } from './highest-near.ts';

const { log, max, min } = Math;

/** The network's chances are kept off certainty. */
const [LEAST, MOST] = [0.002, 0.98];

/**
 * How clearly some times are heard as beats, as a sum of natural logarithms of odds; 0 for no times.
 * @param chance 0 to 1, one a frame
 * @param fps frames a second of the chances
 * @returns what sums it up for times, seconds
 */
export function oddsOf(chance: Float32Array, fps: number): (times: readonly number[]) => number {
  return (times) =>
    times.reduce((sum, t) => {
      const c = min(MOST, max(LEAST, highestNear(chance, t * fps)));
      return sum + log(c / (1 - c));
    }, 0);
}
