import { Chance } from './chance.ts';
import type { Bar, Composition, Metre, Note, Part } from './composition.ts';
import { crash, withFill, type DrumStroke } from './drums.ts';
import { bassPlayer, chordPlayer, tunePlayer, type Player } from './figures.ts';
import { chooseScale, chordOn, progression } from './harmony.ts';
import { chooseStyle, inManner, usualTempo, withStops } from './manner.ts';
import { barLength, swung } from './rhythm.ts';
import { drumFigure, makeRiff, type Riff } from './riff.ts';
import type { Style } from './style.ts';
import { STYLES } from './styles.ts';
import { tempoCurve } from './tempo-curve.ts';

/** What is wanted of a piece; what is left open is chosen by its seed. */
export interface Wish {
  readonly seed: number;
  readonly style?: string;
  /** about how long, seconds */
  readonly seconds?: number;
  /** of any kind: styles mixed, riffs, layers and voices, even loudness, stops, tempi as they are usual */
  readonly free?: boolean;
}

/** One instrument on its way through the piece. */
interface Seat {
  readonly role: 'drums' | 'bass' | 'chords' | 'tune';
  readonly part: Part;
  /** how often it plays in a section, 0 to 1 */
  readonly presence: number;
}

const PERCUSSION = 0;

function seat(chance: Chance, style: Style, role: Seat['role'], programs: readonly number[], volume: number, presence: number): Seat {
  const [least, most] = style.unsteady;
  return {
    role,
    presence,
    part: {
      program: role === 'drums' ? chance.of([PERCUSSION, PERCUSSION, 8, 16, 24, 25, 32, 40]) : chance.of(programs),
      drums: role === 'drums',
      volume: Math.round(Math.max(20, Math.min(127, volume))),
      notes: [],
      unsteady: chance.between(least, most) / 1000,
      late: chance.is(0.3) ? chance.normal(most / 2000) : 0,
    },
  };
}

function seatsOf(chance: Chance, style: Style): Seat[] {
  const seats: Seat[] = [];
  const drums = style.grooves.length > 0 && chance.is(0.92);
  if (drums) seats.push(seat(chance, style, 'drums', [], chance.between(75, 120), 0.88));
  if (chance.is(drums ? 0.93 : 0.75)) seats.push(seat(chance, style, 'bass', style.basses, chance.between(75, 115), 0.88));
  for (
    let i = chance.weighed([
      [1, 5],
      [2, 4],
      [3, 1],
    ] as const);
    i > 0;
    i--
  )
    seats.push(seat(chance, style, 'chords', style.chordPrograms, chance.between(50, 105), i === 1 ? 0.92 : 0.6));
  for (
    let i = style.voices
      ? chance.whole(...style.voices)
      : chance.weighed([
          [0, 1],
          [1, 6],
          [2, 3],
        ] as const);
    i > 0;
    i--
  )
    seats.push(seat(chance, style, 'tune', style.tunePrograms, chance.between(65, 115), 0.7));
  return seats;
}

const usesRiff = (style: Style): boolean => style.bass.includes('riff') || style.chords.includes('riff') || style.grooves.includes('riff');

/** Writes one section into the parts. */
function writeSection(
  chance: Chance,
  style: Style,
  seats: readonly Seat[],
  bars: readonly Bar[],
  key: number,
  swing: { ratio: number; parts: 2 | 4 },
): void {
  const metre: Metre = bars[0]!.metre;
  const scale = chooseScale(chance, style.mood);
  const degrees = progression(chance, bars.length + 1, style.blues === true && chance.is(0.7));
  const thick = chance.of([3, 3, 4]);
  const chords = degrees.map((degree) => chordOn(scale, degree, style.blues ? 4 : thick));
  // Popular music changes chords half a beat before the bar as often as not.
  const push = chance.is(0.5 * style.syncopation[1]) ? metre.unit / 2 : 0;
  const riff: Riff = usesRiff(style) ? makeRiff(chance, metre, style.syncopation) : [[]];
  const playing = seats.filter((s) => chance.is(s.presence));
  if (playing.length === 0 || playing.every((s) => s.role === 'tune')) playing.push(seats.find((s) => s.role !== 'tune') ?? seats[0]!);
  for (const { role, part } of playing) {
    let player: Player | null = null;
    let figure = '';
    if (role === 'bass') player = bassPlayer(chance, (figure = chance.of(style.bass)), metre);
    if (role === 'chords') player = chordPlayer(chance, (figure = chance.of(style.chords)), metre);
    if (role === 'tune') player = tunePlayer(chance, metre, chance.between(...style.syncopation), chance.of([55, 60, 64]));
    const name = chance.of(style.grooves.length > 0 ? style.grooves : (['rock'] as const));
    const lean = style.syncopation[1];
    const pattern = drumFigure(chance, name, metre, riff[0]!, lean);
    // A riff over two bars has drums over two bars.
    const second = (name === 'riff' && riff.length > 1) || chance.is(0.3) ? drumFigure(chance, name, metre, riff.at(-1)!, lean) : pattern;
    const leanOn =
      push > 0 &&
      role !== 'drums' &&
      (figure === 'stabs' || figure === 'rhythm' || figure === 'pad' || figure === 'held') &&
      chance.is(0.5);
    for (const [i, bar] of bars.entries()) {
      const length = barLength(bar.metre);
      const add = (at: number, sounding: number, pitch: number, velocity: number): void => {
        const place = bar.at + (style.swing > 0 && swing.ratio !== 0.5 ? swung(bar.metre, at, swing.ratio, swing.parts) : at);
        part.notes.push({
          at: place,
          length: sounding,
          pitch: Math.max(0, Math.min(127, pitch)),
          velocity: Math.max(1, Math.min(127, Math.round(velocity + chance.normal(6)))),
        });
      };
      if (role === 'drums') {
        const last = i === bars.length - 1 || i % 4 === 3;
        let strokes: DrumStroke[] = i % 2 === 1 ? second : pattern;
        if (last && chance.is(i === bars.length - 1 ? 0.7 : 0.3)) strokes = withFill(chance, strokes, bar.metre);
        if (i === 0 && chance.is(0.6)) strokes = [...strokes, crash()];
        for (const s of strokes) if (chance.is(0.98)) add(s.at, Math.min(0.25, s.length), s.sound, 115 * s.strength);
        continue;
      }
      const notes: Note[] = player!(
        { metre: bar.metre, key, scale, chord: chords[i]!, next: chords[i + 1]!, riff: riff[i % riff.length]! },
        chance,
      );
      for (const n of notes) {
        const early = leanOn && n.at === 0 && i > 0 ? push : 0;
        add(n.at - early, Math.min(n.length + early, length), n.pitch, n.velocity);
      }
    }
  }
}

