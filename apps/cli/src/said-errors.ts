import { isRefusal } from '@bluster/core/refusal/refusal';
import { MediaProgramError } from '@bluster/media/program/run';

/** Whether an error's message is a sentence for the person, rather than news of a fault in Bluster. */
export function isSaid(error: unknown): error is Error {
  return isRefusal(error) || error instanceof MediaProgramError;
}
