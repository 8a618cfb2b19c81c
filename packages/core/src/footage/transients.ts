import type { Signal } from '../music/signal.ts';

/** A sudden sound: where it starts, seconds, and how strong it is, 0 to 1. */
export interface Transient {
  readonly time: number;
  readonly strength: number;
}

const { log10, max, min } = Math;
const HOP_S = 0.004;
/** Levels below this are silence, dB of full scale. */
const FLOOR_DB = -66;
/** What a sound rises from: the mean level of this long before it, seconds. */
const BEFORE_S = 0.08;
/** A rise by so much is as sudden as can be, dB; less than the weakest is none. */
const FULL_RISE_DB = 30;
const WEAKEST_RISE_DB = 6;
/** Sounds this far below the clip's loudest count for nothing, dB. */
const RANGE_DB = 40;
/** A rise of this part of another is as high. */
const AS_HIGH = 0.9;
/** Of rises closer together than this the first counts, seconds. */
const APART_S = 0.12;

/**
 * Sudden sounds of a clip: rises of the short-time level of the differenced signal, which lifts strokes over wind and
 * traffic (after J. Bello et al., "A tutorial on onset detection in music signals", IEEE TSAP 2005). In the order of time.
 * @returns seconds from the start of the signal, strengths 0 to 1; none in silence
 */
export function findTransients({ samples, rate }: Signal): Transient[] {
  const hop = Math.max(1, Math.round(HOP_S * rate));
  const count = Math.floor(samples.length / hop);
  const sharp = new Float32Array(count);
  const full = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    let [edges, level] = [0, 0];
    for (let k = i * hop; k < (i + 1) * hop; k++) {
      const v = samples[k]!;
      const d = v - (k > 0 ? samples[k - 1]! : 0);
      edges += d * d;
      level += v * v;
    }
    sharp[i] = max(FLOOR_DB, 10 * log10(edges / hop + 1e-12));
    full[i] = max(FLOOR_DB, 10 * log10(level / hop + 1e-12));
  }
  const back = Math.round(BEFORE_S / HOP_S);
  const rise = (curve: Float32Array, i: number): number => {
    // The mean of what was before, and no less than the loudest moment just before that has died away.
    let sum = 0;
    for (let k = max(0, i - back); k < i; k++) sum += curve[k]!;
    return i === 0 ? 0 : max(curve[i]!, curve[min(count - 1, i + 1)]!) - sum / min(i, back);
  };
  const loudest = full.reduce((a, b) => max(a, b), FLOOR_DB);
  const rises = new Float32Array(count);
  for (let i = 2; i < count; i++) {
    const by = max(rise(sharp, i), rise(full, i));
    const loud = max(0, 1 - (loudest - max(full[i]!, full[min(count - 1, i + 1)]!)) / RANGE_DB);
    rises[i] = by < WEAKEST_RISE_DB ? 0 : (min(1, by / FULL_RISE_DB) * (0.3 + 0.7 * loud) * loud) ** 0.8;
  }
  const found: Transient[] = [];
  const reach = Math.round(APART_S / HOP_S);
  for (let i = 2; i < count; i++) {
    if (rises[i]! < 0.05) continue;
    let highest = true;
    for (let k = max(0, i - reach); highest && k <= min(count - 1, i + reach); k++)
      if (rises[k]! > rises[i]! || (rises[k] === rises[i] && k < i)) highest = false;
    if (highest) found.push({ time: (startOfRise(sharp, full, firstAsHigh(rises, i, reach)) * hop) / rate, strength: rises[i]! });
  }
  return found;
}

/** A sound that goes on is hardly less of a rise for a while: the first moment that is as good as the highest. */
function firstAsHigh(rises: Float32Array, i: number, reach: number): number {
  let at = i;
  while (at > 0 && i - at < reach && rises[at - 1]! > AS_HIGH * rises[i]!) at--;
  return at;
}

/** Walks back from a rise's highest point to where it begins. */
function startOfRise(sharp: Float32Array, full: Float32Array, i: number): number {
  let at = i;
  while (at > 0 && i - at < 8 && (sharp[at - 1]! < sharp[at]! - 2 || full[at - 1]! < full[at]! - 2)) at--;
  return at;
}
