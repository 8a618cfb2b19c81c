import { firstFree, instanceOf, type GrowingCode } from './compiled.ts';
import { TRACKING_WASM } from './tracking.wasm.ts';

const { floor, log, log2, max, min } = Math;

/** A beat is heard in so many frames, whatever its length: as wide as the network's peaks, so that no tempo is favoured. */
const BEAT_FRAMES = 4;
/** Where in those frames the beat lies. */
const BEAT_CENTRE = 1.5;
/** How much likelier a frame is to be none of a beat's. */
const REST_WEIGHT = 2;
/** People tap nearest to this pulse, seconds (D. Moelants, "Preferred tempo reconsidered", ICMPC 2002). */
const PREFERRED_S = 0.5;
/** Frames that the compiled code takes at a time. */
const RUN_FRAMES = 200;
/** What each beat costs that is an octave from it. */
const PREFERENCE = 2;
/** How far before the song's start its first beat may be tracked, frames. */
const EARLY_FRAMES = 3;
/** How unwilling the tempo is to change from beat to beat. */
const TEMPO_STIFFNESS = 60;
/** What one frame more or less costs at the most: fast beats whose length is no whole number of frames have to alternate. */
const MOST_A_STEP = 1.5;

/** Frames a second at which beats are tracked: fine enough for fast ones. */
export const TRACKING_FPS = 100;

/** The chances of a slower curve at TRACKING_FPS, by straight lines between its points, kept off certainty. */
function finer(chance: Float32Array, fps: number): Float32Array {
  const frames = Math.round((chance.length / fps) * TRACKING_FPS);
  const fine = new Float32Array(frames);
  for (let i = 0; i < frames; i++) {
    const at = min(chance.length - 1, (i * fps) / TRACKING_FPS);
    const below = floor(at);
    const value = chance[below]! + (at - below) * ((chance[below + 1] ?? chance[below]!) - chance[below]!);
    fine[i] = min(0.98, max(0.002, value));
  }
  return fine;
}

/** What each frame says at TRACKING_FPS: how likely it is none of a beat's, and how much likelier one of a beat's; natural logarithms. */
interface Said {
  readonly offBeat: Float64Array;
  readonly gain: Float64Array;
}

/** A song is tracked at several levels, and says the same at each. */
const said = new WeakMap<Float32Array, Said>();

function saidBy(chance: Float32Array, fps: number): Said {
  const known = said.get(chance);
  if (known) return known;
  const fine = finer(chance, fps);
  const offBeat = Float64Array.from(fine, (c) => log((1 - c) / REST_WEIGHT));
  const gain = Float64Array.from(fine, (c, n) => log(c) - offBeat[n]!);
  said.set(chance, { offBeat, gain });
  return { offBeat, gain };
}

/** What the compiled code offers; addresses in bytes. */
interface Exports extends GrowingCode {
  track(first: number, last: number, ...layout: number[]): void;
}

/** How good the best way to each place is, where each ring's beat begins next, and which length each beat's length came from. */
function allWays(
  { offBeat, gain }: Said,
  starts: Int32Array,
  cost: Float64Array,
  preference: Float64Array,
): { score: Float64Array; turned: Int32Array; cameFrom: Uint8Array } {
  const code = instanceOf<Exports>(TRACKING_WASM);
  const [frames, count] = [gain.length, cost.length];
  let next = firstFree(code);
  const room = (bytes: number): number => {
    const here = next;
    next += 16 * Math.ceil(bytes / 16);
    return here;
  };
  const at = {
    offBeat: room(8 * frames),
    gain: room(8 * frames),
    starts: room(4 * (count + 1)),
    turned: room(4 * count),
    score: room(8 * starts[count]!),
    cost: room(8 * count),
    preference: room(8 * count),
    scratch: room(16 * count),
    cameFrom: room(frames * count),
  };
  if (code.reach(next) === 0) throw new RangeError('This song is too long for the memory that is there.');
  const { buffer } = code.memory;
  new Float64Array(buffer, at.offBeat, frames).set(offBeat);
  new Float64Array(buffer, at.gain, frames).set(gain);
  new Int32Array(buffer, at.starts, count + 1).set(starts);
  const turned = new Int32Array(buffer, at.turned, count);
  turned.set(starts.subarray(0, count));
  new Float64Array(buffer, at.cost, count).set(cost);
  new Float64Array(buffer, at.preference, count).set(preference);
  const { starts: startsAt, turned: turnedAt, score, cost: costAt, preference: preferenceAt, scratch, cameFrom } = at;
  for (let first = 0; first < frames; first += RUN_FRAMES)
    code.track(
      first,
      min(frames, first + RUN_FRAMES),
      at.offBeat,
      at.gain,
      count,
      startsAt,
      turnedAt,
      score,
      costAt,
      preferenceAt,
      scratch,
      cameFrom,
      BEAT_FRAMES,
    );
  return {
    score: new Float64Array(buffer, at.score, starts[count]),
    turned,
    cameFrom: new Uint8Array(buffer, at.cameFrom, frames * count),
  };
}

