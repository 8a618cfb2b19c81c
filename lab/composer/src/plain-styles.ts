import { FOUR, THREE, TWO, SIX, BAND, BASSES, PADS, PIANOS, SYNTH_BASSES } from './palette.ts';
import type { Style } from './style.ts';

/** Music so plain that little but the change of the chord, or the first of the counted strokes, says where a bar begins. */
export const PLAIN_STYLES: readonly Style[] = [
  {
    name: 'plain',
    weight: 3,
    metres: [
      [FOUR, 14],
      [THREE, 2],
      [TWO, 0.3],
      [SIX, 0.3],
    ],
    bpm: [60, 180],
    curves: BAND,
    swing: 0,
    mood: 'any',
    grooves: ['count', 'count', 'backbeat', 'backbeat', 'waltz', 'floor'],
    bass: ['held', 'held', 'roots', 'fifths'],
    basses: [...BASSES, ...SYNTH_BASSES],
    chords: ['pad', 'pad', 'block'],
    chordPrograms: [...PADS, ...PIANOS, 16, 19, 48, 50],
    tunePrograms: [0, 48, 73, 80, 81],
    unsteady: [0, 4],
    syncopation: [0, 0.4],
  },
];
