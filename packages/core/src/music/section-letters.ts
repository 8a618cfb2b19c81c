import type { BeatSound } from './join-likeness.ts';

/** Beats by which one section may begin earlier or later in the same music than another. */
const SHIFT_BEATS = 4;
const FEWEST_BEATS = 8;
const MOST_BEATS = 64;
/** Music that is the same, beat by beat; sections may be played with more or less. */
const ALIKE = 0.85;
const LOUD_APART = 0.9;
const BASS_APART = 1.6;
/** The same harmony throughout, as loud and as deep: the same music, wherever it begins. */
const ALIKE_THROUGHOUT = 0.985;
const LOUD_NEAR = 0.35;
const BASS_NEAR = 0.5;

const { abs, max, min } = Math;

function dot(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/** How alike the harmony of two runs of beats is, beat by beat, 0 to 1, at the best of some shifts. */
function alikeBeatByBeat(a: readonly BeatSound[], b: readonly BeatSound[]): number {
  let best = 0;
  for (let shift = -SHIFT_BEATS; shift <= SHIFT_BEATS; shift++) {
    const from = max(0, -shift);
    const to = min(a.length, b.length - shift, from + MOST_BEATS);
    if (to - from < min(FEWEST_BEATS, a.length, b.length)) continue;
    let sum = 0;
    for (let i = from; i < to; i++) sum += dot(a[i]!.harmony, b[i + shift]!.harmony);
    best = max(best, sum / (to - from));
  }
  return best;
}

interface Character {
  readonly beats: readonly BeatSound[];
  readonly harmony: readonly number[];
  readonly loud: number;
  readonly bass: number;
}

function characterOf(beats: readonly BeatSound[]): Character {
  const mean = (of: (beat: BeatSound) => number): number => beats.reduce((sum, beat) => sum + of(beat), 0) / max(1, beats.length);
  const harmony = Array.from({ length: beats[0]?.harmony.length ?? 0 }, (_, k) => mean((beat) => beat.harmony[k]!));
  const size = Math.sqrt(dot(harmony, harmony)) || 1;
  return { beats, harmony: harmony.map((v) => v / size), loud: mean((b) => b.loud), bass: mean((b) => b.bass) };
}

function isSameMusic(a: Character, b: Character): boolean {
  const [loud, bass] = [abs(a.loud - b.loud), abs(a.bass - b.bass)];
  if (loud < LOUD_NEAR && bass < BASS_NEAR && dot(a.harmony, b.harmony) >= ALIKE_THROUGHOUT) return true;
  return loud < LOUD_APART && bass < BASS_APART && alikeBeatByBeat(a.beats, b.beats) >= ALIKE;
}

/** The letter of so many-th music that is heard: A, B … Z, AA, AB … */
export function letterOf(n: number): string {
  return n < 26 ? String.fromCharCode(65 + n) : letterOf(Math.floor(n / 26) - 1) + letterOf(n % 26);
}

/**
 * A letter for each section of a song: the same for those that sound alike, in their order.
 * @param sections the beats of each section, as soundOfBeats has them
 */
export function sectionLetters(sections: readonly (readonly BeatSound[])[]): string[] {
  const heard: Character[] = [];
  return sections.map((beats) => {
    const character = characterOf(beats);
    const known = heard.findIndex((other) => isSameMusic(other, character));
    if (known < 0) heard.push(character);
    return letterOf(known < 0 ? heard.length - 1 : known);
  });
}
