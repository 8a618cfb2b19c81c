import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { FILL_DEFAULTS, scoreOf, shownAt, sourceFrame, type Command, type Montage, type SyncReport } from '@bluster/core';
import { frameNumbers } from '@bluster/media/testing/made-media';
import { SMALL, drag, fillSlots, made, middleOf, openView, preparedProject, savedMontage, playedTo } from './stage.ts';

const CLIPS = [
  made.clip('one', { frames: 150, fps: '30' }),
  made.clip('two', { frames: 150, fps: '25' }),
  made.clip('brief', { frames: 40, fps: '30' }),
];
const BARS: Command = { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } };
const FILLED: Command[] = [BARS, { do: 'fill', options: FILL_DEFAULTS }];
const SECTIONS: Command = {
  do: 'takeMarking',
  marking: {
    marks: [],
    sections: [
      { from: 0, name: 'intro' },
      { from: 8, name: 'drop' },
    ],
  },
};

const starts = (m: Montage): number[] => scoreOf(m).slots.map((s) => s.start.frame);
const shotOf = (page: Page, slot: number): ReturnType<Page['locator']> => page.locator(`[data-testid=shot][data-slot="${slot}"]`).first();
/** Chooses the slot with an index by a click, and waits for its panel. */
async function chooseShot(page: Page, slot: number): Promise<void> {
  await shotOf(page, slot).click();
  await expect(page.getByTestId('shot-panel')).toContainText(`slot ${slot + 1} `);
}
/** Puts the playhead on a moment of the first line, seconds. */
async function playheadAt(page: Page, seconds: number): Promise<void> {
  const row = await middleOf(page, '[data-testid=peg-row-0]');
  await page.mouse.click(row.x - row.width / 2 + (seconds / 8) * row.width + 0.5, row.y - 34);
}

test('a pattern is clicked together and hangs at once; a section has its own rule', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Patterns', clips: CLIPS, then: () => [SECTIONS] });
  await openView(page, id, 'score');
  await page.getByRole('button', { name: 'Pattern' }).click();
  await page.getByRole('button', { name: 'Step 1', exact: true }).click();
  await page.getByRole('button', { name: 'Step 8', exact: true }).click();
  // Steps 4, 6 and 8 of eight in each bar of 2 s, at 30 frames a second.
  expect(starts(await savedMontage(page)).slice(0, 7)).toEqual([0, 23, 38, 53, 83, 98, 113]);
  await page.getByRole('button', { name: 'Hear it' }).click();
  await expect(page.getByRole('button', { name: 'Hear it' })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Hear it' }).click();
  await page.keyboard.press('Escape');

  await page.getByLabel('Pegs for').selectOption({ label: 'drop 0:08' });
  await page.getByRole('button', { name: '2 bars', exact: true }).click();
  await expect(page.locator('[data-sonner-toast]')).toContainText(/pegs hung, \d+ taken away/);
  const m = await savedMontage(page);
  expect(starts(m).filter((f) => f >= 240)).toEqual([240, 360]);
  expect(
    starts(m)
      .filter((f) => f < 240)
      .slice(0, 3),
  ).toEqual([0, 23, 38]);
});

test('filling says beforehand what it will do, and fills just the section by best match', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Match', clips: CLIPS, then: () => [SECTIONS, BARS] });
  await openView(page, id, 'score');
  await page.getByLabel('Pegs for').selectOption({ label: 'drop 0:08' });
  await page.getByRole('button', { name: 'How slots are filled' }).click();
  await page.getByRole('radio', { name: 'this section' }).click();
  await page.getByRole('radio', { name: 'best match' }).click();
  await expect(page.getByTestId('fill-preview')).toContainText('4 of 4 slots filled');
  const before = await savedMontage(page);
  expect(before.shots).toHaveLength(0);
  await page.getByRole('button', { name: 'Fill so' }).click();
  await expect(page.locator('[data-sonner-toast]').filter({ hasText: '4 of 4 slots filled' })).toBeVisible();
  const m = await savedMontage(page);
  expect(scoreOf(m).slots.map((s) => s.placed !== null)).toEqual([false, false, false, false, true, true, true, true]);
  for (const shot of m.shots) expect(shot.why).toMatch(/picture for/);
  await page.getByRole('button', { name: /^Slot 5:/ }).click();
  await expect(page.getByTestId('shot-panel')).toContainText('Chosen: ');
});

