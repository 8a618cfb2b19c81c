import type { Chance } from './chance.ts';
import type { Metre } from './composition.ts';
import { barLength, groupStarts, pulse, rhythm, type Stroke } from './rhythm.ts';

/** General MIDI percussion. */
const KICK = 36;
const SNARE = 38;
const RIM = 37;
const CLAP = 39;
const CLOSED = 42;
const PEDAL = 44;
const OPEN = 46;
const CRASH = 49;
const RIDE = 51;
const BELL = 53;
const TAMBOURINE = 54;
const COWBELL = 56;
const CLAVES = 75;
const SHAKER = 70;
/** Pairs of sounds to count with: the first stroke of a bar, and the others. */
const COUNTED = [
  [76, 77],
  [56, 56],
  [75, 75],
  [37, 37],
  [42, 42],
  [36, 36],
  [36, 42],
  [36, 38],
  [81, 80],
  [67, 68],
] as const;
const TOMS = [50, 48, 47, 45, 43, 41] as const;
const CONGAS = [60, 61, 62, 63, 64] as const;

/** A stroke on one drum. */
export interface DrumStroke extends Stroke {
  readonly sound: number;
}

export type GrooveName =
  | 'rock'
  | 'halftime'
  | 'floor'
  | 'punk'
  | 'breakbeat'
  | 'onedrop'
  | 'swing'
  | 'shuffle'
  | 'bossa'
  | 'train'
  | 'march'
  | 'toms'
  | 'doublekick'
  | 'blast'
  | 'gallop'
  | 'funk'
  | 'backbeat'
  | 'everybeat'
  | 'count'
  | 'latin'
  | 'waltz'
  | 'jazzwaltz'
  | 'compound'
  | 'groups'
  | 'shaker'
  | 'brushes';

/** Strokes of "x" (loud), "o" (soft) and "." (none) spread evenly over a bar. */
function spell(sound: number, pattern: string, length: number): DrumStroke[] {
  const step = length / pattern.length;
  return [...pattern].flatMap((sign, i) =>
    sign === '.' ? [] : [{ sound, at: i * step, length: step, strength: sign === 'x' ? 0.95 : 0.5 }],
  );
}

const put = (sound: number, strokes: readonly Stroke[], scale = 1): DrumStroke[] =>
  strokes.map((stroke) => ({ ...stroke, sound, strength: stroke.strength * scale }));

const ROCK_KICKS = [
  'x.......x.......',
  'x.......x.x.....',
  'x.x.....x.......',
  'x......xx.......',
  'x.....x.x.......',
  'x..x....x.x.....',
  'x.....x...x.....',
  'x......x..x..x..',
];
const FUNK_KICKS = ['x..x..x...x..x..', 'x.x....x..x.....', 'x.....xx..x...x.', 'x..x......x.x...', 'x......x.x.x....'];
const BREAK_KICKS = ['x.x.......xx....', 'x.........x.....', 'x..x......x..x..'];
const BREAK_SNARES = ['....x..o.o..x..o', '....x.......x...', '....x..o....x.o.'];

function timekeeper(chance: Chance, metre: Metre): DrumStroke[] {
  const sound = chance.weighed([
    [CLOSED, 5],
    [RIDE, 2],
    [OPEN, 0.8],
    [TAMBOURINE, 0.5],
    [BELL, 0.4],
  ] as const);
  const parts = chance.weighed([
    [2, 6],
    [1, 2.5],
    [4, 2],
  ] as const);
  return put(sound, pulse(metre, metre.unit === 1.5 ? chance.of([1, 3, 3]) : parts), 0.7);
}

