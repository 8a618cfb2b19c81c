import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { DRESSINGS, FILL_DEFAULTS, levelLines, mixPlan, placedTitles, scoreOf, songLevel, type Command, type Montage } from '@bluster/core';
import { SMALL, drag, made, middleOf, openView, preparedProject, savedMontage } from './stage.ts';
import { spots } from './numbered-screen.ts';

const filled = (): Command[] => [
  { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
  { do: 'fill', options: FILL_DEFAULTS },
];

/** A song of eight bars, a beat every half second, with numbered clips in slots of sixty frames. */
async function project(page: Page, name: string, then: (m: Montage) => readonly Command[] = filled): Promise<string> {
  const { id } = await preparedProject(page.request, {
    name,
    clips: [made.clip('wear-a', { frames: 150, fps: '30', sound: true }), made.clip('wear-b', { frames: 140, fps: '30', sound: true })],
    then,
  });
  await openView(page, id, 'finish');
  await expect(page.getByTestId('screen')).toHaveAttribute('data-frame', '0');
  return id;
}

test('a title is written in a typeface that ships and in one of the editor’s own; its style is worn by another and changed in one place', async ({
  page,
}) => {
  await project(page, 'Typefaces');
  await page.keyboard.press('Shift+T');
  await page.getByRole('radiogroup', { name: 'Typeface' }).getByRole('radio', { name: 'old screen' }).click();
  await page.getByRole('button', { name: 'Keep as a style' }).click();
  await page.getByLabel('Name').fill('Signs');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByTestId('style-wearers')).toHaveText('worn by this title');

  await page.getByRole('button', { name: 'Copy on' }).click();
  await expect(page.getByTestId('style-wearers')).toHaveText('changes are for all 2 titles that wear it');
  const fonts = join(dirname(fileURLToPath(import.meta.resolve('@fontsource/vt323/package.json'))), 'files');
  await page.getByTestId('face-files').setInputFiles(join(fonts, 'vt323-latin-400-normal.woff'));
  await page.getByRole('radiogroup', { name: 'Typeface' }).getByRole('radio', { name: 'VT323' }).click();
  await expect.poll(async () => (await savedMontage(page)).faces.map((f) => f.name)).toEqual(['VT323']);
  const { titles, styles, faces } = await savedMontage(page);
  expect(titles.map((t) => [t.face, t.style])).toEqual(Array.from({ length: 2 }, () => [faces[0]!.assetId, styles[0]!.id]));

  // A file that only says that it is one is refused where it was chosen.
  const broken = Buffer.concat([Buffer.from('wOF2'), Buffer.alloc(600, 7)]);
  await page.getByTestId('face-files').setInputFiles({ name: 'not-one.woff2', mimeType: 'font/woff2', buffer: broken });
  await expect(page.getByText(/"not-one.woff2" cannot be read as a typeface/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Remove this typeface' }).click();
  expect((await savedMontage(page)).titles.map((t) => t.face)).toEqual([undefined, undefined]);
});

test('captions from a file become titles, each on its word; what can hardly be read says so, and a plate helps', async ({ page }) => {
  await project(page, 'Captions', () => [
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
    { do: 'fill', options: FILL_DEFAULTS },
  ]);
  await page.getByRole('tab', { name: 'Titles' }).click();
  const srt = '1\n00:00:02,000 --> 00:00:03,000\nthe string sings\n\n2\n00:00:05,000 --> 00:00:06,000\nlet go\n';
  await page.getByTestId('captions-file').setInputFiles({ name: 'words.srt', mimeType: 'text/plain', buffer: Buffer.from(srt) });
  // The second goes over the end of a line: it has a strip on each.
  await expect(page.getByTestId('title-strip')).toHaveCount(3);
  const montage = await savedMontage(page);
  expect(placedTitles(montage).map(({ title, from, to }) => [title.text, from, to])).toEqual([
    ['the string sings', 60, 150],
    ['let go', 150, 270],
  ]);
  // All of it is one step.
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('title-strip')).toHaveCount(0);
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByTestId('title-strip')).toHaveCount(3);

  // Letters of the colour that lies behind them.
  await page.getByRole('list', { name: 'Titles' }).getByRole('button').first().click();
  const behind = page.getByRole('group', { name: 'Colours of the picture' }).getByRole('button');
  await behind.first().click();
  await page.getByRole('checkbox', { name: 'shadow' }).uncheck();
  await expect(page.getByTestId('hard-to-read')).toBeVisible();
  await page.getByRole('button', { name: 'Lay a plate behind' }).click();
  expect((await savedMontage(page)).titles[0]!.plate).toBeDefined();
});

