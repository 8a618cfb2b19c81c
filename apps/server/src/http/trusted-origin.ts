import type { NextFunction, Request, Response } from 'express';

const LOCAL_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** What a browser says of a request by a page that is not this server's: another port of this computer is the same site. */
const FOREIGN_SITES = ['cross-site', 'same-site'];

function isLocal(host: string): boolean {
  try {
    return LOCAL_NAMES.has(new URL(`http://${host}`).hostname);
  } catch {
    return false;
  }
}

/** Whether a request comes from a page of another origin; what cannot be read counts as one. */
function isForeign(origin: string | undefined, host: string): boolean {
  if (origin === undefined) return false;
  try {
    return new URL(origin).host !== host;
  } catch {
    return true;
  }
}

/**
 * Refuses requests that were not meant for this server: another Host (a rebound name) or a page of another origin.
 * Sets headers that keep pages to what ships with the application.
 */
export function trustedOrigin(request: Request, response: Response, next: NextFunction): void {
  const { host = '', origin } = request.headers;
  response.setHeader('X-Content-Type-Options', 'nosniff');
  if (!isLocal(host)) {
    response.status(403).json({ message: 'This server answers only under its own address on this computer, such as 127.0.0.1.' });
    return;
  }
  if (isForeign(origin, host) || FOREIGN_SITES.includes(String(request.headers['sec-fetch-site']))) {
    response.status(403).json({ message: 'This request comes from another site. Bluster answers only its own pages.' });
    return;
  }
  response.setHeader(
    'Content-Security-Policy',
    "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; img-src 'self' blob: data:; media-src 'self' blob:; worker-src 'self' blob:; style-src 'self' 'unsafe-inline'; connect-src 'self' ws:; frame-ancestors 'none'; base-uri 'none'; form-action 'self'",
  );
  response.setHeader('Referrer-Policy', 'no-referrer');
  response.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
  next();
}
