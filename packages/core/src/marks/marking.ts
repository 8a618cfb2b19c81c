import { Refusal } from '../refusal/refusal.ts';
import type { Band } from '../music/accents.ts';
import { MARK_KINDS, MARKS, type MarkKind } from './kinds/all.ts';

/** A mark as it stands in a file. */
export interface FileMark {
  readonly kind: MarkKind;
  /** seconds */
  readonly time: number;
  /** the word or event of a cue */
  readonly label?: string;
  /** of an accent */
  readonly band?: Band;
  /** of an accent, 0 to 1 */
  readonly strength?: number;
  /** of a detected beat, 0 to 1 */
  readonly confidence?: number;
}

/** A section of a song, from its start (seconds) to the next one's. */
export interface FileSection {
  readonly from: number;
  readonly name: string;
}

/** Everything that marks a song, in the order of time. */
export interface Marking {
  readonly marks: readonly FileMark[];
  readonly sections: readonly FileSection[];
  /** of the song, seconds, where it is known */
  readonly length?: number;
}

/** What a file gave, or a written file and what it could not hold. */
export interface ReadMarking extends Marking {
  /** sentences about what was passed over */
  readonly notes: readonly string[];
}

/** Raised when a file holds no marks that can be read; says where and what to do. */
export class MarkingError extends Refusal {}

/** In the order of time; bars before the accents that lie on them. */
export function inTime(marks: readonly FileMark[]): FileMark[] {
  return [...marks].sort((a, b) => a.time - b.time || MARK_KINDS.indexOf(a.kind) - MARK_KINDS.indexOf(b.kind));
}

/** Where each beat stands: its bar, from 1 (0 before the first downbeat), and its place in it, from 1. */
export function countBeats(marks: readonly FileMark[]): { readonly mark: FileMark; readonly bar: number; readonly place: number }[] {
  let bar = 0;
  let place = 0;
  return inTime(marks)
    .filter((m) => MARKS[m.kind].counts)
    .map((mark) => {
      if (mark.kind === 'bar') {
        bar++;
        place = 0;
      }
      return { mark, bar, place: ++place };
    });
}

/**
 * Reads a number that stands in a file.
 * @throws MarkingError naming the place
 */
export function secondsIn(text: string, where: string): number {
  const value = Number(text.trim());
  if (!/^[0-9.eE+-]+$/.test(text.trim()) || !Number.isFinite(value) || value < 0)
    throw new MarkingError(`${where} is not a time in seconds: "${text.trim().slice(0, 40)}". Times look like 12.480.`);
  return value;
}

/** Lines without byte order mark and line ends. */
export function linesOf(text: string): string[] {
  return text.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/);
}
