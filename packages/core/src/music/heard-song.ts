import { beatChances, type BeatChances } from './beat-network.ts';
import type { OnsetStrength } from './onset-strength.ts';
import type { Signal } from './signal.ts';

/** A song that was listened to: what detection, teaching and shortening work on. */
export interface HeardSong {
  readonly signal: Signal;
  readonly onsets: OnsetStrength;
  readonly chances: BeatChances;
}

/**
 * Listens to a song: the part of detection that takes the time, done once for all that is asked of it.
 * @param onsets of the same signal, see onsetStrength
 */
export function listen(signal: Signal, onsets: OnsetStrength): HeardSong {
  return { signal, onsets, chances: beatChances(onsets.pulse, onsets.pulseWidth) };
}
