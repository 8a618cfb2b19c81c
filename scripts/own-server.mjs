import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SERVER_PROGRAM } from './server-program.mjs';

/**
 * The address at which a server that was started says that it is up.
 * @param child with its standard output piped
 * @throws Error where it ends before, with what it said
 */
export function addressOf(child) {
  return new Promise((found, failed) => {
    let said = '';
    child.stdout.on('data', (chunk) => {
      const match = /http:\/\/127\.0\.0\.1:\d+/.exec((said += chunk));
      if (match) found(match[0]);
    });
    child.stderr?.on('data', (chunk) => (said = (said + chunk).slice(-4000)));
    child.on('close', () => failed(new Error(`the server ended: ${said}`)));
  });
}

/** @type {Set<import('node:child_process').ChildProcess>} */
const running = new Set();

/** Kills the servers that were started here and run still, where what used them has gone wrong. */
export function endServers() {
  for (const child of running) child.kill('SIGKILL');
}

/**
 * Starts a server of one's own on a free port.
 * @param {{ folder?: string, args?: string[], node?: string[], env?: Record<string, string> }} [how] its data folder (a new one where none is named), its own words, and those of node
 */
export async function ownServer({ folder = mkdtempSync(join(tmpdir(), 'bluster-own-')), args = [], node = [], env = {} } = {}) {
  const child = spawn(process.execPath, [...node, ...SERVER_PROGRAM, '--port', '0', ...args], {
    env: { ...process.env, ...env, BLUSTER_DATA: folder },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  running.add(child);
  const ended = new Promise((done) => child.once('close', (code, signal) => done({ code, signal })));
  void ended.then(() => running.delete(child));
  const base = await addressOf(child);
  const stop = (signal = /** @type {NodeJS.Signals} */ ('SIGTERM')) => {
    child.kill(signal);
    return ended;
  };
  return { base, child, folder, ended, stop };
}
