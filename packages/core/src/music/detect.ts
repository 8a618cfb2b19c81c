import { findAccents, type Accent } from './accents.ts';
import { loudestIn } from './audible.ts';
import { findBars } from './bars.ts';
import { beatLengthOf } from './beat-lengths.ts';
import { downbeatEvidence } from './downbeat-evidence.ts';
import { listen, type HeardSong } from './heard-song.ts';
import { highestNear } from './highest-near.ts';
import { median } from './median.ts';
import { onsetStrength, type OnsetStrength } from './onset-strength.ts';
import { placedBeats, type DetectedBeat } from './placed-beats.ts';
import { readSong, type Reading } from './readings.ts';
import { type Signal, signalLength } from './signal.ts';
import { trackBeats, type TempoHint } from './track-beats.ts';

/** How a song is counted: as it is read, and how else it could be. */
export interface Counting extends Omit<Reading, 'chance'> {
  /** length of the song, seconds */
  readonly length: number;
  /** how far everything that was heard agrees on this reading, 0 to 1 */
  readonly agreement: number;
  /** other ways to read it, the likelier first */
  readonly others: readonly Reading[];
  /** a sentence when there is nothing to hold on to, else null */
  readonly verdict: string | null;
}

/** What was heard in a song: how it is counted, and what does not hang on that. */
export interface Detection extends Counting {
  /** in the order of time */
  readonly accents: readonly Accent[];
}

const SHORTEST_SONG_S = 3;
const NO_BEAT = 'No beat was found in this song. Tap its beats.';
/** Log energy of a tone that only just is one. */
const SILENCE = -6;
/** The chance that the network gives to the middle one of the beats where there is no steady pulse. */
const STEADY_CLARITY = 0.45;

function tooShort(length: number): Counting {
  return nothing(length, `This song is ${length.toFixed(1)} s long, too short to find a beat in. Tap its beats, or choose a longer one.`);
}

function nothing(length: number, verdict: string): Counting {
  const reading = { beats: [], metre: 4, bpm: 0, tempo: [], sections: [], drops: [] };
  return { length, ...reading, agreement: 0, others: [], verdict };
}

/**
 * Beats and bars between two times, at a tempo near the hinted one.
 * @param from, to song seconds
 * @returns beats in the order of time, song seconds; none where too little is heard there
 */
export function detectRange(heard: HeardSong, from: number, to: number, hint?: TempoHint): DetectedBeat[] {
  const { chances, onsets } = heard;
  const first = Math.max(0, Math.floor(from * onsets.pulseFps));
  const last = Math.min(chances.beat.length, Math.ceil(to * onsets.pulseFps));
  const start = first / onsets.pulseFps;
  const tracked = trackBeats(chances.beat.subarray(first, last), onsets.pulseFps, hint).map((t) => t + start);
  const { downbeats } = findBars(downbeatEvidence(heard, tracked), beatLengthOf(tracked));
  return placedBeats(heard, tracked, downbeats).filter((b) => b.time >= from && b.time <= to);
}

/**
 * Finds the beats, bars, sections, drops and accents of a song.
 * @param signal one channel at ANALYSIS_RATE; others are heard wrongly by the beat network
 * @param onProgress is told the part done, 0 to 1
 */
export function detect(signal: Signal, onProgress: (part: number) => void = () => undefined): Detection {
  const length = signalLength(signal);
  if (length < SHORTEST_SONG_S) return { ...tooShort(length), accents: [] };
  return detectIn(
    signal,
    onsetStrength(signal, (part) => onProgress(part * 0.6)),
    onProgress,
  );
}

/**
 * The same for a song whose onset strength was taken while it was decoded.
 * @param onProgress told parts done, 0 to 1
 * @returns no beats, with the reason as its problem, for what is too short or has no steady beat
 */
export function detectIn(signal: Signal, onsets: OnsetStrength, onProgress: (part: number) => void = () => undefined): Detection {
  if (signalLength(signal) < SHORTEST_SONG_S) return { ...tooShort(signalLength(signal)), accents: [] };
  const heard = listen(signal, onsets);
  onProgress(0.7);
  return detectHeard(heard, onProgress);
}

/**
 * The same for a song that was listened to.
 * @param onProgress told parts done, 0 to 1
 * @returns no beats, with the reason as its problem, where there is no steady beat
 */
export function detectHeard(heard: HeardSong, onProgress: (part: number) => void = () => undefined): Detection {
  const accents = isSilent(heard.onsets) ? [] : findAccents(heard.onsets, heard.signal);
  onProgress(0.8);
  const counting = countHeard(heard);
  onProgress(1);
  return { ...counting, accents };
}

/**
 * Of what detectIn finds all but the accents, which hang on nothing else and may be found beside it.
 * @returns no beats, with the reason as its problem, for what is too short or has no steady beat
 */
export function countIn(signal: Signal, onsets: OnsetStrength): Counting {
  if (signalLength(signal) < SHORTEST_SONG_S) return tooShort(signalLength(signal));
  return countHeard(listen(signal, onsets));
}

const isSilent = (onsets: OnsetStrength): boolean => loudestIn(onsets) < SILENCE;

function countHeard(heard: HeardSong): Counting {
  const { signal, onsets, chances } = heard;
  const length = signalLength(signal);
  if (isSilent(onsets))
    return nothing(length, 'This song is silent, so there are no beats to find. Choose another file, or tap beats by eye.');
  const [reading, ...others] = readSong(heard);
  if (!reading) return nothing(length, NO_BEAT);
  const { chance, ...read } = reading;
  const clarity = median(read.beats.map(({ time }) => highestNear(chances.beat, time * onsets.pulseFps))) ?? 0;
  return {
    length,
    ...read,
    agreement: chance,
    others,
    verdict: clarity < STEADY_CLARITY ? 'No steady beat was heard here. What is marked is a guess: check it with clicks, or tap.' : null,
  };
}
