// The demo played from start to end in headless Chromium at 960x540: frames missed, and how late each cut was shown.
import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { chromium } from '@playwright/test';
import { ensureChromium } from '../scripts/chromium.mjs';
import { CHROMIUM_ARGS } from '../scripts/chromium-args.mjs';

const root = resolve(import.meta.dirname, '..');

/** A server of its own with the demo project, once everything in it is prepared. */
async function demoServer() {
  const env = { ...process.env, BLUSTER_DATA: mkdtempSync(join(tmpdir(), 'bluster-bench-')) };
  const child = spawn('node', [join(root, 'apps/server/dist/main.js'), '--demo', '--port', '0'], {
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise((found, failed) => {
    let said = '';
    child.stdout.on('data', (chunk) => {
      const match = /(http:\/\/127\.0\.0\.1:\d+)\/projects\/([0-9a-f-]+)/.exec((said += chunk));
      if (match) found({ base: match[1], project: match[2] });
    });
    child.on('close', () => failed(new Error('the server ended')));
  });
  for (;;) {
    const assets = await (await fetch(`${url.base}/api/projects/${url.project}/assets`)).json();
    const failed = assets.find((a) => a.state === 'failed');
    if (failed) throw new Error(`${failed.name}: ${failed.problem}`);
    if (assets.every((a) => a.state === 'ready')) return { child, ...url };
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

export async function benchPreview() {
  const executablePath = ensureChromium();
  if (!executablePath) throw new Error('no Chromium');
  const { child, base, project } = await demoServer();
  const browser = await chromium.launch({ executablePath, args: [...CHROMIUM_ARGS] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${base}/projects/${project}/score`);
    await page.locator('[data-testid=screen][data-frame="0"]').waitFor();
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await page.getByRole('button', { name: 'Pause', exact: true }).waitFor();
    await page.getByRole('button', { name: 'Play', exact: true }).waitFor({ timeout: 180_000 });
    const measure = await page.getByTestId('screen').evaluate(
      (canvas) =>
        new Promise((resolve) => {
          canvas.addEventListener('measure', (event) => resolve(event.detail), { once: true });
          canvas.dispatchEvent(new Event('ask-measure'));
        }),
    );
    const { due, missed, cutsLate } = measure;
    if (due < 1000 || cutsLate.length < 20) throw new Error(`the demo did not play: ${due} frames, ${cutsLate.length} cuts`);
    return [
      { what: `frames missed of ${due}, 960x540`, value: (100 * missed) / due, unit: ' %', limit: 2 },
      { what: `the latest of ${cutsLate.length} cuts against its audio time`, value: Math.max(...cutsLate), unit: ' frames', limit: 1 },
      { what: 'the middle one', value: [...cutsLate].sort((a, b) => a - b)[cutsLate.length >> 1], unit: ' frames' },
    ];
  } finally {
    await browser.close();
    child.kill('SIGTERM');
  }
}