/** Composes a piece: a style, a metre or two, sections with their own parts and patterns, and a tempo that may move. */
export function compose(wish: Wish): Composition {
  const chance = new Chance(wish.seed);
  const style = wish.free
    ? chooseStyle(chance, wish.style)
    : (STYLES.find((s) => s.name === wish.style) ?? chance.weighed(STYLES.map((s) => [s, s.weight] as const)));
  const seconds = wish.seconds ?? 60;
  const metre = chance.weighed(style.metres);
  const eighths = metre.unit === 0.5;
  const [least, most] = style.bpm;
  // Where eighths are counted they go by faster than quarters would.
  const bpm = eighths
    ? chance.between(Math.max(130, least), 250)
    : metre.unit === 1.5
      ? chance.between(Math.max(46, least * 0.8), Math.min(150, most))
      : wish.free
        ? usualTempo(chance, style.bpm)
        : Math.exp(chance.between(Math.log(least), Math.log(most)));
  const quarter = 60 / bpm / metre.unit;
  const seats = seatsOf(chance, style);
  const swing = {
    ratio: chance.is(style.swing) ? chance.between(0.56, 0.7) : 0.5,
    parts: chance.is(wish.free ? 0.3 : 0.12) ? (4 as const) : (2 as const),
  };
  if (metre.unit !== 1) swing.ratio = 0.5;
  let key = 36 + chance.whole(0, 11);
  const changing = chance.is(0.12);
  const phrase = chance.of([4, 4, 8, 2, 3]);

  const bars: Bar[] = [];
  const changes: number[] = [];
  let at = 0;
  const total = seconds / quarter;
  while (at < total) {
    changes.push(at);
    const own = changing && chance.is(0.45) ? chance.weighed(style.metres.filter(([m]) => m.unit === metre.unit)) : metre;
    const count = Math.max(
      1,
      chance.weighed([
        [4, 4],
        [8, 5],
        [2, 0.7],
        [12, style.blues ? 4 : 0.3],
        [6, 0.6],
        [3, 0.3],
        [5, 0.2],
      ] as const),
    );
    const section: Bar[] = [];
    for (let i = 0; i < count && at < total; i++) {
      section.push({ at, metre: own });
      at += barLength(own);
    }
    if (chance.is(0.15)) key = 36 + ((key - 36 + chance.of([1, 2, 5, 7])) % 12);
    writeSection(chance, style, seats, section, key, swing);
    bars.push(...section);
  }
  // The last chord rings on the next bar line.
  const rings = chance.is(0.7);
  if (rings) {
    for (const { role, part } of seats)
      if (role !== 'drums' && part.notes.length > 0)
        part.notes.push({ at, length: barLength(metre), pitch: role === 'bass' ? key : key + 24, velocity: 90 });
    bars.push({ at, metre });
  }
  const length = at + (rings ? metre.unit * 0.5 : 0);
  const curve = chance.weighed(style.curves);
  const written = wish.free
    ? withStops(
        chance,
        seats.map(({ part, role }) => inManner(chance, part, role, bars)),
        bars,
      )
    : seats.map((s) => s.part);
  return {
    name: `${style.name}-${wish.seed}`,
    style: style.name,
    parts: written.filter((part) => part.notes.length > 0),
    bars,
    length,
    tempo: tempoCurve(chance, curve, quarter, bars, length, phrase, changes),
  };
}
