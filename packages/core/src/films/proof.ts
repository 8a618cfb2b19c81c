import { shortClock } from '../time/clock.ts';
import { framesPerSecond, type FrameRate } from '../time/rate.ts';
import type { FoundCut } from './prints.ts';

/** How much of the work on a film is done when it is made; the rest is reading it back. */
export const READ_BACK_FROM = 0.88;

/** A cut as it is in the film, against where it was planned and against its mark. */
export interface ProvenCut extends FoundCut {
  /** film seconds at which its frame is shown; null where it was not found */
  readonly time: number | null;
  /** how late it is against its mark, ms; null for a free one and where it was not found */
  readonly errorMs: number | null;
}

/** The film's sound at one place, against the song. */
export interface ProvenSound {
  /** film seconds */
  readonly at: number;
  /** how late it is, ms; null where the song cannot be told there */
  readonly lateMs: number | null;
}

/** What was found when a finished film was read back. */
export interface Proof {
  /** frames that were to be in it, and that are */
  readonly frames: { readonly planned: number; readonly read: number };
  readonly cuts: readonly ProvenCut[];
  readonly sound: readonly ProvenSound[];
  /** how late the sound is, the middle of all places, ms; null where the song was heard nowhere */
  readonly soundLateMs: number | null;
  readonly good: boolean;
  /** in words */
  readonly verdict: string;
  /** film seconds of the first thing that is wrong; null where nothing is */
  readonly wrongAt: number | null;
}

/** Sound that is farther from its place than this is heard to be, ms. */
const SOUND_TOLERANCE_MS = 5;

const middle = (values: readonly number[]): number | null => [...values].sort((a, b) => a - b)[values.length >> 1] ?? null;

const howFar = (frames: number): string => {
  const many = Math.abs(frames) === 1 ? 'one frame' : `${Math.abs(frames)} frames`;
  return `${many} ${frames > 0 ? 'late' : 'early'}`;
};

/** What is said of the cuts, and where the first wrong one is, film seconds. */
function cutsInWords(cuts: readonly ProvenCut[], rate: FrameRate): { good: boolean; says: string; wrongAt: number | null } {
  if (cuts.length === 0) return { good: true, says: 'there is no cut in it', wrongAt: null };
  const seconds = (frame: number): number => frame / framesPerSecond(rate);
  const wrong = cuts.filter((c) => c.why === 'another picture' || (c.found !== null && c.found !== c.frame));
  const found = cuts.filter((c) => c.found !== null);
  const [first] = wrong;
  if (!first) {
    const unseen = cuts.length - found.length;
    const some = unseen === 0 ? `All ${cuts.length} cuts` : `${found.length} of ${cuts.length} cuts`;
    const says =
      cuts.length === 1 && unseen === 0 ? 'Its one cut found in the film on its frame' : `${some} found in the film on their frames`;
    return { good: true, says: unseen === 0 ? says : `${says}, ${unseen} between pictures that are alike`, wrongAt: null };
  }
  const at = shortClock(seconds(first.frame));
  const how = first.found === null ? 'another picture stands there' : howFar(first.found - first.frame);
  const many =
    wrong.length === 1
      ? `1 cut is not where it should be: ${at}, ${how}`
      : `${wrong.length} cuts are not where they should be, the first at ${at}: ${how}`;
  return { good: false, says: many, wrongAt: seconds(first.frame) };
}

function soundInWords(sound: readonly ProvenSound[], late: number | null): { good: boolean; says: string } {
  if (sound.length === 0) return { good: true, says: '' };
  if (late === null) return { good: true, says: 'the song cannot be told from the other sounds, so their place was not measured' };
  if (Math.abs(late) <= SOUND_TOLERANCE_MS) return { good: true, says: `sound ${Math.abs(late).toFixed(1)} ms from the song` };
  return { good: false, says: `the sound is ${Math.abs(late).toFixed(0)} ms ${late > 0 ? 'late' : 'early'}` };
}

interface Found {
  readonly rate: FrameRate;
  readonly frames: Proof['frames'];
  readonly cuts: readonly ProvenCut[];
  readonly sound: readonly ProvenSound[];
}

/** The verdict on what was found in a film. */
export function proofOf({ rate, frames, cuts, sound }: Found): Proof {
  const soundLateMs = middle(sound.flatMap(({ lateMs }) => (lateMs === null ? [] : [lateMs])));
  const inCuts = cutsInWords(cuts, rate);
  const inSound = soundInWords(sound, soundLateMs);
  const whole = frames.planned === frames.read;
  const missing = frames.planned - frames.read;
  const count = whole ? '' : missing > 0 ? `${missing} of ${frames.planned} frames are missing` : `${-missing} frames too many`;
  const says = [count, inCuts.says, inSound.says].filter(Boolean).join('; ');
  return {
    frames,
    cuts,
    sound,
    soundLateMs,
    good: whole && inCuts.good && inSound.good,
    verdict: `${says.charAt(0).toUpperCase()}${says.slice(1)}.`,
    wrongAt: inCuts.wrongAt ?? (whole && inSound.good ? null : 0),
  };
}
