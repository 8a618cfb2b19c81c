import { defineConfig } from '@playwright/test';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { CHROMIUM_ARGS } from '../scripts/chromium-args.mjs';
import { SERVER_PROGRAM } from '../scripts/server-program.mjs';

const root = resolve(import.meta.dirname, '..');
const port = Number(process.env['BLUSTER_E2E_PORT'] ?? 4877);
process.env['BLUSTER_E2E_DATA'] ??= mkdtempSync(join(tmpdir(), 'bluster-e2e-'));
/** Where the files lie that are made for a run. */
process.env['BLUSTER_E2E_MADE'] ??= mkdtempSync(join(tmpdir(), 'bluster-made-'));

/** Where sound and taps are measured to the millisecond, nothing else may run beside. */
const MEASURED = /taps-and-clicks\.spec/;

/** The real application in Debian's Chromium: two people at a time, one where playback is measured, for two cores are not many. */
export default defineConfig({
  testDir: '.',
  timeout: 180_000,
  expect: { timeout: 30_000 },
  fullyParallel: true,
  workers: 2,
  projects: [
    { name: 'together', testIgnore: MEASURED },
    { name: 'alone', testMatch: MEASURED, workers: 1 },
  ],
  // A machine that is busy for a moment is no fault of the program's; the suite says what went well only at the second try.
  retries: process.env['CI'] ? 1 : 0,
  forbidOnly: Boolean(process.env['CI']),
  outputDir: join(root, 'test-results'),
  reporter: [['list'], ...(process.env['PLAYWRIGHT_JSON_OUTPUT_NAME'] ? [['json'] as ['json']] : [])],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    // A page in a process of its own takes four times as long to open: what one test left is cleared, and its page serves the next.
    reuseContext: true,
    reducedMotion: 'reduce',
    trace: process.env['BLUSTER_TRACE'] ? 'on' : 'off',
    launchOptions: { executablePath: process.env['BLUSTER_CHROMIUM'] ?? '/usr/bin/chromium', args: [...CHROMIUM_ARGS] },
  },
  webServer: {
    command: `node ${SERVER_PROGRAM.join(' ')} --port ${port}`,
    url: `http://127.0.0.1:${port}/api/projects`,
    env: { BLUSTER_DATA: process.env['BLUSTER_E2E_DATA'] },
    stdout: 'pipe',
    reuseExistingServer: false,
  },
});