test('from the clip being watched: from its frame, up to it, on the mark, at the playhead, inserted, and over the line', async ({
  page,
}) => {
  const { id } = await preparedProject(page.request, { name: 'Watched', clips: CLIPS, then: () => FILLED });
  await openView(page, id, 'score');
  const now = (): Promise<Montage> => savedMontage(page);
  const shown = (m: Montage, frame: number): number | undefined => shownAt(m, frame)?.source;
  await page.getByTestId('shelf-card').first().click();
  const watching = page.getByRole('region', { name: 'Watching one.mp4' });
  await expect(page.getByTestId('watched-frame')).toContainText('frame 0');
  await watching.focus();
  for (let i = 0; i < 12; i++) await page.keyboard.press('.');
  await expect(page.getByTestId('watched-frame')).toContainText('frame 12');
  await playheadAt(page, 5);
  await page.keyboard.press('d');
  await expect.poll(async () => shown(await now(), 120)).toBe(12);
  // Back-timed there is too little of the clip: that is said, and nothing has changed yet.
  const before = await now();
  await page.keyboard.press('Shift+d');
  await expect(page.getByRole('dialog')).toContainText('are missing');
  await page.getByRole('button', { name: 'Do not hang it' }).click();
  expect(await now()).toEqual(before);

  const strip = await middleOf(page, '[data-testid=clip-strip]');
  await page.mouse.click(strip.x + 40, strip.y);
  const frame = Number(/frame (\d+)/.exec(await page.getByTestId('watched-frame').innerText())![1]);
  expect(frame).toBeGreaterThan(80);
  await page.keyboard.press('Shift+d');
  await expect.poll(async () => shown(await now(), 179)).toBe(frame);
  await page.keyboard.press('f');
  await expect.poll(async () => shown(await now(), 150)).toBe(frame);
  await playheadAt(page, 2.5);
  await page.keyboard.press('v');
  await expect.poll(async () => shown(await now(), 75)).toBe(frame);
  const names = scoreOf(await now()).slots.map((s) => s.placed!.item.name);
  await page.mouse.click(strip.x - strip.width / 2 + 2, strip.y);
  await page.keyboard.press('g');
  await expect
    .poll(async () => scoreOf(await now()).slots.map((s) => s.placed!.item.name))
    .toEqual([names[0], 'one.mp4', ...names.slice(1, -1)]);
  await playheadAt(page, 6);
  await page.keyboard.press('b');
  await expect(page.getByTestId('over-shot').first()).toBeVisible();
  const over = scoreOf(await now()).over[0]!;
  expect([over.start.frame, over.start.mark?.kind]).toEqual([180, 'bar']);
  expect(starts(await now())).toEqual(starts(before));
  // Its last peg is dragged a beat back.
  const end = await middleOf(page, '[data-testid=over-peg]', 1);
  await drag(page, end, { x: end.x - (await middleOf(page, '[data-testid=peg-row-0]')).width / 16, y: end.y });
  await expect.poll(async () => scoreOf(await now()).over[0]!.frames).toBe(over.frames - 15);
});

