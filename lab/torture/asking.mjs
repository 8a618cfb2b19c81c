import { Broken } from './tally.mjs';

const JSON_BODY = { 'content-type': 'application/json' };

/**
 * Asks a server for something.
 * @returns {Promise<{ status: number, answer: any, headers: Headers, text: string }>} status 0 where it was not reached or went away
 * @param {string} base
 * @param {string} method
 * @param {string} path
 * @param {unknown} [body]
 * @param {{ headers?: Record<string, string>, signal?: AbortSignal }} [how]
 */
export async function ask(base, method, path, body, { headers = {}, signal = AbortSignal.timeout(120_000) } = {}) {
  try {
    const sent = body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) };
    const response = await fetch(`${base}${path}`, {
      method,
      headers: { ...(body === undefined ? {} : JSON_BODY), ...headers },
      signal,
      ...sent,
    });
    const text = await response.text();
    let answer = null;
    try {
      answer = JSON.parse(text);
    } catch {
      // films and pictures are no JSON
    }
    return { status: response.status, answer, headers: response.headers, text };
  } catch (error) {
    if (/** @type {Error} */ (error).name === 'TimeoutError') throw new Broken(`${method} ${path} was not answered within two minutes`);
    return { status: 0, answer: null, headers: new Headers(), text: '' };
  }
}

/**
 * The same, where anything but success is broken.
 * @param {string} base
 * @param {string} method
 * @param {string} path
 * @param {unknown} [body]
 * @returns {Promise<any>}
 */
export async function mustAsk(base, method, path, body) {
  const { status, answer, text } = await ask(base, method, path, body);
  if (status < 200 || status > 299) throw new Broken(`${method} ${path} was answered with ${status}: ${text.slice(0, 300)}`);
  return answer;
}

/**
 * Asks until something is so, and gives up after two minutes in which nothing came nearer.
 * @param {string} what
 * @param {() => Promise<any>} look
 * @param {() => unknown} [left] how much is left to do; another value is taken for progress
 * @returns {Promise<any>}
 */
export async function until(what, look, left = () => 0) {
  let from = Date.now();
  let before = left();
  for (;;) {
    const found = await look();
    if (found) return found;
    if (left() !== before) from = Date.now();
    before = left();
    if (Date.now() - from > 120_000) throw new Broken(`${what} did not come about within two minutes`);
    await new Promise((later) => setTimeout(later, 60));
  }
}

export const later = (ms) => new Promise((done) => setTimeout(done, ms));
