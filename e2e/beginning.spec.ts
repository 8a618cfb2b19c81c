import { expect, test } from '@playwright/test';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { FILL_DEFAULTS, gapsOf, scoreOf, type Montage } from '@bluster/core';
import { dropFiles, made, openView, preparedProject, savedMontage, whenSaved } from './stage.ts';

const CLIPS = ['one', 'two', 'three', 'four'].map((name, i) => made.clip(`cut-${name}`, { frames: 150 + i, fps: '30' }));
const toast = '[data-sonner-toast]';

test('captions that are dropped with a song become cues once it is marked; two songs are asked about', async ({ page }) => {
  const words = join(made.folder, 'ticking.srt');
  writeFileSync(words, '1\n00:00:02,000 --> 00:00:03,000\nUp they go\n\n2\n00:00:06,500 --> 00:00:07,000\nand down\n');
  await page.goto('/');
  await dropFiles(page, 'main', [made.song(16), made.song(14), words, CLIPS[0]!]);
  const question = page.getByRole('dialog', { name: 'Which of these is the song?' });
  await question.getByRole('button', { name: 'ticking-16' }).click();
  await page.waitForURL(/\/song$/);
  await expect(
    page.locator(toast).filter({ hasText: 'ticking-16.flac is the song. 2 files go to the footage. ticking.srt' }),
  ).toBeVisible();
  await expect
    .poll(async () => (await savedMontage(page)).marks.filter((m) => m.kind === 'cue').map((m) => [m.time, m.label]), { timeout: 60_000 })
    .toEqual([
      [2, 'Up they go'],
      [6.5, 'and down'],
    ]);
  await expect.poll(async () => (await savedMontage(page)).sounds.map((s) => s.name), { timeout: 60_000 }).toEqual(['ticking-14.flac']);
  const montage = await savedMontage(page);
  expect(montage.song!.name).toBe('ticking-16.flac');
  expect(montage.marks.length).toBeGreaterThan(20);
});

test('inside an empty project everything goes where it belongs as well', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).first().click();
  await page.getByRole('textbox').fill('Dropped inside');
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/song$/);
  await page.getByRole('link', { name: /^footage/i }).click();
  await dropFiles(page, 'main', [made.song(16), CLIPS[0]!]);
  await expect(page.locator(toast).filter({ hasText: 'ticking-16.flac is the song. 1 file goes to the footage.' })).toBeVisible();
  await expect.poll(async () => (await savedMontage(page)).song?.name, { timeout: 60_000 }).toBe('ticking-16.flac');
  await expect.poll(async () => (await savedMontage(page)).footage.map((f) => f.name), { timeout: 60_000 }).toEqual(['cut-one.mp4']);
});

test('a song that comes with Bluster is heard, taken and marked', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Take one that comes with Bluster' }).click();
  const songs = page.getByRole('region', { name: 'Songs that come with Bluster' });
  await songs.getByRole('button', { name: 'Hear Reel for a Red Delta' }).click();
  await expect(songs.getByRole('button', { name: 'Stop Reel for a Red Delta' })).toBeVisible();
  await songs.getByRole('button', { name: 'Take Reel for a Red Delta' }).click();
  await page.waitForURL(/\/song$/);
  // It is counted as it was composed: 116 dotted beats a minute, two in a bar.
  await expect.poll(async () => (await savedMontage(page)).marks.length, { timeout: 120_000 }).toBeGreaterThan(100);
  const { song, marks } = await savedMontage(page);
  expect(song!.name).toBe('Reel for a Red Delta.ogg');
  const beats = marks.filter((m) => m.kind === 'beat' || m.kind === 'bar').map((m) => m.time);
  const gaps = beats.slice(1).map((t, i) => t - beats[i]!);
  expect(60 / gaps.sort((a, b) => a - b)[gaps.length >> 1]!).toBeCloseTo(116, -1);
});

