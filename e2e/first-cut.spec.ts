import { expect, test } from '@playwright/test';
import { FILL_DEFAULTS, gapsOf, scoreOf, type Montage } from '@bluster/core';
import { drag, dropFiles, made, middleOf, openView, preparedProject, projectOf, savedMontage } from './stage.ts';

const CLIPS = ['one', 'two', 'three', 'four'].map((name, i) => made.clip(`cut-${name}`, { frames: 150 + i, fps: '30' }));
const lengths = (m: Montage): number[] => scoreOf(m).slots.map((s) => s.frames);

test('a first cut is made by one button, says what it did, and is kept beside another; what is locked stays', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'First cut',
    clips: CLIPS,
    seconds: 60,
    then: () => [{ do: 'addMark', kind: 'drop', time: 24 }],
  });
  await openView(page, id, 'score');
  const bar = page.getByTestId('first-cut');
  await bar.getByRole('button', { name: 'Make a first cut' }).click();
  await expect(bar.getByRole('status')).toContainText('slots, from');
  // It plays at once.
  await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  const first = await savedMontage(page);
  expect(gapsOf(first)).toEqual([]);
  expect(scoreOf(first).slots.some((s) => s.start.frame === 24 * 30)).toBe(true);
  expect(new Set(lengths(first)).size).toBeGreaterThan(2);

  await page.locator('[data-testid=shot][data-slot="2"]').first().click();
  await page.keyboard.press('Shift+K');
  const liked = scoreOf(await savedMontage(page)).slots[2]!;
  expect(liked.placed!.shot.locked).toBe(true);
  await expect(bar.getByRole('status')).toContainText('Changed by hand since');
  await bar.getByRole('button', { name: 'Another' }).click();
  await expect(bar.getByRole('radio', { name: 'Cut 2' })).toBeChecked();
  const second = await savedMontage(page);
  expect(lengths(second)).not.toEqual(lengths(first));
  const there = scoreOf(second).slots.find((s) => s.placed!.shot.id === liked.placed!.shot.id)!;
  expect([there.start.frame, there.frames]).toEqual([liked.start.frame, liked.frames]);

  await bar.getByRole('radio', { name: 'Cut 1' }).click();
  await expect(bar.getByRole('radio', { name: 'Cut 1' })).toBeChecked();
  expect(lengths(await savedMontage(page))).toEqual(lengths(first));
  // Livelier is not fewer cuts.
  await bar.getByRole('slider', { name: 'Calm to lively' }).focus();
  await page.keyboard.press('End');
  await expect.poll(async () => lengths(await savedMontage(page)).length).toBeGreaterThan(lengths(first).length);
  await bar.getByRole('button', { name: /^Close/ }).click();
  await expect(bar).toBeHidden();
});

test('from files that are dropped together to a film that is read back', async ({ page }) => {
  await page.goto('/');
  await dropFiles(page, 'main', [made.song(16), ...CLIPS]);
  await page.waitForURL(/\/song$/);
  await expect(page.getByText('ticking-16.flac is the song. 4 files go to the footage.')).toBeVisible();
  await expect.poll(async () => (await savedMontage(page)).marks.length, { timeout: 60_000 }).toBeGreaterThan(20);
  await expect.poll(async () => (await savedMontage(page)).footage.length, { timeout: 60_000 }).toBe(4);
  const id = projectOf(page);
  const unready = async (): Promise<string[]> => {
    const assets = (await (await page.request.get(`/api/projects/${id}/assets`)).json()) as { name: string; state: string }[];
    return assets.filter((a) => a.state !== 'ready').map((a) => a.name);
  };
  await expect.poll(unready, { timeout: 60_000 }).toEqual([]);
  await openView(page, id, 'score');
  await page.getByRole('button', { name: 'Make a first cut' }).click();
  await expect(page.getByTestId('first-cut').getByRole('status')).toContainText('slots, from');
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  expect(gapsOf(await savedMontage(page))).toEqual([]);
  await openView(page, id, 'export');
  await page.getByRole('button', { name: 'Export the film' }).click();
  await expect(page.locator('[data-testid=export][data-state=done]')).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText(/cuts found in the film on their frames/).first()).toBeVisible();
});

test('pegs by the pace of the music are seen before they are hung', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Pace', clips: [], seconds: 60 });
  await openView(page, id, 'score');
  await page.getByRole('button', { name: 'Other rules' }).click();
  const hang = page.getByRole('button', { name: /at this pace$/ });
  await expect(page.getByTestId('pace-strip')).toBeVisible();
  const count = Number(/\d+/.exec((await hang.textContent())!)![0]);
  await page.getByRole('slider', { name: 'Calm to lively' }).focus();
  await page.keyboard.press('Home');
  await expect(hang).not.toContainText(String(count));
  await hang.click();
  const calm = await savedMontage(page);
  expect(calm.pegRule).toMatchObject({ kind: 'pace', lively: 0 });
  expect(calm.pegs.length).toBeLessThan(count);
});

test('a shot is framed for one shape of film and stands as it was in the others', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, {
    name: 'Framed for upright',
    clips: CLIPS.slice(0, 1),
    then: () => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 2 } },
      { do: 'fill', options: FILL_DEFAULTS },
    ],
  });
  await openView(page, id, 'export');
  await page.getByRole('checkbox', { name: /^9:16/ }).click();
  await page.getByRole('button', { name: '9:16…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Shots in 9:16' });
  await expect(dialog).toContainText('As in the montage.');
  const at = await middleOf(page, '[data-testid=shape-picture]');
  await drag(page, at, { x: at.x + 60, y: at.y });
  await expect(dialog).toContainText('Framed for 9:16 alone.');
  const framed = await savedMontage(page);
  const own = framed.shots[0]!.shapeViews!;
  expect(own.map((v) => v.shape)).toEqual(['9:16']);
  expect(own[0]!.view!.x).toBeLessThan(0.45);
  expect(framed.shots.slice(1)).toEqual(montage.shots.slice(1));
  expect({ ...framed.shots[0], shapeViews: undefined }).toEqual({ ...montage.shots[0], shapeViews: undefined });
  await dialog.getByRole('button', { name: 'The next shot' }).click();
  await expect(dialog).toContainText('Shot 2 of');
  await dialog.getByRole('button', { name: 'The shot before' }).click();
  await dialog.getByRole('button', { name: 'As in the montage' }).click();
  expect(await savedMontage(page)).toEqual(montage);
});
