import type { BeatChances } from './beat-network.ts';
import { oddsOf } from './heard-odds.ts';
import { highestNear } from './highest-near.ts';
import { median } from './median.ts';
import type { OnsetStrength } from './onset-strength.ts';

const { abs, floor, log, log2, max, round } = Math;

/** What is heard of a song, as far as the level of its pulse is told by it. */
export interface HeardForLevel {
  readonly chances: BeatChances;
  readonly onsets: Pick<OnsetStrength, 'pulse' | 'pulseWidth' | 'pulseRises' | 'pulseFps'>;
}

/** Parts of the rising bands that count as low and as high: up to about 150 Hz, from about 2 kHz. */
const LOW_PART = 0.2;
const HIGH_PART = 0.68;
/** People tap nearest to this pulse, seconds (D. Moelants, "Preferred tempo reconsidered", ICMPC 2002). */
const PREFERRED_S = 0.5;

/** How much rises in low, middle and high bands, a value a frame of the pulse. */
export interface BandRises {
  readonly low: Float32Array;
  readonly mid: Float32Array;
  readonly high: Float32Array;
  /** the mean of each */
  readonly usual: Readonly<Record<'low' | 'mid' | 'high', number>>;
}

/** How much rises in three bands over a song. */
export function bandRises({ pulse, pulseWidth, pulseRises }: HeardForLevel['onsets']): BandRises {
  const frames = floor(pulse.length / max(1, pulseWidth));
  const first = pulseWidth - pulseRises;
  const [low, high] = [first + round(LOW_PART * pulseRises), first + round(HIGH_PART * pulseRises)];
  const sum = (from: number, to: number): Float32Array => {
    const values = new Float32Array(frames);
    for (let f = 0; f < frames; f++) for (let k = from; k < to; k++) values[f]! += pulse[f * pulseWidth + k]!;
    return values;
  };
  const bands = { low: sum(first, low), mid: sum(low, high), high: sum(high, pulseWidth) };
  const usual = (curve: Float32Array): number => curve.reduce((a, b) => a + b, 0) / max(1, frames);
  return { ...bands, usual: { low: usual(bands.low), mid: usual(bands.mid), high: usual(bands.high) } };
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / max(1, values.length);

/** What rises less than this part of the usual is nothing: between the strokes of a metronome there is nothing to be compared. */
const LEAST_RISE = 0.2;

/** The names of levelCues' values, in their order. */
export const LEVEL_CUES = [
  'tempo',
  'tempo squared',
  'beats heard',
  'middles heard',
  'quarters heard',
  'thirds heard',
  'low on beats',
  'low on middles',
  'low on quarters',
  'mid on beats',
  'mid on middles',
  'mid on quarters',
  'high on beats',
  'high on middles',
  'high on quarters',
  'low on eighths of a beat',
  'mid on eighths of a beat',
  'high on eighths of a beat',
  'on quarters, the more the faster',
  'on eighths of a beat, the more the faster',
  'low and high by turns, beat to beat',
  'all by turns, beat to beat',
  'low beats and high middles',
  'low beats and high middles, either way',
  'all on beats and not on middles',
  'low and high by turns, two beats to two beats',
  'all by turns, two beats to two beats',
  'downbeats heard',
  'downbeats heard on one of four',
  'that one before the other three',
  'downbeats heard on middles',
  'unsteadiness',
  'density',
  'likeliest path',
] as const;

/**
 * What tells whether beats are at the level that people count: how clearly the network hears them and what lies between
 * them, what rises on and between them, and whether low and high sounds come by turns from beat to beat.
 * @param beats seconds, rising; eight at least
 * @param likeliest whether they are the likeliest path's
 * @returns values by LEVEL_CUES
 */
export function levelCues(
  { chances, onsets: { pulseFps: fps } }: HeardForLevel,
  rises: BandRises,
  beats: readonly number[],
  likeliest: boolean,
): number[] {
  const gaps = beats.slice(1).map((b, i) => b - beats[i]!);
  const length = median(gaps) ?? PREFERRED_S;
  const placed = (part: number): number[] => gaps.map((gap, i) => beats[i]! + part * gap);
  const heard = (curve: Float32Array, times: readonly number[]): number => oddsOf(curve, fps)(times) / max(1, times.length);
  const [on, middles] = [placed(0), placed(0.5)];
  const quarters = [...placed(0.25), ...placed(0.75)];
  const eighths = [0.125, 0.375, 0.625, 0.875].flatMap(placed);
  const thirds = [...placed(1 / 3), ...placed(2 / 3)];
  const every = (n: number, k: number): number[] => on.filter((_, i) => i % n === k);
  const { usual } = rises;
  const rise = (band: keyof BandRises['usual'], times: readonly number[]): number =>
    log(max(LEAST_RISE, mean(times.map((t) => highestNear(rises[band], t * fps))) / (usual[band] + 1e-9)));
  const upper = (times: readonly number[]): number => (rise('mid', times) + rise('high', times)) / 2;
  const turns = (a: readonly number[], b: readonly number[]): { low: number; high: number } => ({
    low: rise('low', a) - rise('low', b),
    high: upper(a) - upper(b),
  });
  const one = turns(every(2, 0), every(2, 1));
  const between = turns(on, middles);
  const two = [0, 1].map((k) => turns(every(4, k), every(4, k + 2)));
  const downbeats = [0, 1, 2, 3].map((k) => heard(chances.downbeat, every(4, k))).sort((a, b) => b - a);
  const tempo = log2(length / PREFERRED_S);
  return [
    tempo,
    tempo ** 2,
    heard(chances.beat, on),
    heard(chances.beat, middles),
    heard(chances.beat, quarters),
    heard(chances.beat, thirds),
    ...(['low', 'mid', 'high'] as const).flatMap((band) => [rise(band, on), rise(band, middles), rise(band, quarters)]),
    ...(['low', 'mid', 'high'] as const).map((band) => rise(band, eighths)),
    tempo * (rise('low', quarters) + upper(quarters)),
    tempo * (rise('low', eighths) + upper(eighths)),
    abs(one.low - one.high),
    abs(one.low + one.high),
    between.low - between.high,
    abs(between.low - between.high),
    between.low + between.high,
    max(...two.map((t) => abs(t.low - t.high))),
    max(...two.map((t) => abs(t.low + t.high))),
    heard(chances.downbeat, on),
    downbeats[0]!,
    downbeats[0]! - downbeats[1]!,
    heard(chances.downbeat, middles),
    mean(gaps.map((gap) => abs(log(gap / length)))),
    log(usual.mid + usual.high + 1e-9),
    Number(likeliest),
  ];
}