test('trimming: both sides of the cut are seen with the clips’ own frames; rolled by keys to marks and frames, slid, and copied', async ({
  page,
}) => {
  const { id } = await preparedProject(page.request, { name: 'Trims', clips: CLIPS.slice(0, 2), then: () => FILLED });
  await openView(page, id, 'score');
  await page.getByTestId('peg').nth(1).click();
  const both = page.getByTestId('cut-view');
  // Slot 3 starts at frame 120: clip one again, from its frame 60 on, after two's frame 49 at 25 frames a second.
  await expect(both).toContainText('cut at frame 120 · on a bar');
  await expect(page.getByTestId('cut-before')).toContainText('two · frame 49 · 100 left');
  await expect(page.getByTestId('cut-after')).toContainText('one · frame 60 · 60 left');
  await page.keyboard.press(']');
  await expect(both).toContainText('cut at frame 135 · on a beat');
  await expect(page.getByTestId('cut-after')).toContainText('one · frame 75 · 75 left');
  await page.keyboard.press('Shift+[');
  await expect(both).toContainText('cut at frame 134 · free');
  await page.keyboard.press('[');
  await expect(both).toContainText('cut at frame 120 · on a bar');
  await chooseShot(page, 2);
  await page.keyboard.press('Alt+]');
  await expect.poll(async () => starts(await savedMontage(page)).slice(0, 4)).toEqual([0, 60, 135, 195]);
  const m = await savedMontage(page);
  expect(shownAt(m, 135)).toMatchObject({ source: 60 });
  await page.keyboard.press('Shift+c');
  await chooseShot(page, 4);
  await page.keyboard.press('Shift+v');
  await expect.poll(async () => scoreOf(await savedMontage(page)).slots[4]!.placed!.item.name).toBe('one.mp4');
});

test('live trimming while it plays, then the strip of live trims drawn to their marks', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Live trims', clips: CLIPS.slice(0, 2), then: () => FILLED });
  await openView(page, id, 'score');
  const before = starts(await savedMontage(page));
  await page.keyboard.press('Space');
  await playedTo(page, 1);
  await page.keyboard.press('e');
  await expect(page.getByTestId('live-trims')).toContainText('Live trim 1 of 1');
  await playedTo(page, 3);
  await page.keyboard.press('w');
  await expect(page.getByTestId('live-trims')).toContainText('of 2');
  await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
  await page.keyboard.press('Space');
  const trimmed = await savedMontage(page);
  expect(starts(trimmed)[1]).toBeLessThan(before[1]!);
  expect(starts(trimmed)[2]).toBeLessThan(before[2]!);
  expect(starts(trimmed).slice(3)).toEqual(before.slice(3));
  // One began with its own first picture, as before.
  expect(shownAt(trimmed, starts(trimmed)[2]!)!.source).toBe(60);
  await page.getByRole('button', { name: 'The next live trim' }).click();
  await expect(page.getByTestId('cut-view')).toContainText('free');
  await page.getByRole('button', { name: 'Draw all 2' }).click();
  const drawn = await savedMontage(page);
  expect(
    scoreOf(drawn)
      .slots.slice(1, 3)
      .every((s) => s.start.mark !== null),
  ).toBe(true);
  for (const i of [1, 2]) expect(Math.abs(starts(drawn)[i]! - starts(trimmed)[i]!)).toBeLessThanOrEqual(15);
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByTestId('live-trims')).toBeHidden();
});

