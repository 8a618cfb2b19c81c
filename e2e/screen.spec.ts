import { expect, test } from '@playwright/test';
import { FILL_DEFAULTS, scoreOf, sourceFrame, type Montage } from '@bluster/core';
import { numberShown, spots } from './numbered-screen.ts';
import { demoFile, made, openView, preparedProject, savedMontage } from './stage.ts';

function wanted(montage: Montage, frame: number): number | null {
  const slot = scoreOf(montage).slots.find((s) => frame >= s.start.frame && frame < s.end.frame)!;
  return slot.placed && sourceFrame(slot.placed, frame - slot.start.frame, montage);
}

test('paused it shows the very frame, stepped one by one over a cut', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Frame by frame',
    clips: [made.clip('one', { frames: 150, fps: '30' }), made.clip('two', { frames: 150, fps: '25' })],
    then: () => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      {
        do: 'fill',
        options: FILL_DEFAULTS,
      },
    ],
  });
  await openView(page, id, 'score');
  const montage = await savedMontage(page);
  const screen = page.getByTestId('screen');
  await expect(screen).toHaveAttribute('data-frame', '0');
  expect(await numberShown(page)).toBe(wanted(montage, 0));
  // To four frames before the second cut, then over it.
  await page.getByTestId('shot').nth(1).click();
  await expect(screen).toHaveAttribute('data-frame', '60');
  for (let i = 0; i < 4; i++) await page.keyboard.press(',');
  for (let frame = 56; frame < 64; frame++) {
    await expect(screen).toHaveAttribute('data-frame', String(frame));
    await expect.poll(() => numberShown(page), { message: `frame ${frame}` }).toBe(wanted(montage, frame));
    await page.keyboard.press('.');
  }
});

test('an upright photo fills the frame, or is shown whole with ground beside it, as it was asked', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Upright',
    clips: [demoFile('grandfather.jpg')],
    then: () => [{ do: 'fill', options: FILL_DEFAULTS }],
  });
  await openView(page, id, 'finish');
  await expect(page.getByTestId('screen')).toHaveAttribute('data-frame', '0');
  const edges = [
    [0.05, 0.5],
    [0.95, 0.5],
  ] as const;
  const bright = async (): Promise<number[]> => (await spots(page, edges)).map((rgb) => rgb[0]! + rgb[1]! + rgb[2]!);
  for (const level of await bright()) expect(level).toBeGreaterThan(60);
  await page.getByRole('tab', { name: 'Frame' }).click();
  await page.getByRole('radio', { name: 'show all of it' }).click();
  await expect.poll(async () => Math.max(...(await bright()))).toBeLessThan(12);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => Math.min(...(await bright()))).toBeGreaterThan(60);
});

test('it plays on the audio clock to the end, past a gap', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'To the end',
    seconds: 8,
    clips: [made.clip('one', { frames: 150, fps: '30' })],
    then: (montage) => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      { do: 'hangShot', startPeg: 'start', assetId: montage.footage[0]!.assetId },
    ],
  });
  await openView(page, id, 'score');
  await expect(page.getByTestId('screen')).toHaveAttribute('data-frame', '0');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
  await expect(page.getByTestId('screen')).toHaveAttribute('data-frame', /^(7\d|8\d|9\d|1\d\d)$/);
  expect(await numberShown(page)).toBe(0); // black in the gap
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect(page.getByTestId('time')).toHaveText(/^0:0[78]\./);
});
