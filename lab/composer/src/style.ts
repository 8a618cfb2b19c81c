import type { Metre } from './composition.ts';
import type { BassFigure, ChordFigure } from './figures.ts';
import type { DrumFigure } from './riff.ts';
import type { TempoCurve } from './tempo-curve.ts';

/** A way of writing music: what is chosen from, with its weights. */
export interface Style {
  readonly name: string;
  readonly weight: number;
  readonly metres: readonly (readonly [Metre, number])[];
  /** beats a minute */
  readonly bpm: readonly [number, number];
  readonly curves: readonly (readonly [TempoCurve, number])[];
  /** likelihood that eighths swing */
  readonly swing: number;
  readonly mood: 'bright' | 'dark' | 'any';
  readonly grooves: readonly DrumFigure[];
  readonly bass: readonly BassFigure[];
  readonly basses: readonly number[];
  readonly chords: readonly ChordFigure[];
  readonly chordPrograms: readonly number[];
  readonly tunePrograms: readonly number[];
  /** how unsteady the players are, milliseconds */
  readonly unsteady: readonly [number, number];
  readonly syncopation: readonly [number, number];
  readonly blues?: boolean;
  /** how many tunes go on at once, where they do */
  readonly voices?: readonly [number, number];
}
