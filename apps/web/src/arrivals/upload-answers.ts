import type { DetailedError } from 'tus-js-client';
import type { ProblemAnswer } from '@bluster/wire';

/** What of an error of the protocol's client is looked at. */
export type UploadError = Error | Pick<DetailedError, 'originalResponse' | 'message' | 'name'>;

function statusOf(error: UploadError): number {
  return ('originalResponse' in error ? error.originalResponse?.getStatus() : undefined) ?? 0;
}

/** The server's sentence, or one of our own where it did not answer; and whether trying once more may help. */
export function sentenceOf(error: UploadError, name: string): { readonly problem: string; readonly again: boolean } {
  const response = 'originalResponse' in error ? error.originalResponse : null;
  if (!response) return { problem: `"${name}" was cut off: the server does not answer. What was sent is kept; try again.`, again: true };
  try {
    const { message } = JSON.parse(response.getBody()) as Partial<ProblemAnswer>;
    if (message) return { problem: message, again: response.getStatus() >= 500 };
  } catch {
    // no sentence came with it
  }
  return { problem: `"${name}" could not be sent (${response.getStatus()}). Try again.`, again: true };
}

/** The server's disk has no room: that is for a person to change. */
const NO_ROOM = 507;

/** Whether to try again by itself: not where the server said no, unless what it held was in use or had moved on. */
export function mayHelp(error: UploadError): boolean {
  const status = statusOf(error);
  return status < 400 || (status >= 500 && status !== NO_ROOM) || status === 409 || status === 423;
}
