import { FOUR, SIX, THREE } from './palette.ts';
import type { Style } from './style.ts';

/** Fast, loud bands: dense kicks beneath, a snare that tells the pulse or its half, guitars that play with the kicks. */
export const HEAVY_STYLES: readonly Style[] = [
  {
    name: 'heavy',
    weight: 3,
    metres: [
      [FOUR, 20],
      [THREE, 0.5],
      [SIX, 0.5],
    ],
    bpm: [135, 235],
    curves: [
      ['machine', 4],
      ['drift', 4],
      ['sections', 1],
    ],
    swing: 0,
    mood: 'dark',
    grooves: ['punk', 'punk', 'doublekick', 'doublekick', 'gallop', 'blast', 'riff', 'riff', 'rock', 'halftime', 'everybeat'],
    bass: ['riff', 'riff', 'eighths', 'sixteenths', 'roots'],
    basses: [33, 34, 34, 36],
    chords: ['riff', 'riff', 'chug', 'chug', 'tremolo', 'pad'],
    chordPrograms: [30, 30, 29],
    tunePrograms: [30, 29, 81, 48],
    unsteady: [0, 14],
    syncopation: [0.1, 0.6],
  },
];
