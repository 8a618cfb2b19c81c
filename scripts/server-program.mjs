import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';

const server = resolve(import.meta.dirname, '../apps/server');

/**
 * What node is started with for the server to run, as the launcher starts it: the core as one file, and one thread of V8's own, which
 * otherwise has four compile and collect garbage at once, between which the thread that answers everybody would wait for a core.
 */
export const SERVER_PROGRAM = [...readFileSync(join(server, 'node-words'), 'utf8').trim().split(' '), join(server, 'dist/main.js')];
