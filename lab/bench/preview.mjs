// The demo played from start to end in headless Chromium at 960x540: frames missed, and how late each cut was shown.
import { chromium } from '@playwright/test';
import { ensureProgram } from '../../scripts/debian-programs.mjs';
import { CHROMIUM_ARGS } from '../../scripts/chromium-args.mjs';
import { demoServer } from '../../scripts/demo-server.mjs';

export async function benchPreview() {
  const executablePath = ensureProgram('chromium');
  if (!executablePath) throw new Error('no Chromium');
  const { base, project, stop } = await demoServer();
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
          canvas.addEventListener('measure', (event) => resolve(/** @type {CustomEvent} */ (event).detail), { once: true });
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
    await stop();
  }
}
