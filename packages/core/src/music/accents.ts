import { firstFrom } from '../lists/first-from.ts';
import { attackNear } from './attack.ts';
import type { OnsetStrength } from './onset-strength.ts';
import type { Signal } from './signal.ts';

/** The parts of the sound in which accents lie. */
export const BANDS = ['low', 'mid', 'high', 'voice'] as const;
export type Band = (typeof BANDS)[number];

/** A note or stroke that stands out: where, seconds, in which band, and how strongly, 0 to 1 of the song's strongest. */
export interface Accent {
  readonly time: number;
  readonly band: Band;
  readonly strength: number;
}

const { max, min } = Math;
/** Weaker ones are hardly heard. */
const WEAKEST = 0.12;
/** A song's strongest voice counts as strong from this part of its strong strokes on. */
const WEAKEST_VOICE = 0.3;
/** An accent is the strongest within this, frames. */
const PEAK_FRAMES = 4;
/** What it stands out from: the mean of half a second to each side, frames. */
const AROUND_FRAMES = 50;
/** The part of a band's peaks that lie below a strong one. */
const STRONG = 0.95;
const ATTACK_REACH_S = 0.025;
/** A voice comes without the brightness of a stroke and the thud of a drum. */
const STROKE_WEIGHT = 0.9;

/** The value that so many of a curve's values lie below. */
function quantile(values: Float32Array, part: number): number {
  return values.slice().sort()[Math.floor(part * (values.length - 1))] ?? 0;
}

/** A band with its peaks, and what its strong ones reach. */
interface PeakedCurve {
  readonly curve: Float32Array;
  readonly peaks: readonly { readonly frame: number; readonly height: number }[];
  readonly strong: number;
}

function peaked(curve: Float32Array): PeakedCurve {
  const peaks = peaksOf(curve);
  const strong = quantile(
    Float32Array.from(peaks, (p) => max(0, p.height)),
    STRONG,
  );
  return { curve, peaks, strong };
}

/**
 * Rises between the drums: of the middle band, less what rises with them above and below. Each against its own strong
 * strokes, so that the noise of a quiet song is no voice.
 */
function voiceStrength(low: PeakedCurve, mid: PeakedCurve, high: PeakedCurve): Float32Array {
  const frames = mid.curve.length;
  const [l, m, h] = [low, mid, high].map(({ strong }) => 1 / max(1e-6, strong)) as [number, number, number];
  const stroke = new Float32Array(frames);
  for (let i = 0; i < frames; i++) stroke[i] = max(high.curve[i]! * h, low.curve[i]! * l);
  const voice = new Float32Array(frames);
  for (let i = 0; i < frames; i++) {
    let near = 0;
    for (let k = max(0, i - 2); k <= min(frames - 1, i + 2); k++) near = max(near, stroke[k]!);
    voice[i] = max(0, mid.curve[i]! * m - STROKE_WEIGHT * near);
  }
  return voice;
}

/** Peaks of a curve that stand out from their surroundings, with how far they do. */
function peaksOf(curve: Float32Array): { frame: number; height: number }[] {
  const sums = new Float64Array(curve.length + 1);
  let sum = 0;
  for (let i = 0; i < curve.length; i++) sums[i + 1] = sum += curve[i]!;
  const found: { frame: number; height: number }[] = [];
  for (let i = 0; i < curve.length; i++) {
    const value = curve[i]!;
    let highest = value > 0;
    for (let k = max(0, i - PEAK_FRAMES); highest && k <= min(curve.length - 1, i + PEAK_FRAMES); k++)
      if (curve[k]! > value || (curve[k] === value && k < i)) highest = false;
    if (!highest) continue;
    const [a, b] = [max(0, i - AROUND_FRAMES), min(curve.length, i + AROUND_FRAMES)];
    found.push({ frame: i, height: value - (sums[b]! - sums[a]!) / (b - a) });
  }
  return found;
}

/**
 * The accents of a song in four bands, each on its attack: peaks of the band's onset strength (after J. Bello et al., "A
 * tutorial on onset detection in music signals", IEEE TSAP 2005), in the order of time.
 */
export function findAccents(onsets: Pick<OnsetStrength, 'fps' | 'low' | 'mid' | 'high'>, signal: Signal): Accent[] {
  const [low, mid, high] = [onsets.low, onsets.mid, onsets.high].map(peaked) as [PeakedCurve, PeakedCurve, PeakedCurve];
  const voice = peaked(voiceStrength(low, mid, high));
  const placed = new Map<number, number>();
  const place = (frame: number): number => {
    // Bands that strike together share their attack.
    const known = placed.get(frame) ?? placed.get(frame - 1) ?? placed.get(frame + 1);
    if (known !== undefined) return known;
    const attack = attackNear(signal, frame / onsets.fps, ATTACK_REACH_S);
    const time = max(0, attack.clarity > 0.1 ? attack.time : frame / onsets.fps);
    placed.set(frame, time);
    return time;
  };
  const accents: Accent[] = [];
  for (const [band, { peaks, strong }] of [
    ['low', low],
    ['mid', mid],
    ['high', high],
    ['voice', voice],
  ] as const) {
    const full = max(strong, band === 'voice' ? WEAKEST_VOICE : 1e-6);
    for (const { frame, height } of peaks) {
      const strength = min(1, height / full);
      if (strength >= WEAKEST) accents.push({ time: place(frame), band, strength });
    }
  }
  return accents.sort((a, b) => a.time - b.time);
}

/**
 * The accent nearest to a time, or null where there is none within reach. Accents in the order of time.
 * @param time seconds, as the accents are
 * @param reach seconds
 */
export function nearestAccent<A extends { readonly time: number }>(accents: readonly A[], time: number, reach: number): A | null {
  const after = firstFrom(accents, (accent) => accent.time, time);
  const near = [accents[after - 1], accents[after]].filter((a) => a !== undefined && Math.abs(a.time - time) <= reach) as A[];
  return near.sort((a, b) => Math.abs(a.time - time) - Math.abs(b.time - time))[0] ?? null;
}
