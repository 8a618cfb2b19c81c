import { expect, test } from '@playwright/test';
import { FILL_DEFAULTS, carriedOver, frameTime, scoreOf, type Command, type Montage } from '@bluster/core';
import { demoFile, made, openView, preparedProject, savedMontage } from './stage.ts';

const CLIPS = ['one', 'two', 'three'].map((name) => made.clip(`carried-${name}`, { frames: 150, fps: '30' }));
const HUNG: Command[] = [
  { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
  { do: 'fill', options: { ...FILL_DEFAULTS, whenOut: 'again' } },
  { do: 'addTitle', text: 'Kites up', at: { time: 4 }, beats: 4 },
];

/** How far each cut lies from the bar nearest to it, frames. */
function offBars(m: Montage): number[] {
  const bars = m.marks.filter((k) => k.kind === 'bar').map((k) => k.time);
  const { rate } = m.shape;
  return scoreOf(m)
    .slots.slice(1)
    .map(({ start }) => Math.min(...bars.map((bar) => Math.abs(bar - frameTime(start.frame, rate)))) / frameTime(1, rate));
}

test('a montage goes along to another song: seen before and after, taken as one step, undone as one', async ({ page }) => {
  const { id, montage: before } = await preparedProject(page.request, { name: 'Goes along', clips: CLIPS, then: () => HUNG });
  await openView(page, id, 'song');
  await page.getByTestId('song-input').setInputFiles(demoFile('lanterns-at-nine.mp3'));
  await page.getByRole('button', { name: 'Take the montage along' }).click();
  const dialog = page.getByRole('dialog', { name: 'Lay the montage over this song' });
  await expect(dialog).toBeVisible({ timeout: 60_000 });

  const marked = await savedMontage(page);
  expect(marked.song!.name).toBe('lanterns-at-nine.mp3');
  expect([marked.pegs, marked.shots]).toEqual([[], []]);
  const all = carriedOver(before, marked, { reach: 'all' });
  await expect(dialog.getByRole('status')).toContainText(`${all.counts.shots} shots come along`);
  await expect(dialog.getByTestId('carry-drawing')).toBeVisible();

  // One section is cut like none, and it is said what that leaves; then as it was.
  const first = dialog.getByRole('list', { name: 'Sections of the new song' }).getByRole('combobox').first();
  await first.selectOption({ label: 'none' });
  await expect(dialog.getByRole('status')).not.toContainText(`${all.counts.shots} shots come along`);
  await first.selectOption({ index: 0 });
  await expect(dialog.getByRole('status')).toContainText(`${all.counts.shots} shots come along`);

  await dialog.getByRole('button', { name: 'Lay it over' }).click();
  await expect(dialog).toBeHidden();
  const after = await savedMontage(page);
  expect(scoreOf(after).slots.filter((s) => !s.placed)).toEqual([]);
  expect(Math.max(...offBars(after))).toBeLessThanOrEqual(0.5 + 1e-6);
  expect(after.titles.map((t) => t.text)).toEqual(['Kites up']);
  expect(after.footage).toEqual(before.footage);
  // Where the first section's shots hang, they hang as they did.
  expect(scoreOf(after).slots[0]!.placed!.shot.id).toBe(scoreOf(before).slots[0]!.placed!.shot.id);

  await page.keyboard.press('Control+z');
  expect((await savedMontage(page)).shots).toEqual([]);
  // What hung before is still there to be laid over, after a reload too.
  await page.reload();
  await expect(page.getByTestId('earlier-montage')).toContainText('shots hung on ticking-16.flac');
  await page.getByRole('button', { name: 'Lay them over this song…' }).click();
  await dialog.getByRole('radio', { name: 'As long as it was' }).click();
  await dialog.getByRole('button', { name: 'Lay it over' }).click();
  await expect(dialog).toBeHidden();
  const short = await savedMontage(page);
  expect(scoreOf(short).frames).toBeLessThan(scoreOf(after).frames);
  await expect(page.getByTestId('earlier-montage')).toBeHidden();
});

test('another song is begun anew where that is asked for, and the one before comes back by undoing', async ({ page }) => {
  const { id, montage: before } = await preparedProject(page.request, { name: 'Begins anew', clips: CLIPS, then: () => HUNG });
  await openView(page, id, 'song');
  await page.getByTestId('song-input').setInputFiles(demoFile('lanterns-at-nine.mp3'));
  await page.getByRole('button', { name: 'Begin anew' }).click();
  await expect(page.getByTestId('earlier-montage').getByRole('button')).toBeEnabled({ timeout: 60_000 });
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect(await savedMontage(page)).toEqual(before);
});