/** One bar of a drum pattern. Patterns for bars of four are turned into ones by groups where there are not four beats. */
export function groove(chance: Chance, wanted: GrooveName, metre: Metre): DrumStroke[] {
  const length = barLength(metre);
  const name = wanted === 'count' || (metre.beats === 4 && metre.unit === 1) ? wanted : fitting(chance, wanted, metre);
  const beats = pulse(metre, 1);
  switch (name) {
    case 'rock':
      return [
        ...spell(KICK, chance.of(ROCK_KICKS), length),
        ...spell(SNARE, chance.of(['....x.......x...', '....x.......x...', '....x.......x..o', '....x..o.o..x...']), length),
        ...timekeeper(chance, metre),
      ];
    case 'halftime':
      return [
        ...spell(KICK, chance.of(['x.......', 'x....x..', 'x.x.....', 'x..x..x.']), length),
        ...spell(SNARE, '....x...', length),
        ...timekeeper(chance, metre),
      ];
    case 'floor':
      return [
        ...put(KICK, beats),
        ...(chance.is(0.7) ? spell(chance.of([CLAP, SNARE]), '.x.x', length) : []),
        ...(chance.is(0.75) ? spell(OPEN, '.x.x.x.x', length) : []),
        ...(chance.is(0.5) ? put(CLOSED, pulse(metre, 4), 0.5) : []),
      ];
    case 'punk':
      return [
        ...spell(KICK, chance.of(['x.x.x.x.', 'x..xx.x.', 'x.xxx.x.']), length),
        ...spell(SNARE, '.x.x.x.x', length),
        ...put(chance.of([CLOSED, RIDE, OPEN]), pulse(metre, chance.of([1, 2])), 0.7),
      ];
    case 'breakbeat':
      return [
        ...spell(KICK, chance.of(BREAK_KICKS), length),
        ...spell(SNARE, chance.of(BREAK_SNARES), length),
        ...put(CLOSED, pulse(metre, chance.of([2, 4])), 0.6),
      ];
    case 'onedrop':
      return [
        ...spell(KICK, chance.of(['....x...', '....x...', 'x...x...', 'x.x.x.x.']), length),
        ...spell(chance.of([SNARE, RIM]), '....x...', length),
        ...put(CLOSED, pulse(metre, 2), 0.65),
      ];
    case 'swing':
      return [
        ...spell(RIDE, chance.of(['x.x.xox.x.xo'.slice(0, 12), 'x..x.ox..x.o', 'x..x..x..x..']), length),
        ...spell(PEDAL, '.x.x', length),
        ...(chance.is(0.4) ? put(KICK, beats, 0.4) : []),
        ...(chance.is(0.5) ? spell(SNARE, chance.of(['.....o......', '..o.....o..o', '........o...']), length) : []),
      ];
    case 'shuffle':
      return [
        ...spell(KICK, chance.of(['x.....x.....', 'x....xx.....', 'x..x..x..x..']), length),
        ...spell(SNARE, '...x.....x..', length),
        ...spell(chance.of([CLOSED, RIDE]), chance.of(['x.ox.ox.ox.o', 'x.xx.xx.xx.x']), length),
      ];
    case 'bossa':
      return [
        ...spell(KICK, 'x..xx..x', length),
        ...spell(RIM, chance.of(['x..x..x...x..x..', 'x..x...x..x..x..', '..x.x..x..x.x...']), length),
        ...put(chance.of([CLOSED, SHAKER]), pulse(metre, 2), 0.6),
      ];
    case 'train':
      return [
        ...put(KICK, beats, 0.8),
        ...spell(SNARE, chance.of(['oxoxoxox', 'oox.oox.oox.oox.', 'ooxoooxoooxoooxo']), length),
        ...(chance.is(0.5) ? spell(PEDAL, '.x.x.x.x', length) : []),
      ];
    case 'march':
      return [
        ...spell(KICK, chance.of(['x.x.', 'xxxx', 'x.x.']), length),
        ...spell(SNARE, chance.of(['x.x.x.x.x.ooxxx.', '..x...x...x.oox.', 'x..xx..xx.x.x.x.', '.x.x.x.x']), length),
        ...(chance.is(0.4) ? spell(CRASH, '.x.x', length) : []),
      ];
    case 'toms':
      return [
        ...put(KICK, chance.is(0.5) ? beats : groupStarts(metre)),
        ...put(chance.of(TOMS), rhythm(chance, metre, 4, 0.45, 0.4)),
        ...put(chance.of(TOMS), rhythm(chance, metre, 2, 0.3, 0.6), 0.9),
      ];
    case 'doublekick':
      return [
        ...put(KICK, pulse(metre, chance.of([4, 4, 2])), 0.85),
        ...spell(SNARE, chance.of(['.x.x', '..x.']), length),
        ...put(chance.of([CRASH, RIDE, OPEN, CLOSED]), pulse(metre, chance.of([1, 1, 2])), 0.7),
      ];
    case 'blast':
      return [
        ...put(KICK, pulse(metre, chance.of([2, 4])), 0.85),
        ...(chance.is(0.5) ? spell(SNARE, '.x.x.x.x', length) : put(SNARE, pulse(metre, 2), 0.9)),
        ...put(chance.of([CRASH, RIDE, CLOSED]), pulse(metre, chance.of([1, 2])), 0.7),
      ];
    case 'gallop':
      return [
        ...spell(KICK, 'x.xxx.xxx.xxx.xx', length),
        ...spell(SNARE, '.x.x', length),
        ...put(chance.of([CLOSED, RIDE, CRASH]), beats, 0.8),
      ];
    case 'funk':
      return [
        ...spell(KICK, chance.of(FUNK_KICKS), length),
        ...spell(SNARE, chance.of(['....x..o.o..x..o', '....x.......x...', '....x..o.o.ox...']), length),
        ...put(CLOSED, pulse(metre, chance.of([4, 4, 2])), 0.6),
      ];
    case 'backbeat':
      return [...spell(KICK, 'x.x.', length), ...spell(chance.of([SNARE, CLAP, RIM]), '.x.x', length)];
    case 'everybeat':
      return [
        ...put(SNARE, beats, 0.9),
        ...spell(KICK, chance.of(ROCK_KICKS), length),
        ...(chance.is(0.6) ? put(TAMBOURINE, pulse(metre, 2), 0.6) : []),
      ];
    case 'count': {
      const [first, others] = chance.of(COUNTED);
      const soft = first === others ? chance.between(0.55, 0.9) : chance.between(0.75, 1);
      return beats.map((s, i) => ({ ...s, sound: i === 0 ? first : others, strength: i === 0 ? 1 : soft }));
    }
    case 'latin':
      return [
        ...spell(CLAVES, chance.of(['x..x..x...x.x...', '..x.x...x..x..x.']), length),
        ...put(chance.of(CONGAS), rhythm(chance, metre, 4, 0.4, 0.7), 0.9),
        ...put(chance.of(CONGAS), rhythm(chance, metre, 2, 0.35, 0.6), 0.8),
        ...(chance.is(0.6) ? put(COWBELL, pulse(metre, chance.of([1, 2])), 0.8) : []),
        ...put(SHAKER, pulse(metre, chance.of([2, 4])), 0.5),
      ];
    case 'waltz':
      return [
        ...put(KICK, beats.slice(0, 1)),
        ...put(chance.of([SNARE, CLOSED, PEDAL, RIM]), beats.slice(1), 0.7),
        ...(chance.is(0.4) ? put(chance.of([CLOSED, RIDE]), pulse(metre, chance.of([1, 2])), 0.6) : []),
      ];
    case 'jazzwaltz':
      return [
        ...put(KICK, beats.slice(0, 1), 0.7),
        ...spell(RIDE, chance.of(['x..x.ox..', 'x..x..x.o', 'x..x.ox.o']), length),
        ...spell(PEDAL, chance.of(['.x.', '.xx', '..x']), length),
      ];
    case 'compound':
      return [
        ...put(KICK, chance.is(0.6) ? groupStarts(metre) : [beats[0]!]),
        ...put(
          SNARE,
          beats.filter((_, i) => i % 2 === 1),
        ),
        ...put(chance.of([CLOSED, RIDE, SHAKER]), pulse(metre, 3), 0.65),
        ...(chance.is(0.3) ? put(KICK, rhythm(chance, metre, 3, 0.25, 0.4)) : []),
      ];
    case 'groups': {
      const starts = groupStarts(metre);
      const answers = starts.slice(1);
      return [
        ...put(KICK, chance.is(0.6) ? starts : [starts[0]!]),
        ...put(SNARE, answers.length > 0 && chance.is(0.7) ? answers : beats.filter((_, i) => i % 2 === 1)),
        ...(chance.is(0.4) ? put(KICK, rhythm(chance, metre, 2, 0.25, 0.4), 0.9) : []),
        ...timekeeper(chance, metre),
      ];
    }
    case 'shaker':
      return [
        ...put(chance.of([SHAKER, TAMBOURINE, CLOSED]), pulse(metre, metre.unit === 1.5 ? 3 : chance.of([2, 4])), 0.8),
        ...(chance.is(0.4) ? put(KICK, groupStarts(metre), 0.7) : []),
      ];
    case 'brushes':
      return [
        ...put(
          chance.of([40, PEDAL, CLOSED]),
          beats.filter((_, i) => i % 2 === 1),
          0.5,
        ),
        ...put(RIDE, pulse(metre, 1), 0.5),
      ];
  }
}

