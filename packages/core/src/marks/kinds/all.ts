import { accent } from './accent.ts';
import { bar } from './bar.ts';
import { beat } from './beat.ts';
import { cue } from './cue.ts';
import { drop } from './drop.ts';

/** Every kind of mark, in the order in which they are offered and, at one moment, written to files. */
export const MARKS = { beat, bar, drop, accent, cue };

export type MarkKind = keyof typeof MARKS;
export const MARK_KINDS = Object.keys(MARKS) as [MarkKind, ...MarkKind[]];

/** Kinds that are nothing but a moment with a name, as drops are: files hold them by that name. */
const PLAIN_KINDS = MARK_KINDS.filter((kind) => !MARKS[kind].counts && !MARKS[kind].worded && !MARKS[kind].banded);

/** The plain kind of a name that stands in a file. */
export function plainKindOf(name: string | undefined): MarkKind | undefined {
  return PLAIN_KINDS.find((kind) => kind === name);
}
