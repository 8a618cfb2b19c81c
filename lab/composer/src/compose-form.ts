import { Chance } from './chance.ts';
import type { Bar, Composition, Metre, Note, Part } from './composition.ts';
import { crash, withFill, type DrumStroke } from './drums.ts';
import { bassPlayer, chordPlayer, tunePlayer, type BassFigure, type ChordFigure, type Player } from './figures.ts';
import { chordOn, type Scale } from './harmony.ts';
import { barLength } from './rhythm.ts';
import { drumFigure, type DrumFigure } from './riff.ts';
import { tempoCurve, type TempoCurve } from './tempo-curve.ts';

/** An instrument of a piece with a form, and how it plays. */
export type Instrument = {
  /** General MIDI program; of drums the kit */
  readonly program: number;
  /** 1 to 127 */
  readonly volume: number;
} & (
  | { readonly role: 'drums'; readonly figure: DrumFigure }
  | { readonly role: 'bass'; readonly figure: BassFigure }
  | { readonly role: 'chords'; readonly figure: ChordFigure }
  /** low is the lowest pitch of the tune */
  | { readonly role: 'tune'; readonly low: number }
);

/** A stretch of the piece in which some of the instruments play. */
export interface Passage {
  readonly bars: number;
  /** passages of one letter have the same chords and the same notes */
  readonly letter: string;
  /** the instruments that play, by their names */
  readonly plays: readonly string[];
  /** how strongly, 0 to 1 */
  readonly strength: number;
}

/** A piece of which the course is laid down, unlike those that {@link compose} draws by chance. */
export interface FormWish {
  readonly name: string;
  readonly seed: number;
  readonly metre: Metre;
  /** beats a minute */
  readonly bpm: number;
  readonly curve: TempoCurve;
  /** pitch of the key's note, 36 to 47 */
  readonly key: number;
  readonly scale: Scale;
  /** degrees of the chords by letter, one a bar, over and over */
  readonly chords: Readonly<Record<string, readonly number[]>>;
  readonly instruments: Readonly<Record<string, Instrument>>;
  readonly form: readonly Passage[];
}

/** From here on a passage begins with a crash, where the one before was softer. */
const FULL = 0.8;
/** So much stronger than the passage before it, a passage is led up to by a roll. */
const LEAP = 0.3;
const SNARE = 38;
const ROLL_PARTS = 4;
/** How softly the softest passage is played, of full velocity. */
const SOFTEST = 0.74;
const UNSTEADY_S = 0.003;

/** What an instrument plays in the bars of a letter: notes by bar, from the bar line. */
function written(wish: FormWish, name: string, letter: string, bars: number): Note[][] {
  const { metre, key, scale, seed } = wish;
  const instrument = wish.instruments[name]!;
  const chance = new Chance(seed + 131 * letter.charCodeAt(0) + [...name].reduce((sum, c) => sum + 17 * c.charCodeAt(0), 0));
  const degrees = wish.chords[letter]!;
  const chord = (i: number): readonly number[] => chordOn(scale, degrees[i % degrees.length]!, 3);
  if (instrument.role === 'drums') {
    const pattern = drumFigure(chance, instrument.figure, metre, [], 0.3);
    return Array.from({ length: bars }, (_, i) => {
      const strokes: DrumStroke[] = i % 4 === 3 ? withFill(chance, pattern, metre) : pattern;
      return strokes.map((s) => ({ at: s.at, length: Math.min(0.25, s.length), pitch: s.sound, velocity: 115 * s.strength }));
    });
  }
  const player: Player =
    instrument.role === 'bass'
      ? bassPlayer(chance, instrument.figure, metre)
      : instrument.role === 'chords'
        ? chordPlayer(chance, instrument.figure, metre)
        : tunePlayer(chance, metre, 0.25, instrument.low);
  return Array.from({ length: bars }, (_, i) =>
    player({ metre, key, scale, chord: chord(i), next: chord(i + 1), riff: [] }, chance).map((n) => ({ ...n })),
  );
}

/** A roll that grows over one bar, up to the passage that follows. */
const roll = (metre: Metre): Note[] =>
  Array.from({ length: metre.beats * ROLL_PARTS }, (_, i) => ({
    at: (i * metre.unit) / ROLL_PARTS,
    length: 0.2,
    pitch: SNARE,
    velocity: 40 + (75 * i) / (metre.beats * ROLL_PARTS),
  }));

/**
 * Composes a piece by its form: what plays when, over which chords, and how strongly. Stronger passages are led up to by a roll and
 * begin with a crash; the last chord rings on the bar line after the form.
 * @throws RangeError for a passage that names an instrument or a letter that the piece has not
 */
export function composeForm(wish: FormWish): Composition {
  const { metre, form, instruments, bpm } = wish;
  const long = barLength(metre);
  const parts = new Map<string, Part>();
  const sheets = new Map<string, Note[][]>();
  const drums = Object.keys(instruments).find((name) => instruments[name]!.role === 'drums');
  for (const [name, { role, program, volume }] of Object.entries(instruments))
    parts.set(name, { program, drums: role === 'drums', volume, notes: [], unsteady: UNSTEADY_S, late: 0 });
  const bars: Bar[] = [];
  const changes: number[] = [];
  const write = (name: string, at: number, notes: readonly Note[], strength: number): void => {
    const part = parts.get(name)!;
    for (const n of notes)
      part.notes.push({
        at: at + n.at,
        length: n.length,
        pitch: Math.max(0, Math.min(127, n.pitch)),
        velocity: Math.max(1, Math.min(127, Math.round(n.velocity * (SOFTEST + (1 - SOFTEST) * strength)))),
      });
  };
  for (const [i, passage] of form.entries()) {
    const { letter, plays, strength } = passage;
    if (!wish.chords[letter]) throw new RangeError(`"${wish.name}" has no chords for "${letter}".`);
    const longest = Math.max(...form.filter((p) => p.letter === letter).map((p) => p.bars));
    const leaps = (form[i + 1]?.strength ?? 0) - strength >= LEAP;
    changes.push(bars.length * long);
    for (let b = 0; b < passage.bars; b++) {
      const at = bars.length * long;
      const last = b === passage.bars - 1;
      for (const name of plays) {
        if (!instruments[name]) throw new RangeError(`"${wish.name}" has no instrument "${name}".`);
        const sheet = sheets.get(`${name} ${letter}`) ?? written(wish, name, letter, longest);
        sheets.set(`${name} ${letter}`, sheet);
        write(name, at, sheet[b]!, strength);
      }
      if (drums && last && leaps) write(drums, at, roll(metre), 1);
      if (drums && b === 0 && strength >= FULL && (form[i - 1]?.strength ?? 0) < strength) {
        const { sound, length, strength: struck } = crash();
        write(drums, at, [{ at: 0, length, pitch: sound, velocity: 125 * struck }], 1);
      }
      bars.push({ at, metre });
    }
  }
  const end = bars.length * long;
  for (const [name, { role }] of Object.entries(instruments))
    if (role !== 'drums' && form.at(-1)!.plays.includes(name))
      write(name, end, [{ at: 0, length: long, pitch: wish.key + (role === 'bass' ? 0 : 24), velocity: 90 }], 0.8);
  bars.push({ at: end, metre });
  const length = end + metre.unit * 0.5;
  return {
    name: wish.name,
    style: wish.name,
    parts: [...parts.values()].filter((p) => p.notes.length > 0),
    bars,
    length,
    tempo: tempoCurve(new Chance(wish.seed), wish.curve, 60 / bpm / metre.unit, bars, length, 8, changes),
  };
}
