import type { Chance } from './chance.ts';
import type { Bar, Note, Part } from './composition.ts';
import { barLength } from './rhythm.ts';
import type { Style } from './style.ts';
import { FREE_STYLES, NAMED_STYLES } from './styles.ts';

/** Tempi that most music keeps to: middle (beats a minute) and spread of their logarithm. */
const USUAL_TEMPO = 110;
const USUAL_SPREAD = 0.27;

/** A style for a piece that may borrow, or the one that is named: some take their grooves, basses, chords and sounds from styles other than their own. */
export function chooseStyle(chance: Chance, name?: string): Style {
  const every = FREE_STYLES.map((s) => [s, s.weight] as const);
  const own = NAMED_STYLES.find((s) => s.name === name) ?? chance.weighed(every);
  if (!chance.is(0.35)) return own;
  const other = (): Style => (chance.is(0.6) ? chance.weighed(every) : own);
  const [drums, bass, chords, tune] = [other(), other(), other(), other()];
  return {
    ...own,
    name: `${own.name}-mixed`,
    grooves: drums.grooves,
    bass: bass.bass,
    basses: bass.basses,
    chords: chords.chords,
    chordPrograms: chords.chordPrograms,
    tunePrograms: tune.tunePrograms,
    syncopation: tune.syncopation,
  };
}

/** A tempo of a style, most of them near the usual ones. */
export function usualTempo(chance: Chance, [least, most]: Style['bpm']): number {
  if (chance.is(0.6))
    for (let tries = 0; tries < 8; tries++) {
      const bpm = USUAL_TEMPO * Math.exp(chance.normal(USUAL_SPREAD));
      if (bpm >= least && bpm <= most) return bpm;
    }
  return Math.exp(chance.between(Math.log(least), Math.log(most)));
}

/** What other sounds drum parts take for kick, snare and hat; sequencers' kits are not all alike. */
const OTHER_SOUNDS: ReadonlyMap<number, readonly number[]> = new Map([
  [36, [35, 41, 43, 45, 64]],
  [38, [37, 39, 40, 54, 56]],
  [42, [40, 44, 54, 69, 70, 75, 76]],
]);

/** A drum part on another kit: some of its sounds are others throughout. */
function onOtherKit(chance: Chance, notes: readonly Note[]): Note[] {
  const sounds = new Map([...OTHER_SOUNDS].flatMap(([sound, others]) => (chance.is(0.5) ? [[sound, chance.of(others)] as const] : [])));
  return notes.map((n) => ({ ...n, pitch: sounds.get(n.pitch) ?? n.pitch }));
}

/** Plays a written part in a manner of its own: every note as loud, a pedal held, graces, trills, another drum kit. */
export function inManner(chance: Chance, part: Part, role: string, bars: readonly Bar[]): Part {
  let notes = part.notes;
  if (chance.is(0.4)) {
    const level = chance.whole(75, 120);
    notes = notes.map((n) => ({ ...n, velocity: level }));
  }
  if (role === 'chords' && chance.is(0.2)) notes = pedalled(notes, bars);
  if (role === 'tune' && chance.is(0.25)) notes = adorned(chance, notes);
  if (role === 'drums' && chance.is(0.2)) notes = onOtherKit(chance, notes);
  return notes === part.notes ? part : { ...part, notes: [...notes] };
}

function pedalled(notes: readonly Note[], bars: readonly Bar[]): Note[] {
  let i = 0;
  return [...notes]
    .sort((a, b) => a.at - b.at)
    .map((n) => {
      while (i + 1 < bars.length && bars[i + 1]!.at <= n.at + 1e-6) i++;
      const end = bars[i]!.at + barLength(bars[i]!.metre);
      return { ...n, length: Math.max(n.length, end - n.at) };
    });
}

function adorned(chance: Chance, notes: readonly Note[]): Note[] {
  return notes.flatMap((n) => {
    if (n.length >= 1 && chance.is(0.3)) {
      const step = 0.125;
      const turns = Math.floor(n.length / step);
      return Array.from({ length: turns }, (_, i) => ({
        ...n,
        at: n.at + i * step,
        length: step,
        pitch: Math.min(127, n.pitch + 2 * (i % 2)),
      }));
    }
    if (n.at > 0.2 && chance.is(0.15)) return [{ ...n, at: n.at - 0.1, length: 0.09, pitch: Math.min(127, n.pitch + 1) }, n];
    return [n];
  });
}

/** Bars in which all but a part or none stop after the first stroke, as bands do before a chorus. */
export function withStops(chance: Chance, parts: readonly Part[], bars: readonly Bar[]): Part[] {
  if (!chance.is(0.2)) return [...parts];
  const stops = bars.filter((_, i) => i % 4 === 3 && chance.is(0.25));
  const goesOn = chance.is(0.6) ? chance.whole(0, parts.length - 1) : -1;
  const stopped = (n: Note): boolean =>
    stops.some(({ at, metre }) => n.at > at + metre.unit / 2 - 1e-6 && n.at < at + barLength(metre) - 1e-6);
  return parts.map((part, i) => (i === goesOn ? part : { ...part, notes: part.notes.filter((n) => !stopped(n)) }));
}