function fitting(chance: Chance, wanted: GrooveName, metre: Metre): GrooveName {
  if (metre.unit === 1.5) return wanted === 'shaker' ? wanted : 'compound';
  if (metre.beats === 3) return wanted === 'swing' || wanted === 'brushes' ? 'jazzwaltz' : chance.of(['waltz', 'waltz', 'groups']);
  if (metre.beats === 2) return chance.of(['groups', 'shaker']);
  return wanted === 'toms' || wanted === 'shaker' ? wanted : 'groups';
}

/** A fill in the last beat or two of a bar, which leaves out what the groove had there. */
export function withFill(chance: Chance, bar: readonly DrumStroke[], metre: Metre): DrumStroke[] {
  const length = barLength(metre);
  const from = length - metre.unit * chance.of(metre.beats > 2 ? [1, 1, 2] : [1]);
  const parts = metre.unit === 1.5 ? 3 : chance.of([2, 4, 4, 3]);
  const step = metre.unit / parts;
  const fill: DrumStroke[] = [];
  let tom = chance.whole(0, 2);
  for (let at = from; at < length - 1e-6; at += step) {
    if (chance.is(0.85))
      fill.push({ sound: chance.is(0.4) ? SNARE : TOMS[Math.min(5, tom)]!, at, length: step, strength: chance.between(0.6, 1) });
    if (chance.is(0.4)) tom++;
  }
  return [...bar.filter((stroke) => stroke.at < from - 1e-6), ...fill];
}

/** A crash on the bar line. */
export const crash = (): DrumStroke => ({ sound: CRASH, at: 0, length: 1, strength: 0.95 });
