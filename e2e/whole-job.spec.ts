import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { SyncReport } from '@bluster/core';
import { frameNumbers } from '@bluster/media/testing/made-media';
import { fillSlots, demoFile, drag, dropFiles, made, middleOf, savedMontage, playedTo } from './stage.ts';

test('a person drops in a song and clips, taps, pegs bars, fills, exports; the film is cut where the report says', async ({ page }) => {
  await test.step('a new project', async () => {
    await page.goto('/');
    await page.getByRole('button', { name: 'New project' }).first().click();
    await page.getByRole('textbox', { name: 'Name' }).fill('Opening day');
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(/\/song$/);
    await expect(page.getByText('Drop a song here')).toBeVisible();
  });

  await test.step('the song is dropped in and its beats are found', async () => {
    await dropFiles(page, 'main', [made.song(16)]);
    await expect(page.getByTestId('song-line-0')).toBeVisible();
    await expect(page.getByTestId('beat-count')).toHaveText(/^3[0-3]$/);
    const { marks } = await savedMontage(page);
    const beats = marks.filter((m) => m.kind === 'beat' || m.kind === 'bar');
    // A tick every half second, each found within 10 ms.
    for (const { time } of beats) expect(Math.abs(time - Math.round(time * 2) / 2)).toBeLessThan(0.01);
  });

  await test.step('says where bar 1 is', async () => {
    await page.keyboard.press('Home');
    await page.getByRole('button', { name: 'bar 1 here' }).click();
    await expect(page.getByTestId('bar-count')).toHaveText('8');
  });

  await test.step('taps along, and takes them back', async () => {
    const before = await savedMontage(page);
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
    await playedTo(page, 1.5);
    await page.keyboard.press('u');
    await expect(page.getByTestId('tap-pad')).toContainText(/drop (at \d|drawn)/);
    await page.keyboard.press('Space');
    const tapped = await savedMontage(page);
    expect(tapped.marks.filter((m) => m.origin === 'tapped' && m.kind === 'drop')).toHaveLength(1);
    await page.keyboard.press('Control+z');
    expect((await savedMontage(page)).marks).toEqual(before.marks);
  });

  await test.step('the clips are brought in, many at once', async () => {
    await page.getByRole('link', { name: /^footage/i }).click();
    // Until the view is there, it is the song's that files would be dropped on.
    await expect(page.getByText('Drop clips and photos here')).toBeVisible();
    await dropFiles(page, 'main', [
      made.clip('one', { frames: 150, fps: '30' }),
      made.clip('two', { frames: 150, fps: '25' }),
      made.clip('three', { frames: 33, fps: '30' }),
      demoFile('ribbon-box.jpg'),
    ]);
    await expect(page.getByTestId('footage-card')).toHaveCount(4);
    await expect(page.getByLabel('Coming in')).toBeHidden({ timeout: 60_000 });
  });

  await test.step('the in of a clip is set while it plays', async () => {
    await page.getByRole('button', { name: /^one\.mp4, number/ }).click();
    await page.keyboard.press('Space');
    await expect.poll(() => page.getByTestId('clip-video').evaluate((v: HTMLVideoElement) => v.currentTime)).toBeGreaterThan(0.4);
    await page.keyboard.press('i');
    await page.keyboard.press('Space');
    const one = (await savedMontage(page)).footage.find((f) => f.name === 'one.mp4')!;
    const from = one.selects[0]!.in;
    expect(from).toBeGreaterThan(0.3);
    // On a frame of the clip, not between two.
    expect(Math.abs(from * 30 - Math.round(from * 30))).toBeLessThan(1e-6);
    // Taken back: where it lies is chance, and the film's cuts are told by how far its frame numbers jump.
    await page.keyboard.press('Control+z');
    expect((await savedMontage(page)).footage.find((f) => f.name === 'one.mp4')!.selects).toEqual([]);
  });

  await test.step('story order by drag and drop', async () => {
    const third = await middleOf(page, '[data-testid=footage-card] > button:first-child', 2);
    const first = await middleOf(page, '[data-testid=footage-card] > button:first-child', 0);
    const before = (await savedMontage(page)).footage.map((f) => f.name);
    await drag(page, third, { x: first.x - 20, y: first.y });
    await expect(page.getByTestId('footage-card').first()).toContainText(before[2]!.replace(/\.\w+$/, ''));
    expect((await savedMontage(page)).footage.map((f) => f.name)).toEqual([before[2], before[0], before[1], before[3]]);
  });

  await test.step('pegs on bars, slots filled', async () => {
    await page.getByRole('link', { name: /^score/i }).click();
    await page.getByRole('button', { name: 'bars', exact: true }).click();
    await fillSlots(page);
    await expect(page.getByText(/8 of 8 slots filled/).first()).toBeVisible();
    await page.keyboard.press('Home');
    await expect(page.getByTestId('screen')).toHaveAttribute('data-frame', '0');
  });

  await test.step('exported and read back', async () => {
    const montage = await savedMontage(page);
    await page.getByRole('link', { name: /^export/i }).click();
    await page.getByRole('button', { name: 'Export the film' }).click();
    await expect(page.getByRole('progressbar', { name: 'Export' })).toBeVisible();
    await expect(page.getByTestId('export')).toHaveAttribute('data-state', 'done', { timeout: 150_000 });
    const [film] = await Promise.all([
      page.waitForEvent('download'),
      page.getByTestId('export').getByRole('link', { name: 'Film' }).click(),
    ]);
    const [json] = await Promise.all([
      page.waitForEvent('download'),
      page.getByTestId('export').getByRole('link', { name: 'Report' }).click(),
    ]);
    const filmPath = join(made.folder, 'opening-day.mp4');
    const reportPath = join(made.folder, 'opening-day.json');
    await film.saveAs(filmPath);
    await json.saveAs(reportPath);

    const report = JSON.parse(readFileSync(reportPath, 'utf8')) as SyncReport;
    expect(report.cuts).toHaveLength(7);
    for (const cut of report.cuts) {
      // Accents may lie on the very same moments.
      const mark = montage.marks.find((m) => m.kind !== 'accent' && Math.abs(m.time - cut.mark!.songTime) < 1e-9)!;
      expect(mark.kind).toBe('bar');
      expect(Math.abs(cut.frame / 30 - mark.time)).toBeLessThanOrEqual(1 / 60 + 1e-6);
      expect(cut.errorMs).toBeCloseTo((cut.frame / 30 - mark.time) * 1000, 2);
    }
    // Within a slot frame numbers go on evenly; where they jump the picture changed.
    const shown = frameNumbers(filmPath);
    expect(shown).toHaveLength(report.frames);
    const jumps: number[] = [];
    for (let n = 1; n < shown.length; n++) if (Math.abs(shown[n]! - shown[n - 1]!) > 3) jumps.push(n);
    expect(jumps).toEqual(report.cuts.filter((c) => c.visible).map((c) => c.frame));
  });
});