test('retiming: a frame is tied to a mark and dragged; backwards; the film is exported, and every frame read back', async ({ page }) => {
  test.setTimeout(240_000);
  const { id } = await preparedProject(page.request, {
    name: 'Retimed',
    seconds: 8,
    clips: CLIPS.slice(0, 2),
    then: (m) => [SMALL, ...FILLED, { do: 'hangOver', from: { frame: 200 }, to: { frame: 220 }, assetId: m.footage[0]!.assetId }],
  });
  await openView(page, id, 'score');
  await chooseShot(page, 0);
  await page.getByTestId('curve-mark').nth(2).click();
  await expect(page.getByTestId('shot-curve').getByTestId('curve-tie')).toHaveCount(1);
  const tie = await middleOf(page, '[data-testid=shot-curve] [data-testid=curve-tie]');
  await drag(page, tie, { x: tie.x, y: tie.y - 20 });
  await expect(page.getByTestId('shot-curve').getByTestId('curve-tie')).toHaveCount(1);
  const tied = scoreOf(await savedMontage(page)).slots[0]!.placed!;
  expect(tied.ties[0]).toMatchObject({ into: 30 });
  expect(tied.ties[0]!.source).toBeGreaterThan(1.1);
  await chooseShot(page, 1);
  await page.getByRole('button', { name: 'Backwards' }).click();
  await chooseShot(page, 2);
  await page.getByLabel('Speed in percent').fill('50');
  await page.keyboard.press('Enter');
  await expect(page.getByText('slowed 50 %')).toBeVisible();
  const montage = await savedMontage(page);
  expect(sourceFrame(scoreOf(montage).slots[0]!.placed!, 30, montage)).toBe(Math.round(tied.ties[0]!.source * 30));

  await page.getByRole('link', { name: /^export/i }).click();
  await page.getByRole('button', { name: 'Export the film' }).click();
  await expect(page.getByTestId('export')).toHaveAttribute('data-state', 'done', { timeout: 150_000 });
  const [film] = await Promise.all([page.waitForEvent('download'), page.getByTestId('export').getByRole('link', { name: 'Film' }).click()]);
  const path = join(made.folder, 'retimed.mp4');
  await film.saveAs(path);
  const wanted = Array.from({ length: scoreOf(montage).frames }, (_, n) => shownAt(montage, n)?.source ?? -1);
  expect(frameNumbers(path)).toEqual(wanted);
});

test('a cut that was there before the music is laid out and settled on the beats, shown before and after', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Settled',
    clips: CLIPS,
    then: (m) => [
      {
        do: 'addSelects',
        assetId: m.footage[0]!.assetId,
        stretches: [0, 1.1, 2.3, 3.9].map((from, i, all) => ({ in: from, out: all[i + 1] ?? 5 })),
        how: 'replace',
      },
    ],
  });
  await openView(page, id, 'score');
  await page.getByRole('button', { name: 'More for the score' }).click();
  await page.getByRole('menuitem', { name: /Lay out a cut/ }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('4 shots, 5.0 s');
  await dialog.getByRole('button', { name: 'Lay it out' }).click();
  await expect(dialog).toContainText('4 cuts lie on no mark');
  await dialog.getByRole('radio', { name: 'retiming' }).click();
  await expect(dialog.getByTestId('settled-cut')).toHaveCount(4);
  await expect(dialog.getByTestId('settled-cut').first()).toContainText('33');
  // One cut is given another mark by hand; the others are solved around it.
  await dialog.getByLabel('Mark of the cut at frame 69').selectOption({ label: 'bar 2.00' });
  await expect(dialog.getByTestId('settled-cut').nth(1)).toContainText('60');
  await dialog.getByRole('button', { name: 'Settle 4 cuts' }).click();
  const m = await savedMontage(page);
  expect(starts(m).slice(0, 5)).toEqual([0, 30, 60, 120, 150]);
  expect(scoreOf(m).slots[1]!.placed!.shot.sourceIn).toBeCloseTo(1.1, 2);
  await page.keyboard.press('Control+z');
  expect(starts(await savedMontage(page)).slice(0, 5)).toEqual([0, 33, 69, 117, 150]);
});

