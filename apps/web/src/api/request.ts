import { Refusal } from '@bluster/core';
import { takeAnswer } from './asked-ahead.ts';

/** A request that was refused or failed. The message is the server's sentence. */
export class RequestError extends Refusal {
  constructor(
    message: string,
    /** HTTP status; 0 when the server was not reached */
    readonly status: number,
    readonly body: unknown = null,
  ) {
    super(message);
  }
}

async function problemOf(response: Response): Promise<RequestError> {
  const body: unknown = await response.json().catch(() => null);
  const message = (body as { message?: string } | null)?.message ?? `The server answered with ${response.status}. Try again.`;
  return new RequestError(message, response.status, body);
}

const noAnswer = (): RequestError =>
  new RequestError('The server does not answer. Start it again with ./bluster start; what you made here is not lost.', 0);

/** Sends a request and reads the JSON that comes back. */
export async function request<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  let response: Response;
  try {
    const ahead = method === 'GET' ? takeAnswer(path) : undefined;
    response = await (ahead ??
      fetch(path, {
        method,
        ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
        ...(signal ? { signal } : {}),
      }));
  } catch (error) {
    if (signal?.aborted) throw error;
    throw noAnswer();
  }
  if (!response.ok) throw await problemOf(response);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

/** Sends a file and reads the JSON that comes back. */
export async function sendFile<T>(path: string, file: File): Promise<T> {
  const body = new FormData();
  body.append('file', file);
  let response: Response;
  try {
    response = await fetch(path, { method: 'POST', body });
  } catch {
    throw noAnswer();
  }
  if (!response.ok) throw await problemOf(response);
  return (await response.json()) as T;
}

/** For SWR. */
export const fetchJson = <T>(path: string): Promise<T> => request<T>('GET', path);
