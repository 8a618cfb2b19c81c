import { expect, test } from '@playwright/test';
import { existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FILL_DEFAULTS, scoreOf, type Command } from '@bluster/core';
import { demoFile, fillSlots, made, openView, preparedProject, projectOf, savedMontage, whenSaved } from './stage.ts';

// Of other shapes and rates than the template's.
const CLIPS = [
  made.clip('for-template-wide', { frames: 150, fps: '25', size: '640x270' }),
  made.clip('for-template-upright', { frames: 150, fps: '30', size: '180x320' }),
];
const HUNG: Command[] = [
  { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
  { do: 'fill', options: FILL_DEFAULTS },
  { do: 'addTitle', text: 'Kites up', at: { time: 4 }, beats: 4 },
];

test('a template that ships is begun, takes footage of all shapes, and is filled', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'From a template…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Begin from a template' });
  await dialog.getByRole('radio', { name: 'Quick and upright' }).check();
  await dialog.getByLabel('Name of the project').fill('Down for phones');
  await dialog.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.waitForURL(/footage$/);
  const begun = await savedMontage(page);
  expect([begun.shape.width, begun.shape.height, begun.shots, begun.footage]).toEqual([1080, 1920, [], []]);

  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([...CLIPS, demoFile('ribbon-box.jpg'), demoFile('three-deltas.png')]);
  await expect(page.getByTestId('footage-card')).toHaveCount(4, { timeout: 60_000 });
  await expect.poll(async () => (await savedMontage(page)).footage.length, { timeout: 60_000 }).toBe(4);
  await page.goto(`/projects/${projectOf(page)}/score`);
  await whenSaved(page);
  await fillSlots(page);
  const filled = await savedMontage(page);
  // Its shape and its cuts are the template's, whatever the footage is like.
  expect(filled.shape).toEqual(begun.shape);
  expect(scoreOf(filled).slots.map((s) => s.start.frame)).toEqual(scoreOf(begun).slots.map((s) => s.start.frame));
  expect(scoreOf(filled).slots.filter((s) => !s.placed || s.placed.missing > 0)).toEqual([]);
  expect(filled.titles.map((t) => t.text)).toEqual(['hold on tight']);
});

/** Songs, clips and photos of strangers, where ../shared/foreign/build.sh has made their folder. */
const FOREIGN = process.env['BLUSTER_FOREIGN'] ?? join(tmpdir(), 'foreign');

test('a template is filled with footage of strangers, over a song of theirs', async ({ page }) => {
  test.skip(!existsSync(FOREIGN), `there is no folder ${FOREIGN}`);
  await page.goto('/');
  await page.getByRole('button', { name: 'From a template…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Begin from a template' });
  await dialog.getByRole('radio', { name: 'Hill morning' }).check();
  await dialog.getByLabel('Song for the template').setInputFiles(join(FOREIGN, 'songs/chaos_god.wav'));
  const files = [
    'clips/street-0.mp4',
    'clips/upright-1080.mov',
    'clips/tiny.3gp',
    'clips/web-vp9.webm',
    'photos/upright.png',
    'photos/scan.tiff',
  ];
  await dialog.getByLabel('Footage for the template').setInputFiles(files.map((file) => join(FOREIGN, file)));
  await dialog.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.waitForURL(/song$/);
  const along = page.getByRole('dialog', { name: 'Lay the montage over this song' });
  await expect(along).toBeVisible({ timeout: 120_000 });
  await expect.poll(async () => (await savedMontage(page)).footage.length, { timeout: 120_000 }).toBe(files.length);
  await along.getByRole('radio', { name: 'As long as it was' }).click();
  await along.getByRole('button', { name: 'Lay it over' }).click();
  await expect(along).toBeHidden();
  const laid = await savedMontage(page);
  expect(laid.song!.name).toBe('chaos_god.wav');
  expect([laid.shape.width, laid.shape.height]).toEqual([1920, 1080]);
  expect(scoreOf(laid).slots.length).toBeGreaterThan(15);
  expect(scoreOf(laid).slots.filter((s) => !s.placed)).toEqual([]);
  expect(laid.titles.map((t) => t.text)).toContain('A MORNING\non the hill');
});

test('a montage is kept as a template, begins another project that goes over to another song, is removed and comes back', async ({
  page,
}) => {
  const { id, montage } = await preparedProject(page.request, { name: 'Worth keeping', clips: CLIPS, then: () => HUNG });
  await page.goto('/');
  await page.getByRole('button', { name: 'More for Worth keeping' }).click();
  await page.getByRole('menuitem', { name: 'Keep as a template…' }).click();
  const keeping = page.getByRole('dialog', { name: 'Keep as a template' });
  await keeping.getByLabel('Name').fill('A cut a bar');
  await keeping.getByLabel('What it is for').fill('For a short day.');
  await keeping.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText(/“A cut a bar” is a template now: 8 slots/)).toBeVisible();

  await page.getByRole('button', { name: 'From a template…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Begin from a template' });
  const row = dialog.getByRole('listitem').filter({ hasText: 'A cut a bar' });
  await expect(row).toContainText('0:16 · 8 slots');
  await row.getByRole('button', { name: 'More for A cut a bar' }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await expect(row).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row).toBeVisible();
  await row.getByRole('radio').check();
  await dialog.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.waitForURL(/footage$/);
  const begun = await savedMontage(page);
  expect(projectOf(page)).not.toBe(id);
  expect(scoreOf(begun).slots.map((s) => s.frames)).toEqual(scoreOf(montage).slots.map((s) => s.frames));

  await openView(page, projectOf(page), 'song');
  await page.getByTestId('song-input').setInputFiles(demoFile('lanterns-at-nine.mp3'));
  await expect(page.getByRole('dialog')).toContainText('8 slots hang on the song that is here');
  await page.getByRole('button', { name: 'Take the montage along' }).click();
  const along = page.getByRole('dialog', { name: 'Lay the montage over this song' });
  await expect(along).toBeVisible({ timeout: 60_000 });
  await expect(along.getByRole('status')).toContainText('cuts come along');
  await along.getByRole('button', { name: 'Lay it over' }).click();
  await expect(along).toBeHidden();
  const there = await savedMontage(page);
  const bars = there.marks.filter((m) => m.kind === 'bar').map((m) => m.id);
  expect(there.pegs.length).toBeGreaterThan(8);
  expect(there.pegs.every((p) => bars.includes(p.markId ?? ''))).toBe(true);
  expect(there.titles.map((t) => t.text)).toEqual(['Kites up']);
});
