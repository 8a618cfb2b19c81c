import type { OnsetStrength } from './onset-strength.ts';

/** Forty decibels below the loudest, natural logarithm of energy. */
const QUIET = 9.2;
/** Frames before and after a beat in which its sound is looked for. */
const [BEFORE, AFTER] = [8, 30];

/** The loudest moment of a song, natural logarithm of energy. */
export const loudestIn = ({ energy }: OnsetStrength): number => energy.reduce((a, b) => Math.max(a, b), -Infinity);

/** Leaves out beats that were tracked into the silence before and after the music. */
export function audibleIn(onsets: OnsetStrength): (times: readonly number[]) => readonly number[] {
  const loudest = loudestIn(onsets);
  const audible = (time: number): boolean => {
    const f = Math.round(time * onsets.fps);
    for (let k = f - BEFORE; k <= f + AFTER; k++) if ((onsets.energy[k] ?? -Infinity) > loudest - QUIET) return true;
    return false;
  };
  return (times) => {
    const [first, last] = [times.find(audible) ?? Infinity, times.findLast(audible) ?? -Infinity];
    return times.filter((time) => time >= first && time <= last);
  };
}
