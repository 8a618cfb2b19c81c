import { expect, test } from '@playwright/test';
import { scoreOf } from '@bluster/core';
import { fillSlots, drag, made, middleOf, openView, preparedProject, savedMontage } from './stage.ts';

const CLIPS = [
  made.clip('one', { frames: 150, fps: '30' }),
  made.clip('two', { frames: 150, fps: '25' }),
  made.clip('three', { frames: 33, fps: '30' }),
  made.clip('tiny', { frames: 12, fps: '30' }),
];

test('every peg rule hangs its pegs', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Rules', clips: CLIPS });
  await openView(page, id, 'score');
  // 16 s of beats half a second apart; the start and the end of the song have no pegs of their own.
  for (const [rule, count] of [
    ['every beat', 31],
    ['2 beats', 15],
    ['bars', 7],
    ['2 bars', 3],
    ['4 bars', 1],
    ['8 beats', 3],
  ] as const) {
    const chip = page.getByRole('button', { name: rule, exact: true });
    if (!(await chip.isVisible())) await page.getByRole('button', { name: 'Other rules' }).click();
    await chip.click();
    await page.keyboard.press('Escape');
    expect((await savedMontage(page)).pegs).toHaveLength(count);
  }
});

test('a slot over two lines says on the second that it goes on, and what is missing of it in all', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'One slot', clips: CLIPS.slice(3) });
  await openView(page, id, 'score');
  await expect(page.getByTestId('empty-slot')).toHaveText([
    'empty slot · 16.00 s · drop a clip or Fill',
    'the slot goes on · 16.00 s in all',
  ]);
  await fillSlots(page);
  // 12 frames at the least speed of 50 % cover 0.8 s.
  await expect(page.getByTestId('shot')).toHaveText(['15.20 s missing', '15.20 s missing in all']);
});

test('a clip too short is slowed, or leaves a gap that says how much is missing', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Too short', clips: CLIPS });
  await openView(page, id, 'score');
  await page.getByRole('button', { name: 'bars', exact: true }).click();
  await fillSlots(page);
  // 33 frames are 1.1 s, for a slot of 2 s: 55 %. 12 frames at the least speed of 50 % cover 0.8 s: 1.2 s are missing.
  await expect(page.getByText('slowed 55 %')).toBeVisible();
  await expect(page.getByTestId('score').getByText('1.20 s missing')).toBeVisible();
  const placed = scoreOf(await savedMontage(page)).slots.map((s) => s.placed!);
  expect(placed[2]!.speed).toBeCloseTo(0.55, 3);
  expect(placed[3]!.missing).toBeCloseTo(1.2, 1);
  await page.getByRole('tab', { name: 'Report' }).click();
  await expect(page.getByText('1 short.')).toBeVisible();
});

test('pegs are hung, moved and taken away one at a time; no cut after them moves', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Pegs',
    clips: CLIPS,
    then: () => [{ do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }],
  });
  await openView(page, id, 'score');
  const frames = async (): Promise<number[]> => scoreOf(await savedMontage(page)).pegs.map((p) => p.frame);
  const before = await frames();
  const row = (await page.getByTestId('peg-row-0').boundingBox())!;
  const at = (seconds: number): { x: number; y: number } => ({ x: row.x + (seconds / 8) * row.width, y: row.y + 9 });
  await page.mouse.move(at(3).x + 3, at(3).y);
  await page.mouse.click(at(3).x + 3, at(3).y);
  expect(await frames()).toEqual([...before, 90].sort((a, b) => a - b));
  await drag(page, at(3), at(3.5));
  expect(await frames()).toEqual([...before, 105].sort((a, b) => a - b));
  await page.mouse.click(at(3.5).x, at(3.5).y);
  await page.keyboard.press('Delete');
  expect(await frames()).toEqual(before);
});

test('a clip dragged from the shelf takes a slot, sliding inside it slips it, undo brings all of it back', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Hang and slip',
    clips: CLIPS,
    then: () => [{ do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }],
  });
  await openView(page, id, 'score');
  const before = await savedMontage(page);
  await drag(page, await middleOf(page, '[data-testid=shelf-card]', 0), await middleOf(page, '[data-testid=empty-slot]', 1));
  await expect(page.getByTestId('shot')).toHaveCount(1);
  await drag(page, await middleOf(page, '[data-testid=shelf-card]', 1), await middleOf(page, '[data-testid=shot]', 0));
  await expect(page.getByTestId('shot')).toHaveAttribute('data-clip', 'two.mp4');
  const hung = await savedMontage(page);
  const [slot] = scoreOf(hung).slots.filter((s) => s.placed);
  expect(slot!.start.frame).toBe(60);
  expect(hung.shots[0]!.sound).toBe(0);

  const shot = await middleOf(page, '[data-testid=shot]', 0);
  await drag(page, shot, { x: shot.x - 50, y: shot.y });
  const slipped = await savedMontage(page);
  expect(slipped.shots[0]!.sourceIn).toBeCloseTo((50 / (await middleOf(page, '[data-testid=peg-row-0]')).width) * 8, 1);
  expect(scoreOf(slipped).slots.map((s) => s.start.frame)).toEqual(scoreOf(hung).slots.map((s) => s.start.frame));

  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  expect(await savedMontage(page)).toEqual(before);
});
