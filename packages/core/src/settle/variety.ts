import { toMontageTime } from '../music/arrangement.ts';
import { frameTime } from '../time/frames.ts';
import { CommandError } from '../document/command-error.ts';
import type { Mark, Montage } from '../document/montage.ts';
import { firstFrom } from '../lists/first-from.ts';
import { markWeight } from '../score/mark-weight.ts';
import { placedMarks, type PlacedMark } from '../marks/placed-marks.ts';
import { scoreOf } from '../score/score.ts';
import { seeded } from '../lists/seeded.ts';
import { rollCuts } from '../shots/trim-commands.ts';
import { pulse } from '../marks/in-use.ts';

/** How long slots are and how well the next could be guessed. */
export interface Variety {
  /** length of each slot in beats, to the half; in seconds where there are no beats */
  readonly lengths: readonly { readonly at: number; readonly length: number; readonly beats: number }[];
  readonly histogram: readonly { readonly beats: number; readonly count: number }[];
  /** share of slots whose length the two before them foretell, 0 to 1 */
  readonly predictable: number;
}

/** Length of a beat around a montage time, seconds; one second where there are no beats. */
function beatLengthAt(beats: readonly number[], time: number): number {
  const i = Math.max(
    1,
    firstFrom(beats, (b) => b, time + 1e-9),
  );
  const [a, b] = [beats[i - 1], beats[i]];
  return a !== undefined && b !== undefined && b > a ? b - a : beats.length > 1 ? (beats.at(-1)! - beats[0]!) / (beats.length - 1) : 1;
}

/**
 * How predictable the cutting is. Each slot's length is guessed as the one that most often followed the same two lengths so
 * far (a prequential count, Dawid 1984; contexts as in prediction by partial matching, Cleary and Witten 1984).
 * @returns seconds and beats; nothing predictable for fewer than two slots
 */
export function varietyOf(montage: Montage): Variety {
  const { slots } = scoreOf(montage);
  const pieces = montage.song?.pieces ?? [];
  const beats = pulse(montage).flatMap((m) => toMontageTime(pieces, m.time) ?? []);
  const lengths = slots.map((slot) => {
    const at = frameTime(slot.start.frame, montage.shape.rate);
    return { at, length: slot.length, beats: Math.max(0.5, Math.round((2 * slot.length) / beatLengthAt(beats, at)) / 2) };
  });
  const counts = new Map<number, number>();
  for (const { beats: n } of lengths) counts.set(n, (counts.get(n) ?? 0) + 1);
  const histogram = [...counts].map(([n, count]) => ({ beats: n, count })).sort((a, b) => a.beats - b.beats);

  const seen = new Map<string, Map<number, number>>();
  let right = 0;
  lengths.forEach(({ beats: now }, i) => {
    const before = lengths.slice(Math.max(0, i - 2), i).map((l) => l.beats);
    const contexts = [before.join(' '), before.slice(-1).join(' '), ''];
    const known = contexts.map((c) => seen.get(c)).find((c) => c);
    const guess = known && [...known].sort((a, b) => b[1] - a[1])[0]![0];
    if (guess === now) right++;
    for (const context of contexts) {
      const follows = seen.get(context) ?? new Map<number, number>();
      follows.set(now, (follows.get(now) ?? 0) + 1);
      seen.set(context, follows);
    }
  });
  return { lengths, histogram, predictable: lengths.length > 1 ? right / (lengths.length - 1) : 0 };
}

/** How much a mark draws a cut at a montage time. Near ones are preferred, so that shots do not change out of all proportion. */
const pull = (m: PlacedMark, time: number): number => markWeight(m.mark) / (1 + Math.abs(m.time - time));

/** Slots around a cut must keep at least this share of a beat. */
const LEAST_BEATS = 0.9;

/**
 * Some cuts moved to other good marks between their neighbours, by seed. Cuts on drops and cues, free ones and those beside
 * locked shots stay.
 * @param share of the cuts that may move, 0 to 1
 */
export function loosened(montage: Montage, seed: number, share: number): Montage {
  const random = seeded(seed);
  const { rate } = montage.shape;
  const marks = placedMarks(montage);
  const beats: number[] = [];
  for (const m of marks) if (m.mark.kind === 'beat' || m.mark.kind === 'bar') beats.push(m.time);
  const taken = new Set<string | null>();
  for (const p of montage.pegs) taken.add(p.markId);
  const landings = new Map<string, Mark>();
  const found: PlacedMark[] = [];
  const pulls: number[] = [];
  // Cuts come in order, so marks are found by walking along with them.
  let first = 0;
  const { slots } = scoreOf(montage);
  /** where the slot before the cut begins, after what was moved so far */
  let begins = 0;
  for (let i = 1; i < slots.length; i++) {
    const [before, after] = [slots[i - 1]!, slots[i]!];
    const { mark, peg, frame, time, id } = after.start;
    const start = begins;
    begins = frame;
    // Asked first: of most cuts nothing else has to be looked at then.
    if (random() >= share) continue;
    if (!mark || peg?.offset !== 0 || mark.kind === 'drop' || mark.kind === 'cue') continue;
    if (before.placed?.shot.locked || after.placed?.shot.locked) continue;
    const room = LEAST_BEATS * beatLengthAt(beats, time);
    const [from, to] = [frameTime(start, rate) + room, frameTime(after.end.frame, rate) - room];
    while (first < marks.length && marks[first]!.frame <= start) first++;
    found.length = pulls.length = 0;
    let sum = 0;
    for (let k = first; k < marks.length && marks[k]!.frame < after.end.frame; k++) {
      const m = marks[k]!;
      if (m.time < from || m.time >= to + 1e-9 || taken.has(m.mark.id)) continue;
      const pulled = pull(m, time);
      found.push(m);
      pulls.push(pulled);
      sum += pulled;
    }
    let left = random() * sum;
    let nth = 0;
    while (nth < found.length && (left -= pulls[nth]!) > 0) nth++;
    const chosen = found[nth];
    if (!chosen) continue;
    taken.delete(mark.id);
    taken.add(chosen.mark.id);
    landings.set(id, chosen.mark);
    begins = chosen.frame;
  }
  if (landings.size === 0) throw new CommandError('There are no other marks between these cuts. Mark accents in Song, or hang fewer pegs.');
  return rollCuts(montage, landings);
}
