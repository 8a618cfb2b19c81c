import { accent } from './accent.ts';
import { bar } from './bar.ts';
import { beat } from './beat.ts';
import { cue } from './cue.ts';
import { drop } from './drop.ts';

/** Every kind of mark, in the order in which they are offered and, at one moment, written to files. */
export const MARKS = { beat, bar, drop, accent, cue };

export type MarkKind = keyof typeof MARKS;
export const MARK_KINDS = Object.keys(MARKS) as [MarkKind, ...MarkKind[]];
