/** The same in every copy of this module: a program may come to hold two, where its folder is reached by two names. */
const REFUSAL = Symbol.for('bluster.refusal');

/**
 * Something that cannot be done. The message is a sentence for the person who asked: what is wrong and what to do.
 * Every other error is a fault of the program, and is shown and logged as one.
 */
export class Refusal extends Error {
  readonly [REFUSAL] = true;
}

/**
 * Whether an error is a sentence for people. What comes out of a worker has to be made a Refusal anew on this side.
 * @returns false for anything else that was thrown
 */
export function isRefusal(error: unknown): error is Refusal {
  return typeof error === 'object' && error !== null && REFUSAL in error;
}
