import { expect, test } from '@playwright/test';
import { FILL_DEFAULTS } from '@bluster/core';
import { made, openView, preparedProject } from './stage.ts';

const CLIPS = [made.clip('one', { frames: 150, fps: '30' }), made.clip('two', { frames: 150, fps: '25' })];

test('an export is called off, and another one made', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Called off',
    clips: CLIPS,
    then: () => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      { do: 'fill', options: FILL_DEFAULTS },
      { do: 'setShape', shape: { width: 1920, height: 1080, rate: { num: 30, den: 1 } } },
    ],
  });
  await openView(page, id, 'export');
  await page.getByRole('button', { name: 'Export the film' }).click();
  const rows = page.getByTestId('export');
  await expect(rows).toContainText(/\d+ %/);
  await rows.getByRole('button', { name: 'Cancel' }).click();
  await expect(rows).toHaveAttribute('data-state', 'cancelled');
  await expect(rows).toContainText('Cancelled.');
  await page.getByRole('button', { name: 'Export the film' }).click();
  await expect(rows).toHaveCount(2);
  await expect(rows.first()).toHaveAttribute('data-state', /running|queued/);
  // The step at the top says how far it is, on every view.
  await page.getByRole('link', { name: /^score/i }).click();
  await expect(page.getByRole('link', { name: /export \d+ %/i })).toBeVisible();
  await page.getByRole('link', { name: /^export/i }).click();
  await rows.first().getByRole('button', { name: 'Cancel' }).click();
  await expect(rows.first()).toHaveAttribute('data-state', 'cancelled');
});

test('what is missing is said before anything is made', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Half done',
    clips: CLIPS,
    then: (montage) => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      { do: 'hangShot', startPeg: 'start', assetId: montage.footage[0]!.assetId },
    ],
  });
  await openView(page, id, 'export');
  await expect(page.getByText('7 slots are empty and will be black.')).toBeVisible();
});