test('gaps are listed and closed in one step; the report is saved; versions are kept, compared and taken back', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Report',
    clips: [CLIPS[0]!, made.clip('tiny', { frames: 12, fps: '30' })],
    then: (m) => [
      BARS,
      { do: 'fill', options: { ...FILL_DEFAULTS, whenOut: 'stop' } },
      { do: 'hangShot', startPeg: 'start', assetId: m.footage[0]!.assetId },
    ],
  });
  await openView(page, id, 'score');
  await page.getByRole('tab', { name: 'Report' }).click();
  const gaps = page.getByTestId('gaps');
  await expect(gaps).toContainText('7 gaps');
  await gaps.getByRole('button', { name: 'hold' }).first().click();
  await expect(gaps).toContainText('6 gaps');
  await gaps.getByRole('button', { name: 'reach over' }).last().click();
  const [csv] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the report as CSV' }).click()]);
  const lines = readFileSync(await csv.path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(lines).toHaveLength(scoreOf(await savedMontage(page)).slots.length + 1);
  const [json] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the report as JSON' }).click()]);
  expect((JSON.parse(readFileSync(await json.path(), 'utf8')) as SyncReport).slots).toHaveLength(lines.length - 1);
  await page.getByTestId('report-row').nth(1).click();
  await expect(page.getByTestId('place')).toContainText('frame 60');

  await page.getByRole('tab', { name: 'Versions' }).click();
  await page.getByLabel('Name of the version').fill('held');
  await page.getByRole('button', { name: 'Keep this version' }).click();
  await expect(page.getByTestId('versions')).toContainText('held');
  const kept = await savedMontage(page);
  await page.getByRole('button', { name: '2 beats', exact: true }).click();
  await page.getByRole('button', { name: 'compare' }).click();
  await expect(page.getByTestId('compare')).toContainText('lines are the same');
  await expect(page.getByTestId('compared-line').filter({ hasText: 'a cut more' }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Take “held”' }).click();
  await expect.poll(async () => savedMontage(page)).toEqual(kept);
  await page.getByRole('button', { name: 'Delete version held' }).click();
  await expect(page.getByTestId('versions')).toContainText('None kept yet');
});

test('undo goes back over a reload, step by step, and forth again', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Undo', clips: CLIPS.slice(0, 2) });
  await openView(page, id, 'score');
  const all = [await savedMontage(page)];
  await page.getByRole('button', { name: 'bars', exact: true }).click();
  all.push(await savedMontage(page));
  await fillSlots(page);
  all.push(await savedMontage(page));
  await chooseShot(page, 1);
  await page.keyboard.press('Delete');
  all.push(await savedMontage(page));
  await page.reload();
  await expect(page.getByTestId('shot').first()).toBeVisible();
  for (const before of [...all].reverse().slice(1)) {
    await page.keyboard.press('Control+z');
    expect(await savedMontage(page)).toEqual(before);
  }
  await page.reload();
  await expect(page.getByTestId('empty-slot').first()).toBeVisible();
  for (const after of all.slice(1)) {
    await page.keyboard.press('Control+Shift+z');
    expect(await savedMontage(page)).toEqual(after);
  }
});

test('the rhythm is measured and loosened; halved slots and shots over more slots move no other cut', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Rhythm', clips: CLIPS.slice(0, 2), then: () => FILLED });
  await openView(page, id, 'score');
  await page.getByRole('tab', { name: 'Rhythm' }).click();
  await expect(page.getByTestId('rhythm')).toContainText('100 %');
  await page.getByRole('button', { name: 'Loosen' }).click();
  await expect(page.getByTestId('rhythm')).not.toContainText('100 % of');
  const loose = starts(await savedMontage(page));
  expect(loose).not.toEqual([0, 60, 120, 180, 240, 300, 360, 420]);
  await page.keyboard.press('Control+z');
  await chooseShot(page, 1);
  await page.keyboard.press('s');
  expect(starts(await savedMontage(page))).toEqual([0, 60, 90, 120, 180, 240, 300, 360, 420]);
  await chooseShot(page, 0);
  await page.getByRole('button', { name: 'Over one slot more' }).click();
  const m = await savedMontage(page);
  expect(starts(m)).toEqual([0, 90, 120, 180, 240, 300, 360, 420]);
  await page.getByRole('button', { name: 'Lock the shot' }).click();
  await fillSlots(page);
  expect(scoreOf(await savedMontage(page)).slots[0]!.placed!.shot.id).toBe(scoreOf(m).slots[0]!.placed!.shot.id);
});