test('a cutaway stands in the picture where it is dragged, lets through what lies below, and a second one lies over it', async ({
  page,
}) => {
  await project(page, 'Over', (m) => [
    ...filled(),
    { do: 'hangOver', from: { frame: 60 }, to: { frame: 120 }, assetId: m.footage[1]!.assetId },
    { do: 'hangOver', from: { frame: 75 }, to: { frame: 105 }, assetId: m.footage[0]!.assetId, upper: true },
  ]);
  await expect(page.getByTestId('over-strip')).toHaveCount(2);
  await page.getByTestId('over-strip').first().click();
  await expect(page.getByTestId('screen')).toHaveAttribute('data-frame', '90');
  await page.getByRole('radio', { name: 'a picture in the picture' }).click();
  await expect(page.getByTestId('inset-over')).toBeVisible();
  const before = await middleOf(page, '[data-testid=inset-over]');
  await drag(page, before, { x: before.x - 60, y: before.y + 40 });
  await page.getByTestId('inset-over').press('+');
  const inset = (await savedMontage(page)).shots.find((s) => s.over && !s.upper)!.inset!;
  expect(inset.x).toBeLessThan(0.7);
  expect(inset.y).toBeGreaterThan(0.3);
  expect(inset.size).toBeCloseTo(0.37, 6);
  await page
    .getByRole('group', { name: 'How the cutaway comes' })
    .or(page.getByLabel('How the cutaway comes'))
    .first()
    .getByRole('radio', { name: 'dissolve' })
    .click();

  const upper = page.getByRole('button', { name: /Cutaway: .*second line/ });
  await upper.click();
  await page.getByRole('slider', { name: 'How much of the cutaway is seen' }).press('Home');
  const { shots } = await savedMontage(page);
  expect(shots.find((s) => s.upper)!.opacity).toBe(0.05);
  expect(shots.find((s) => s.over && !s.upper)!.comes).toMatchObject({ kind: 'dissolve' });
});

test('the level is drawn over the sound, the song gives way under a clip, and its loudness is what the film has', async ({ page }) => {
  const id = await project(page, 'Levels', () => [...filled(), SMALL]);
  await page.getByRole('tab', { name: 'Sound' }).click();
  await expect(page.getByTestId('loudness')).toBeVisible();
  const line = (await page.getByTestId('level-line').first().boundingBox())!;
  // Two points, on the second and on the third bar; the first is dragged to the bottom.
  for (const bar of [1, 2]) await page.mouse.click(line.x + (bar * line.width) / 4, line.y + line.height / 2);
  await expect(page.getByTestId('level-point')).toHaveCount(2);
  const point = await middleOf(page, '[data-testid=level-point]');
  await drag(page, point, { x: point.x, y: point.y + 60 });
  let montage = await savedMontage(page);
  expect(levelLines(montage).song.map((p) => [p.time, p.level])).toEqual([
    [2, 0],
    [4, 1],
  ]);
  expect(songLevel(mixPlan(montage), 3)).toBeCloseTo(0.5, 6);
  await page.getByTestId('level-point').first().press('ArrowUp');
  await page.getByTestId('level-point').last().press('Delete');
  await expect(page.getByTestId('level-point')).toHaveCount(1);
  await page.getByRole('button', { name: 'Remove this point' }).click();

  const slot = page.getByRole('radiogroup', { name: 'Sound of slot 2' }).or(page.getByLabel('Sound of slot 2')).first();
  await slot.getByRole('radio', { name: 'full' }).click();
  await page.getByRole('checkbox', { name: 'The song gives way to slot 2' }).check();
  montage = await savedMontage(page);
  expect(songLevel(mixPlan(montage), 3)).toBeCloseTo(10 ** (-12 / 20), 6);
  expect(songLevel(mixPlan(montage), 6)).toBe(1);

  const { revision } = (await (await page.request.get(`/api/projects/${id}/montage`)).json()) as { revision: number };
  await expect(page.getByTestId('loudness')).toHaveAttribute('data-revision', String(revision));
  const shown = Number(/all of it(-?[\d.]+) LUFS/.exec((await page.getByTestId('loudness').textContent()) ?? '')![1]);
  await page.getByRole('link', { name: /^export/i }).click();
  await page.getByRole('button', { name: 'Export the film' }).click();
  await expect(page.getByTestId('export')).toHaveAttribute('data-state', 'done', { timeout: 180_000 });
  const report = (await (
    await page.request.get((await page.getByTestId('export').getByRole('link', { name: 'Report' }).getAttribute('href'))!)
  ).json()) as { loudness: { integrated: number } };
  expect(Math.abs(report.loudness.integrated - shown)).toBeLessThan(0.1);
});

