import { create } from 'zustand';
import { marksInUse, pulse, tappingOf, type MarkKind, type Montage, type Tapping } from '@bluster/core';

/** A tap of the lesson, and how far it lay from the mark that it meant, seconds; null where there is none near it, or none is needed. */
export interface LessonTap {
  readonly kind: MarkKind;
  readonly time: number;
  readonly off: number | null;
}

/** One key of the lesson: what is tapped, and how often it has to be met. */
export interface LessonStep {
  readonly kind: MarkKind;
  readonly times: number;
  readonly says: string;
}

/** The keys of tapping, one after the other. */
export const LESSON: readonly LessonStep[] = [
  { kind: 'beat', times: 8, says: 'Start the song with the space bar, and tap every beat.' },
  { kind: 'bar', times: 4, says: 'Tap the first beat of each bar: where you would begin to count.' },
  { kind: 'accent', times: 3, says: 'Tap what sticks out: a stroke, a shout, a cymbal.' },
  { kind: 'drop', times: 1, says: 'Tap where the music breaks loose. Anywhere will do here.' },
  { kind: 'cue', times: 1, says: 'Tap a moment that means something to you; it is named later.' },
];

/** So near to a mark a tap means it, seconds. */
const NEAR_S = 0.15;
/** Drops and cues are where the editor says; nothing measures them. */
const MEASURED: readonly MarkKind[] = ['beat', 'bar', 'accent'];
/** Spreads up to which taps are called so, seconds. */
const HOW_STEADY = [
  [0.015, 'very steady'],
  [0.03, 'steady'],
  [0.05, 'a little uneven'],
] as const;

/** The moments that taps of a kind are held against, song seconds. */
function meant(montage: Montage, kind: MarkKind): number[] {
  const marks = kind === 'beat' ? pulse(montage) : marksInUse(montage).filter((m) => m.kind === kind);
  return marks.map((m) => m.time);
}

/** How far a tap lies from the nearest mark that it can mean, seconds; null where none is near. */
export function offBy(montage: Montage, kind: MarkKind, time: number): number | null {
  const nearest = meant(montage, kind).reduce((best, at) => (Math.abs(at - time) < Math.abs(best - time) ? at : best), Infinity);
  return Math.abs(nearest - time) <= NEAR_S ? time - nearest : null;
}

/** How many taps of a step were met, of as many as are wanted. */
export const metOf = ({ kind, times }: LessonStep, taps: readonly LessonTap[]): number =>
  Math.min(times, taps.filter((t) => t.kind === kind && (t.off !== null || !MEASURED.includes(kind))).length);

/** The step that is to be done next; as many as there are where all are done. */
export function stepNow(taps: readonly LessonTap[]): number {
  const open = LESSON.findIndex((step) => metOf(step, taps) < step.times);
  return open < 0 ? LESSON.length : open;
}

/** How good the taps on beats and bars were; null while there are too few. */
export function howGood(montage: Montage, taps: readonly LessonTap[]): Tapping | null {
  const counting = taps.filter((t) => t.kind === 'beat' || t.kind === 'bar').map((t) => t.time);
  return tappingOf(counting, meant(montage, 'beat'), NEAR_S);
}

/** A spread in words. @param spread seconds */
export const inWords = (spread: number): string => HOW_STEADY.find(([most]) => spread <= most)?.[1] ?? 'uneven';

interface TapLesson {
  /** whether taps are for learning: then they change no mark */
  readonly on: boolean;
  readonly taps: readonly LessonTap[];
}

export const useTapLesson = create<TapLesson>(() => ({ on: false, taps: [] }));

/** Takes a tap of the lesson. @param time song seconds */
export function takeLessonTap(montage: Montage, kind: MarkKind, time: number): void {
  const tap: LessonTap = { kind, time, off: MEASURED.includes(kind) ? offBy(montage, kind, time) : null };
  useTapLesson.setState((s) => ({ taps: [...s.taps, tap] }));
}
