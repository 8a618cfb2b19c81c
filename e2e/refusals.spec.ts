import { expect, test } from '@playwright/test';
import { FILL_DEFAULTS, scoreOf } from '@bluster/core';
import { placedTitles } from '@bluster/core/finish/titles';
import { made, openView, preparedProject, savedMontage } from './stage.ts';

test('numbers that would do harm are refused where they are typed: shifts out of the song, empty fields, huge ones', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, { name: 'Refused', clips: [], seconds: 8 });
  await openView(page, id, 'song');
  const field = page.getByLabel('Milliseconds, negative is earlier');
  const shift = page.getByRole('button', { name: 'Shift', exact: true });
  for (const typed of ['', '999999']) {
    await field.fill(typed);
    await expect(shift).toBeDisabled();
  }
  await field.blur();
  await expect(page.getByRole('alert').filter({ hasText: '10,000' })).toBeVisible();
  await field.fill('-5000');
  await shift.click();
  await expect(page.getByText('10 of 16 marks would lie before the song begins')).toBeVisible();
  expect((await savedMontage(page)).marks).toEqual(montage.marks);

  const line = (await page.getByTestId('song-line-0').boundingBox())!;
  await page.mouse.move(line.x + 20, line.y + 40);
  await page.mouse.down();
  await page.mouse.move(line.x + 200, line.y + 40, { steps: 6 });
  await page.mouse.up();
  await page.getByLabel('How many').fill('');
  await expect(page.getByRole('button', { name: 'Even grid' })).toBeDisabled();
});

test('an in on a bar keeps that bar’s shot and says what falls outside; the titles come along', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, {
    name: 'In on a bar',
    clips: ['inside-a', 'inside-b', 'inside-c'].map((name, i) => made.clip(name, { frames: 90 + i, fps: '30' })),
    seconds: 16,
    then: (m) => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      { do: 'fill', options: FILL_DEFAULTS },
      { do: 'addTitle', text: 'KITES', at: { markId: m.marks[0]!.id }, beats: 2 },
    ],
  });
  const [whole, third] = [scoreOf(montage), scoreOf(montage).slots[3]!];
  await openView(page, id, 'song');
  // To the bar at 6 s, by beats.
  await page.keyboard.press('Home');
  for (let n = 0; n < 12; n++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('i');
  const said = page.getByText(/Outside the song in use now: 3 of 8 shots and 1 of 1 title/);
  await expect(said).toBeVisible();
  const cut = scoreOf(await savedMontage(page));
  expect(cut.slots.map((s) => s.placed?.shot.id)).toEqual(whole.slots.slice(3).map((s) => s.placed?.shot.id));
  expect(cut.slots[0]!.placed!.shot.id).toBe(third.placed!.shot.id);
  await page.getByRole('button', { name: 'Bring the titles along' }).click();
  await expect.poll(async () => placedTitles(await savedMontage(page)).map(({ title }) => title.text)).toEqual(['KITES']);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await savedMontage(page)).song!.pieces).toEqual(montage.song!.pieces);
});

test('a section is gone to and named by the editor; a cutaway where the song ends is refused with a sentence', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Named',
    clips: [made.clip('late-one', { frames: 90, fps: '30' })],
    seconds: 8,
    then: () => [
      {
        do: 'takeMarking',
        marking: {
          marks: [{ kind: 'drop', time: 4 }],
          sections: [
            { from: 0, name: 'A' },
            { from: 4, name: 'B' },
          ],
        },
      },
    ],
  });
  await openView(page, id, 'song');
  await page.getByRole('button', { name: /^Section B/ }).click();
  await expect(page.getByTestId('time')).toHaveText('0:04.000');
  await page.getByRole('button', { name: /^Section B/ }).dblclick();
  await page.getByLabel('Name of the section').fill('kites rise');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Section kites rise/ })).toBeVisible();
  expect((await savedMontage(page)).song!.sections.map((s) => s.name)).toEqual(['A', 'kites rise']);

  await page.getByRole('link', { name: /^score/i }).click();
  await page.getByTestId('shelf-card').first().click();
  await page.keyboard.press('End');
  await page.keyboard.press('b');
  await expect(page.getByText('The song ends here, so there is nothing to lay a cutaway over')).toBeVisible();
  expect((await savedMontage(page)).shots).toEqual([]);
});