/** Which beat lengths are looked for, seconds. */
export interface BeatLengths {
  readonly shortest: number;
  readonly longest: number;
  /** whether those near the pulse that people tap are preferred */
  readonly preferred: boolean;
}

/** The beats that are most likely: seconds, rising; and how likely, as a natural logarithm that compares for the same chances. */
export interface BeatPath {
  readonly beats: readonly number[];
  readonly likelihood: number;
}

/**
 * Beats by the most likely path through a bar-pointer state space: a state is a beat length and a place within it; the
 * place moves on by a frame at a time and the length may change at each beat (F. Krebs, S. Böck and G. Widmer, "An
 * efficient state-space model for joint tempo and meter tracking", ISMIR 2015).
 * @param beatChance of a beat, 0 to 1, one a frame
 * @param fps frames a second of the chances
 */
export function likeliestBeats(beatChance: Float32Array, fps: number, { shortest, longest, preferred }: BeatLengths): BeatPath {
  const heard = saidBy(beatChance, fps);
  const lengths: number[] = [];
  for (let f = max(4, floor(shortest * TRACKING_FPS)); f <= Math.ceil(longest * TRACKING_FPS); f++) lengths.push(f);
  const count = lengths.length;
  const frames = heard.gain.length;
  // Each beat length has a ring of places in one list, from starts[k] to starts[k + 1]; the ring turns, so moving on costs nothing.
  const starts = new Int32Array(count + 1);
  for (let k = 0; k < count; k++) starts[k + 1] = starts[k]! + lengths[k]!;
  // A change of length costs by its logarithm, so the best length to come from is found in one pass up and one down.
  const cost = new Float64Array(count);
  for (let k = 1; k < count; k++) cost[k] = cost[k - 1]! + min(MOST_A_STEP, TEMPO_STIFFNESS * log(lengths[k]! / lengths[k - 1]!));
  const preference = Float64Array.from(lengths, (length) => (preferred ? PREFERENCE * log2(length / TRACKING_FPS / PREFERRED_S) ** 2 : 0));
  const { score, turned, cameFrom } = allWays(heard, starts, cost, preference);

  // A ring's newest place lies just before the one that turns next.
  let k = 0;
  let highest = 0;
  for (let i = 1; i < score.length; i++) if (score[i]! > score[highest]!) highest = i;
  while (starts[k + 1]! <= highest) k++;
  const place = (turned[k]! - 1 - highest + 2 * lengths[k]!) % lengths[k]!;
  const beats: number[] = [];
  // A song that starts on a beat has it at its very first sample; the path may put it a frame or two before.
  for (let n = frames - 1 - place; n >= -EARLY_FRAMES;) {
    beats.push(max(0, n + BEAT_CENTRE) / TRACKING_FPS);
    if (n < 0) break;
    k = cameFrom[n * count + k]!;
    n -= lengths[k]!;
  }
  return { beats: beats.reverse(), likelihood: score[highest] ?? 0 };
}