test('each half-done view says what comes next, and its button does it; it ends when it is put away', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Guided',
    clips: CLIPS.slice(0, 2),
    seconds: 60,
    then: () => [{ do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 2 } }],
  });
  const guide = page.getByTestId('guide');
  await openView(page, id, 'finish');
  await expect(guide).toContainText('Nothing hangs in the score yet.');
  await guide.getByRole('button', { name: 'To the score' }).click();
  await expect(guide).toContainText('15 of 15 slots are empty.');
  await guide.getByRole('button', { name: 'Fill them' }).click();
  await expect(guide).toBeHidden();
  const filled = await savedMontage(page);
  expect(scoreOf(filled).slots.every((s) => s.placed)).toBe(true);
  // Faster than the clips last at half speed, nothing runs short; by hand it can.
  await page.keyboard.press('Control+z');
  await expect(guide).toContainText('15 of 15 slots are empty.');
  // It fills as it is set, like the button beside the lines.
  await page.getByRole('button', { name: 'How slots are filled' }).click();
  await page.getByRole('radio', { name: 'up to its out' }).click();
  await page.keyboard.press('Escape');
  await guide.getByRole('button', { name: 'Fill them' }).click();
  await expect(guide).toBeHidden();
  const ins = ({ shots }: Montage): number[] => shots.map(({ sourceIn }) => sourceIn);
  expect(ins(await savedMontage(page))).not.toEqual(ins(filled));
  await page.keyboard.press('Control+z');
  await expect(guide).toContainText('15 of 15 slots are empty.');
  await guide.getByRole('button', { name: 'Do not say what comes next' }).click();
  await expect(guide).toBeHidden();
  await page.reload();
  await whenSaved(page);
  await expect(guide).toBeHidden();
});

test('what runs short is made up for by one button', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Short',
    clips: CLIPS.slice(0, 1),
    seconds: 60,
    then: () => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 4 } },
      { do: 'fill', options: { ...FILL_DEFAULTS, leastSpeed: 1 } },
    ],
  });
  await openView(page, id, 'export');
  const guide = page.getByTestId('guide');
  await expect(guide).toContainText('run short of their slots');
  await guide.getByRole('button', { name: 'Make up for it' }).click();
  await expect(guide).toBeHidden();
  expect(gapsOf(await savedMontage(page))).toEqual([]);
});

test('a section that is kept stays while the rest is rolled again', async ({ page }) => {
  const sections = [
    { name: 'verse', from: 0, energy: 0.3 },
    { name: 'chorus', from: 30, energy: 0.8 },
  ];
  const { id } = await preparedProject(page.request, {
    name: 'Kept section',
    clips: CLIPS,
    seconds: 60,
    then: () => [{ do: 'takeMarking', marking: { marks: [], sections, length: 60, notes: [] } }],
  });
  await openView(page, id, 'score');
  const bar = page.getByTestId('first-cut');
  await bar.getByRole('button', { name: 'Make a first cut' }).click();
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  const inVerse = async (): Promise<unknown[]> =>
    scoreOf(await savedMontage(page)).slots.flatMap((s) => (s.start.frame < 890 ? [[s.start.frame, s.placed?.shot.id]] : []));
  const first = await inVerse();
  const rest = scoreOf(await savedMontage(page)).slots.length - first.length;
  await bar.getByRole('button', { name: 'Keep section verse' }).click();
  await expect(bar.getByRole('button', { name: 'Keep section verse' })).toHaveAttribute('aria-pressed', 'true');
  await bar.getByRole('button', { name: 'Another' }).click();
  await expect(bar.getByRole('radio', { name: 'Cut 2' })).toBeChecked();
  expect(await inVerse()).toEqual(first);
  expect(rest).toBeGreaterThan(2);
});

test('a song that is far too long for the footage is offered made shorter, to a length that would do', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Too long', clips: CLIPS.slice(0, 2), seconds: 60 });
  await openView(page, id, 'score');
  const bar = page.getByTestId('first-cut');
  await bar.getByRole('button', { name: 'Make a first cut' }).click();
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  await expect(bar.getByRole('status')).toContainText('6 times as long as the footage');
  await bar.getByRole('button', { name: 'Make the song shorter…' }).click();
  await expect(page).toHaveURL(/\/song$/);
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByLabel('Wished length, seconds')).toHaveValue('15');
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
});
