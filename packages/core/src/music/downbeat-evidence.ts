import type { BeatChances } from './beat-network.ts';
import { highestNear } from './highest-near.ts';
import { soundOfBeats, type BeatSound } from './join-likeness.ts';
import type { OnsetStrength } from './onset-strength.ts';

const { log, max, min, sqrt } = Math;

/** How much the network's odds, a change of harmony from the beat before and one from the two before to the two after count. */
const HEARD = 1.2;
const CHANGED = 0.35;
const CHANGED_FOR_TWO = 0.45;
/** Of the beats of a song about a quarter are downbeats: natural logarithm of odds. */
const RARITY = 1.6;
/** The network's chances are kept off certainty. */
const SURE = 0.98;

/** What is heard of a song, as far as bars are told by it. */
export interface HeardForBars {
  readonly onsets: OnsetStrength;
  readonly chances: BeatChances;
}

/** Values by how far they are from their mean, in standard deviations; nothing stands out where all are alike. */
function standing(values: readonly number[]): number[] {
  const mean = values.reduce((a, b) => a + b, 0) / max(1, values.length);
  const spread = sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / max(1, values.length));
  return values.map((v) => (v - mean) / (spread + 1e-3));
}

/** The harmonies of a few beats together, and how large that is, squared. */
interface Together {
  readonly bands: Float32Array;
  readonly squares: number;
}

/** How much the harmony is another in the `reach` beats from each beat on than in as many before it, 0 to 1. */
function harmonicChange(harmonies: readonly Float32Array[], reach: number): number[] {
  const count = harmonies[0]?.length ?? 0;
  // What is after one beat is before a later one, so each stretch is added up once; those at the ends are shorter.
  const stretches = Array.from({ length: harmonies.length + reach }, (_, k): Together => {
    const bands = new Float32Array(count);
    for (const harmony of harmonies.slice(max(0, k - reach), k)) for (let i = 0; i < count; i++) bands[i]! += harmony[i]!;
    return { bands, squares: bands.reduce((sum, v) => sum + v * v, 0) };
  });
  return harmonies.map((_, i) => {
    if (i === 0) return 0;
    const [before, after] = [stretches[i]!, stretches[i + reach]!];
    let both = 0;
    for (let k = 0; k < count; k++) both += before.bands[k]! * after.bands[k]!;
    const size = before.squares * after.squares;
    return size > 0 ? 1 - both / sqrt(size) : 0;
  });
}

/**
 * How much more each beat sounds like the first of a bar than like another one: natural logarithms of odds, by what the
 * network heard and by where the harmony changes, each against the rest of the song, since a song whose bars are hardly
 * marked is counted like any other.
 * @param beats seconds, rising
 * @param sounds what each of them sounds like, where that is known already
 */
export function downbeatEvidence(
  { onsets, chances }: HeardForBars,
  beats: readonly number[],
  sounds: readonly BeatSound[] = soundOfBeats(onsets, beats),
): number[] {
  const odds = beats.map((time) => {
    const c = min(SURE, max(1 - SURE, highestNear(chances.downbeat, time * onsets.pulseFps)));
    return log(c / (1 - c));
  });
  const usual = odds.reduce((a, b) => a + b, 0) / max(1, odds.length);
  const harmonies = sounds.map((sound) => sound.harmony);
  const [once, twice] = [standing(harmonicChange(harmonies, 1)), standing(harmonicChange(harmonies, 2))];
  return odds.map((o, i) => HEARD * (o - usual) + CHANGED * once[i]! + CHANGED_FOR_TWO * twice[i]! - RARITY);
}
