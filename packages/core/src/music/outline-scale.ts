/** Over one, so that attacks stand out from what sounds on after them, which loud masters keep nearly as high. */
const SHARPNESS = 1.7;
/** Below one, so that a quiet passage is drawn lower than a loud one, but not as much lower as it is quieter. */
const EVENNESS = 0.4;
/** Parts of the whole's highest value below which a passage is not raised further: what is there may be noise. */
const QUIETEST = 0.08;
/** Seconds to each side in which the loudest moment sets the measure, and over which that measure is then smoothed. */
const AROUND_S = 4;
const SMOOTH_S = 2;

/**
 * How tall an outline of a song is drawn, 0 to 1 for a value at one of its stretches: by the song around it, so that attacks
 * in a quiet passage can be seen too, and lower where the song is quieter.
 * @param outline largest absolute samples, 0 to 1, so many a second (see peaks)
 * @returns a function of a value and the number of its stretch; it answers 0 where all is silent
 */
export function outlineScale(outline: Float32Array, perSecond: number): (value: number, stretch: number) => number {
  const seconds = Math.max(1, Math.ceil(outline.length / perSecond));
  const loudest = new Float32Array(seconds);
  for (let i = 0; i < outline.length; i++) {
    const s = Math.floor(i / perSecond);
    if (outline[i]! > loudest[s]!) loudest[s] = outline[i]!;
  }
  const top = Math.max(1e-4, ...loudest);
  const around = loudest.map((_, s) => Math.max(...loudest.subarray(Math.max(0, s - AROUND_S), s + AROUND_S + 1)));
  // Each of the values that are averaged has seen this second, so none of its moments is higher than their mean.
  const measure = around.map((_, s) => {
    const near = around.subarray(Math.max(0, s - SMOOTH_S), s + SMOOTH_S + 1);
    return Math.max(QUIETEST * top, near.reduce((a, b) => a + b, 0) / near.length);
  });
  return (value, stretch) => {
    const at = Math.max(0, Math.min(seconds - 1, stretch / perSecond - 0.5));
    const s = Math.min(Math.floor(at), seconds - 1);
    const next = measure[Math.min(s + 1, seconds - 1)]!;
    const here = measure[s]! + (at - s) * (next - measure[s]!);
    return Math.min(1, value / here) ** SHARPNESS * (here / top) ** EVENNESS;
  };
}
