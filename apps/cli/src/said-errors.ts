import { BeatTextError, CommandError, MarkingError } from '@bluster/core';
import { UnusableMediaError } from '@bluster/media/probe/probe';
import { MediaProgramError } from '@bluster/media/program/run';
import { InputError } from './usage.ts';

/** Whether an error's message is a sentence for the person, rather than news of a fault in Bluster. */
export function isSaid(error: unknown): error is Error {
  return [InputError, UnusableMediaError, BeatTextError, CommandError, MarkingError, MediaProgramError].some(
    (kind) => error instanceof kind,
  );
}