test('a dressing that ships is worn in one step; what is worn is kept by name, saved as a file, removed and read again', async ({
  page,
}) => {
  await project(page, 'Dressings');
  const grey = async (): Promise<number> => {
    const [spot] = await spots(page, [[0.25, 0.5]]);
    return Math.max(...spot!) - Math.min(...spot!);
  };
  await page.getByRole('tab', { name: 'As a whole' }).click();
  await expect(page.getByRole('list', { name: 'Dressings that ship' }).getByTestId('dressing')).toHaveCount(6);
  await page.getByTestId('dressing').filter({ hasText: 'Old reel' }).getByRole('button', { name: 'Wear it' }).click();
  let montage = await savedMontage(page);
  expect(montage.looks.map((l) => l.kind)).toEqual(DRESSINGS.find((d) => d.name === 'Old reel')!.looks.map((l) => l.kind));
  await page.keyboard.press('End');
  await page.keyboard.press('Home');
  for (let i = 0; i < 20; i++) await page.keyboard.press('.');
  await expect.poll(grey).toBeLessThan(60);
  await page.getByRole('tab', { name: 'As a whole' }).click();
  await page.getByRole('button', { name: 'Keep what it wears' }).click();
  await page.getByLabel('Name').fill('Grandmother’s reel');
  await page.getByRole('button', { name: 'Make it' }).click();
  const mine = page
    .getByRole('list', { name: 'Dressings that were kept' })
    .getByTestId('dressing')
    .filter({ hasText: 'Grandmother’s reel' });
  await expect(mine).toHaveCount(1);

  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await savedMontage(page)).looks).toEqual([]);
  const download = page.waitForEvent('download');
  await mine.getByRole('button', { name: /as a file$/ }).click();
  const file = await (await download).path();
  await mine.getByRole('button', { name: /^Remove/ }).click();
  await expect(mine).toHaveCount(0);
  await page
    .getByTestId('dressing-file')
    .setInputFiles({ name: 'reel.dressing.json', mimeType: 'application/json', buffer: readFileSync(file) });
  await expect(mine).toHaveCount(1);
  await mine.getByRole('button', { name: 'Wear it' }).click();
  montage = await savedMontage(page);
  expect(montage.looks.length).toBeGreaterThan(2);
  expect(scoreOf(montage).slots.every((s) => s.placed !== null)).toBe(true);
  await page
    .getByTestId('dressing-file')
    .setInputFiles({ name: 'shopping.json', mimeType: 'application/json', buffer: Buffer.from('[1]') });
  await expect(page.getByText(/shopping.json: This is not a Bluster dressing/)).toBeVisible();
  await mine.getByRole('button', { name: /^Remove/ }).click();
  await expect(mine).toHaveCount(0);
});
