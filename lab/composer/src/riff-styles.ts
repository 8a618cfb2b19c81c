import { FOUR, THREE, TWO, FIVE, SIX, SEVEN, TWELVE } from './palette.ts';
import type { Style } from './style.ts';

const SEQUENCED = [
  ['machine', 8],
  ['sections', 1],
] as const;

/** Styles whose parts hang together by a riff, by layers of percussion, or by imitation. */
export const RIFF_STYLES: readonly Style[] = [
  {
    name: 'riffs',
    weight: 4,
    metres: [
      [FOUR, 8],
      [THREE, 1],
      [SIX, 0.5],
      [FIVE, 0.7],
      [SEVEN, 0.5],
      [TWELVE, 0.7],
    ],
    bpm: [76, 190],
    curves: [
      ['machine', 5],
      ['drift', 2],
      ['sections', 3],
    ],
    swing: 0.1,
    mood: 'dark',
    grooves: ['riff', 'riff', 'riff', 'rock', 'halftime', 'doublekick', 'gallop', 'toms'],
    bass: ['riff', 'riff', 'riff', 'eighths', 'roots'],
    basses: [33, 34, 36, 38],
    chords: ['riff', 'riff', 'riff', 'chug', 'pad', 'arpeggio', 'tremolo'],
    chordPrograms: [30, 29, 30, 28, 81, 16, 18],
    tunePrograms: [30, 29, 81, 48, 53, 27],
    unsteady: [0, 10],
    syncopation: [0.1, 0.8],
  },
  {
    name: 'layers',
    weight: 5,
    metres: [
      [FOUR, 9],
      [THREE, 0.7],
      [SIX, 0.3],
    ],
    bpm: [80, 150],
    curves: SEQUENCED,
    swing: 0.2,
    mood: 'any',
    grooves: ['layers', 'layers', 'layers', 'floor', 'funk', 'backbeat', 'breakbeat', 'riff'],
    bass: ['riff', 'rhythm', 'rhythm', 'octaves', 'offbeats', 'tresillo', 'sixteenths'],
    basses: [33, 35, 36, 37, 38, 39, 87],
    chords: ['riff', 'stabs', 'stabs', 'comping', 'broken', 'arpeggio', 'pad', 'offbeats'],
    chordPrograms: [3, 4, 5, 7, 11, 12, 16, 17, 27, 28, 48, 50, 61, 80, 81, 87, 88, 90, 100, 107, 114, 115],
    tunePrograms: [8, 11, 53, 61, 66, 80, 81, 85, 87, 101, 107, 108, 45],
    unsteady: [0, 4],
    syncopation: [0.3, 1],
  },
  {
    name: 'voices',
    weight: 2,
    metres: [
      [FOUR, 5],
      [THREE, 3],
      [TWO, 2],
      [SIX, 0.5],
    ],
    bpm: [58, 130],
    curves: [
      ['machine', 3],
      ['drift', 3],
      ['rubato', 3],
      ['slowing', 0.5],
    ],
    swing: 0,
    mood: 'any',
    grooves: [],
    bass: ['walking', 'eighths', 'rhythm', 'roots', 'held'],
    basses: [0, 6, 19, 42, 43, 70],
    chords: ['pad', 'block', 'broken', 'alberti', 'arpeggio'],
    chordPrograms: [0, 6, 19, 48, 46, 52],
    tunePrograms: [0, 6, 19, 40, 41, 42, 48, 52, 68, 70, 71, 73, 56, 60],
    unsteady: [2, 20],
    syncopation: [0, 0.5],
    voices: [2, 4],
  },
];
