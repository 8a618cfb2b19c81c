/** A note: where and how long in quarter notes of the score. */
export interface Note {
  readonly at: number;
  readonly length: number;
  readonly pitch: number;
  /** 1 to 127 */
  readonly velocity: number;
}

/** Notes of one instrument. */
export interface Part {
  /** General MIDI program, 0 to 127; drums use the percussion channel */
  readonly program: number;
  readonly drums: boolean;
  /** loudness of the whole part, 1 to 127 */
  readonly volume: number;
  readonly notes: Note[];
  /** how unsteadily it is played, seconds, and how much it comes early or late throughout */
  readonly unsteady: number;
  readonly late: number;
}

/** How a bar counts: so many beats of so many quarter notes. */
export interface Metre {
  readonly beats: number;
  /** length of a beat, quarter notes: 1, 1.5 in compound time, 0.5 where eighths are counted */
  readonly unit: number;
  /** how the beats group: 3 + 2 in a bar of five */
  readonly groups: readonly number[];
}

export interface Bar {
  readonly at: number;
  readonly metre: Metre;
}

/** A piece as a score, with the tempo that it is played in. */
export interface Composition {
  readonly name: string;
  readonly style: string;
  readonly parts: readonly Part[];
  readonly bars: readonly Bar[];
  /** length in quarter notes */
  readonly length: number;
  /** tempo from a place on (quarter notes), seconds a quarter note; rising places from 0 */
  readonly tempo: readonly { readonly at: number; readonly seconds: number }[];
}

/** What a listener should find in a piece, seconds. */
export interface Truth {
  readonly beats: readonly number[];
  readonly bars: readonly number[];
}

/** Seconds of a place in quarter notes, under a tempo map. */
export function secondsAt(tempo: Composition['tempo'], at: number): number {
  let seconds = 0;
  for (const [i, step] of tempo.entries()) {
    const to = tempo[i + 1]?.at ?? Infinity;
    if (at <= to) return seconds + (at - step.at) * step.seconds;
    seconds += (to - step.at) * step.seconds;
  }
  return seconds;
}

/** Beats and downbeats of a piece, by its score. */
export function truthOf(piece: Composition): Truth {
  const beats: number[] = [];
  const bars: number[] = [];
  for (const { at, metre } of piece.bars) {
    bars.push(secondsAt(piece.tempo, at));
    for (let b = 0; b < metre.beats; b++)
      if (at + b * metre.unit < piece.length - 1e-6) beats.push(secondsAt(piece.tempo, at + b * metre.unit));
  }
  return { beats, bars };
}
