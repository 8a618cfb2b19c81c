import type { Montage, Mark, AccentFloor } from '../document/montage.ts';
/** What is thinned away at first: most songs have far more weak accents than anyone cuts on. */
export const ACCENT_FLOOR: AccentFloor = { low: 0.6, mid: 0.6, high: 0.75, voice: 0.6 };

/** The strengths from which accents count. */
export function accentFloorOf(montage: Montage): AccentFloor {
  return montage.song?.accentFloor ?? ACCENT_FLOOR;
}

/** Marks that an edit may land on: all but the accents that were thinned away. */
export function marksInUse(montage: Montage): readonly Mark[] {
  const known = inUse.get(montage);
  if (known) return known;
  const floor = accentFloorOf(montage);
  const marks = montage.marks.filter((m) => m.kind !== 'accent' || m.strength === undefined || m.strength >= floor[m.band ?? 'mid']);
  inUse.set(montage, marks);
  return marks;
}

const inUse = new WeakMap<Montage, readonly Mark[]>();

/** Marks that count time: beats and the downbeats of bars, in order. */
export function pulse({ marks }: Pick<Montage, 'marks'>): readonly Mark[] {
  let beats = pulses.get(marks);
  if (!beats) pulses.set(marks, (beats = marks.filter((m) => m.kind === 'beat' || m.kind === 'bar').sort((a, b) => a.time - b.time)));
  return beats;
}

const pulses = new WeakMap<Montage['marks'], readonly Mark[]>();
