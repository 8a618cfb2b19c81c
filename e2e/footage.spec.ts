import { FILL_DEFAULTS } from '@bluster/core';
import { expect, test } from '@playwright/test';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ffmpeg } from '@bluster/media/testing/made-media';
import { demoFile, dropFiles, made, openView, preparedProject, savedMontage } from './stage.ts';

const CLIPS = [made.clip('one', { frames: 150, fps: '30' }), made.clip('two', { frames: 150, fps: '25' })];

test('every kind of footage is taken, each with a filmstrip; what is bad is said at its place and loses nothing', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'All kinds', clips: [] });
  await openView(page, id, 'footage');
  await expect(page.getByText('Drop clips and photos here')).toBeVisible();
  const at = (name: string): string => join(made.folder, name);
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=30', '-frames:v', '40', '-pix_fmt', 'yuv420p', at('kind.mov'));
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=30', '-frames:v', '40', '-c:v', 'libvpx', at('kind.webm'));
  writeFileSync(at('letter.mp4'), 'Dear kite, fly.\n');
  writeFileSync(at('empty.mp4'), '');
  await page
    .getByTestId('footage-input')
    .setInputFiles([
      CLIPS[0]!,
      at('kind.mov'),
      at('kind.webm'),
      at('letter.mp4'),
      at('empty.mp4'),
      demoFile('ribbon-box.jpg'),
      demoFile('three-deltas.png'),
      demoFile('last-light.webp'),
    ]);
  await expect(page.getByTestId('footage-card')).toHaveCount(6, { timeout: 90_000 });
  // Each card has been given a picture: a canvas without one is a single pixel.
  const pictures = page.locator('[data-testid=footage-card] canvas');
  await expect.poll(() => pictures.evaluateAll((all: HTMLCanvasElement[]) => all.filter((c) => c.width > 1).length)).toBe(6);
  const coming = page.getByLabel('Coming in');
  await expect(coming.getByRole('alert')).toHaveCount(2);
  await expect(coming).toContainText('is a text file');
  await expect(coming).toContainText('is empty');
  await page.getByRole('button', { name: 'Dismiss letter.mp4' }).click();
  await page.getByRole('button', { name: 'Dismiss empty.mp4' }).click();
  await expect(coming).toBeHidden({ timeout: 60_000 });
  expect((await savedMontage(page)).footage.map((f) => f.name).sort()).toEqual(
    ['kind.mov', 'kind.webm', 'last-light.webp', 'one.mp4', 'ribbon-box.jpg', 'three-deltas.png'].sort(),
  );
  // What was refused is not taken for something that was cut off.
  await page.reload();
  await expect(page.getByTestId('footage-card')).toHaveCount(6);
  await expect(coming).toBeHidden();
});

test('in and out, story order by keys, remove with undo', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Sorting',
    clips: CLIPS,
    then: () => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      { do: 'fill', options: FILL_DEFAULTS },
    ],
  });
  await openView(page, id, 'footage');
  await page.getByRole('button', { name: /^two\.mp4, number/ }).click();
  await page.getByRole('slider', { name: 'In' }).focus();
  for (let i = 0; i < 10; i++) await page.keyboard.press('ArrowRight');
  await page.getByRole('slider', { name: 'Out' }).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowLeft');
  const two = (await savedMontage(page)).footage.find((f) => f.name === 'two.mp4')!;
  expect(two.selects).toHaveLength(1);
  expect(two.selects[0]!.in).toBeCloseTo(10 / 25, 6);
  expect(two.selects[0]!.out).toBeCloseTo(145 / 25, 6);

  await page.getByRole('button', { name: /^two\.mp4, number/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('two.mp4 is at place 2.')).toBeAttached();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('two.mp4 is at place 1.')).toBeAttached();
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await savedMontage(page)).footage.map((f) => f.name)).toEqual(['two.mp4', 'one.mp4']);

  const before = await savedMontage(page);
  await page.getByTestId('footage-card').first().hover();
  await page.getByRole('button', { name: 'Remove two.mp4' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove' }).click();
  await expect.poll(async () => (await savedMontage(page)).footage).toHaveLength(1);
  expect((await savedMontage(page)).pegs).toEqual(before.pegs);
  await page.keyboard.press('Control+z');
  await expect.poll(() => savedMontage(page)).toEqual(before);
});

test('clips that are dropped on the song go to the footage; a song that cannot be used is said at its place', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Bad song', clips: [] });
  await openView(page, id, 'song');
  await dropFiles(page, 'main', [CLIPS[0]!, CLIPS[1]!]);
  await expect(page.getByText('2 files go to the footage.')).toBeVisible();
  await expect.poll(async () => (await savedMontage(page)).footage.length, { timeout: 60_000 }).toBe(2);
  writeFileSync(join(made.folder, 'verse.mp3'), 'la la la\n');
  await page.getByTestId('song-input').setInputFiles(join(made.folder, 'verse.mp3'));
  // The song that is there has marks, so it is asked first.
  await page.getByRole('button', { name: 'Begin anew' }).click();
  await expect(page.getByRole('alert')).toContainText('is a text file');
  expect((await savedMontage(page)).marks.length).toBeGreaterThan(10);
});
