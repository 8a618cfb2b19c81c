import { constants } from 'node:os';
import { CancelledError } from '@bluster/media/program/run';

/** What asks a program to end; a second time, it ends at once. */
const SIGNALS = ['SIGINT', 'SIGTERM', 'SIGHUP'] as const;

/** How what is under way learns that the program is to end. */
export interface Stop {
  readonly signal: AbortSignal;
  /** what the program ends with: 128 and the number of the signal, as shells say it */
  readonly code: () => number;
}

/** Is told once when the program is asked to end, in place of ending there and then. */
export function stopWhenAsked(): Stop {
  const stop = new AbortController();
  let code = 1;
  for (const name of SIGNALS)
    process.once(name, () => {
      code = 128 + constants.signals[name];
      stop.abort();
    });
  return { signal: stop.signal, code: () => code };
}

/**
 * Waits for work that knows nothing of the signal no longer than that: what it goes on with ends with the program.
 * @throws CancelledError
 */
export function untilStopped<T>(work: Promise<T>, signal: AbortSignal): Promise<T> {
  return new Promise((resolve, reject) => {
    const stop = (): void => reject(new CancelledError());
    if (signal.aborted) stop();
    signal.addEventListener('abort', stop, { once: true });
    work.then(resolve, reject);
  });
}
