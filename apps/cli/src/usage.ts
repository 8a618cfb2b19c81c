import { Refusal } from '@bluster/core/refusal/refusal';

/** Bad input: the message is one sentence for the person at the terminal. Ends with code 1. */
export class InputError extends Refusal {}

/** Exit codes of the command line. */
export const EXIT = { ok: 0, badInput: 1, wrongUsage: 2 } as const;
