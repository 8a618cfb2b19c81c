import { expect, test } from '@playwright/test';
import { drag, made, middleOf, openView, preparedProject, savedMontage } from './stage.ts';

/** Pixels a second in the loupe, which is 100 frames wide. */
const LOUPE_SCALE = 1280 / (100 / 30);

test('marks are dragged, nudged, deleted and added in the loupe and at the lines, and all of it is undone', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, { name: 'Marks', clips: [made.clip('one', { frames: 150, fps: '30' })] });
  await openView(page, id, 'song');
  const times = async (): Promise<number[]> => (await savedMontage(page)).marks.map((m) => m.time);
  const start = montage.marks.map((m) => m.time);
  const loupe = await middleOf(page, '[data-testid=loupe]');

  await test.step('in the loupe: the beat at 0.5 s is dragged 40 pixels later', async () => {
    const at = { x: loupe.x + 0.5 * LOUPE_SCALE, y: loupe.y };
    await drag(page, at, { x: at.x + 40, y: at.y });
    expect((await times())[1]! - 0.5).toBeCloseTo(40 / LOUPE_SCALE, 2);
  });
  await test.step('nudged by a millisecond, and by a frame', async () => {
    const [, before] = await times();
    await page.keyboard.press('Alt+ArrowRight');
    expect((await times())[1]! - before!).toBeCloseTo(0.001, 6);
    await page.keyboard.press('Alt+Shift+ArrowLeft');
    expect((await times())[1]! - before!).toBeCloseTo(0.001 - 1 / 30, 6);
  });
  await test.step('deleted', async () => {
    await page.keyboard.press('Delete');
    expect(await times()).toHaveLength(start.length - 1);
  });
  await test.step('added by a double click', async () => {
    await page.mouse.dblclick(loupe.x + 0.25 * LOUPE_SCALE, loupe.y);
    expect((await times()).some((t) => Math.abs(t - 0.25) < 0.004)).toBe(true);
  });
  await test.step('by eye at the line: the second beat of bar 2', async () => {
    const box = (await page.getByTestId('song-line-0').boundingBox())!;
    const at = { x: box.x + (2.5 / 8) * box.width, y: box.y + box.height / 2 };
    await drag(page, at, { x: at.x + 12, y: at.y });
    expect((await times()).some((t) => Math.abs(t - (2.5 + (12 / box.width) * 8)) < 0.012)).toBe(true);
  });
  await test.step('all shifted, halved, doubled, bar 1 set', async () => {
    await page.getByLabel('Milliseconds, negative is earlier').fill('-20');
    await page.getByRole('button', { name: 'Shift', exact: true }).click();
    await page.getByRole('button', { name: 'Halve the beats' }).click();
    await page.getByRole('button', { name: 'Double the beats' }).click();
    await page.getByRole('button', { name: 'bar 1 here' }).click();
    expect((await times()).length).toBeGreaterThan(10);
  });
  await test.step('undone to the very start', async () => {
    while (await page.getByRole('button', { name: 'Undo', exact: true }).isEnabled()) await page.keyboard.press('Control+z');
    expect((await savedMontage(page)).marks).toEqual(montage.marks);
  });
});

test('in and out of the song, and a line that loops', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'In and out', clips: [made.clip('one', { frames: 150, fps: '30' })] });
  await openView(page, id, 'song');
  const box = (await page.getByTestId('song-line-0').boundingBox())!;
  await page.mouse.click(box.x + (2.25 / 8) * box.width, box.y + 40);
  await page.keyboard.press('i');
  const { song } = await savedMontage(page);
  expect(song!.pieces[0]!.from).toBeCloseTo(2.25, 1);
  await test.step('a fade that would be too long is refused where it was typed, and one that is not is one step', async () => {
    const fade = page.getByLabel('Fade out, seconds');
    await fade.fill('');
    await fade.pressSequentially('99');
    await fade.blur();
    await expect(page.getByRole('alert').filter({ hasText: '0 to 30' })).toBeVisible();
    expect((await savedMontage(page)).song!.fadeOut).toBe(song!.fadeOut);
    // Typed figure by figure, it is one step to undo.
    await fade.fill('');
    await fade.pressSequentially('12');
    await fade.blur();
    await expect(page.getByRole('alert').filter({ hasText: '0 to 30' })).toHaveCount(0);
    expect((await savedMontage(page)).song!.fadeOut).toBe(12);
    await page.keyboard.press('Control+z');
    await expect(fade).toHaveValue(String(song!.fadeOut));
  });

  await page.keyboard.press('r');
  await page.mouse.click(box.x + (7.7 / 8) * box.width, box.y + 40);
  await page.keyboard.press('Space');
  // The line ends at 8 s: the playhead is back in its first half soon after, and still playing.
  await expect(page.getByTestId('time')).toHaveText(/^0:0[0-3]\./);
  await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
});
