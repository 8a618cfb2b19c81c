import { FOUR, THREE, SIX, MACHINE } from './palette.ts';
import type { Style } from './style.ts';

const ANY_PROGRAM = Array.from({ length: 104 }, (_, i) => i);

/** Music as it is put together on a computer: kits, instruments and loudness that no band would choose. */
export const SEQUENCED_STYLES: readonly Style[] = [
  {
    name: 'sequenced',
    weight: 4,
    metres: [
      [FOUR, 14],
      [THREE, 1],
      [SIX, 0.3],
    ],
    bpm: [72, 150],
    curves: MACHINE,
    swing: 0.1,
    mood: 'any',
    grooves: ['sequenced'],
    bass: ['roots', 'eighths', 'octaves', 'rhythm', 'sixteenths', 'fifths', 'tresillo', 'held', 'riff'],
    basses: [...ANY_PROGRAM.slice(32, 40), 38, 39, 58, 87, 0],
    chords: ['stabs', 'pad', 'arpeggio', 'offbeats', 'broken', 'alberti', 'strum', 'riff', 'block'],
    chordPrograms: ANY_PROGRAM,
    tunePrograms: ANY_PROGRAM,
    unsteady: [0, 3],
    syncopation: [0.1, 0.9],
    voices: [0, 3],
  },
];
