import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { expect, test } from '@playwright/test';
import { arrangedLength, pulse, readMarks, type Command } from '@bluster/core';
import { median } from '@bluster/core/music/median';
import { startedSounds, watchAudioClock } from './audio-clock.ts';
import { demoFile, drag, middleOf, openView, preparedProject, savedMontage, playedTo } from './stage.ts';
import { detected, tapAlong } from './tapping.ts';

const SONG = demoFile('gust-on-the-down.ogg');
/** A loud, fast piece by lab/training/loud-song.mjs: 184 beats a minute, or half as many. */
const LOUD_SONG = resolve(import.meta.dirname, 'material/squall-on-the-ridge.ogg');
const loudTruth = readMarks('beats.txt', readFileSync(LOUD_SONG.replace('.ogg', '.beats.txt'))).marks.map((m) => m.time);

test('where two ways to count a song are close, both are heard as clicks, and the other one is taken in one step', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Two readings', clips: [], song: LOUD_SONG });
  await watchAudioClock(page);
  await openView(page, id, 'song');
  const found = pulse(await detected(page)).map((m) => m.time);
  const near = (times: readonly number[], all: readonly number[]): number =>
    times.filter((t) => Math.min(...all.map((a) => Math.abs(a - t))) < 0.05).length / times.length;
  // The last chord rings on for some beats more.
  expect(near(found, loudTruth)).toBeGreaterThan(0.9);
  expect(near(loudTruth, found)).toBeGreaterThan(0.95);

  const ways = page.getByRole('region', { name: 'Ways to count the song' });
  const first = ways.getByRole('button', { name: /^184 a minute/ });
  const other = ways.getByRole('button', { name: /^92 a minute/ });
  await expect(first).toHaveAttribute('aria-pressed', 'true');
  await expect(other).toHaveAttribute('aria-pressed', 'false');

  await test.step('its clicks are heard without changing a mark', async () => {
    await ways.getByRole('button', { name: 'Hear the clicks of 92 a minute' }).click();
    await expect.poll(async () => (await startedSounds(page)).filter((s) => s.length < 0.1).length).toBeGreaterThan(5);
    await ways.getByRole('button', { name: 'Stop the clicks of 92 a minute' }).click();
    const sounds = await startedSounds(page);
    const song = sounds.findLast((s) => s.length > 5)!;
    const clicks = sounds.filter((s) => s.length < 0.1).map((s) => s.when - song.when + song.offset);
    const gaps = clicks.slice(1).map((c, i) => c - clicks[i]!);
    expect(Math.abs(60 / median(gaps)! - 92)).toBeLessThan(2);
    // The clicks were off before, and are again.
    await expect(page.getByLabel('Clicks on the marks').getByRole('radio', { name: 'off' })).toBeChecked();
    expect(pulse(await savedMontage(page)).map((m) => m.time)).toEqual(found);
  });

  await other.click();
  await expect(other).toHaveAttribute('aria-pressed', 'true');
  await expect(first).toHaveAttribute('aria-pressed', 'false');
  const taken = pulse(await savedMontage(page));
  const gaps = taken.slice(1).map((m, i) => m.time - taken[i]!.time);
  expect(60 / median(gaps)!).toBeCloseTo(92, 0);
  expect(
    near(
      taken.map((m) => m.time),
      loudTruth,
    ),
  ).toBeGreaterThan(0.9);
  const bars = taken.flatMap((m, i) => (m.kind === 'bar' ? [i] : []));
  expect(median(bars.slice(1).map((b, i) => b - bars[i]!))).toBe(4);
  await page.keyboard.press('Control+z');
  expect(pulse(await savedMontage(page)).map((m) => m.time)).toEqual(found);
  await expect(first).toHaveAttribute('aria-pressed', 'true');
});

test('one bar tapped is enough to count all bars from it, as one step', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'One bar', clips: [], song: SONG });
  await watchAudioClock(page);
  await openView(page, id, 'song');
  const found = pulse(await detected(page));
  await expect(page.getByTestId('heard-as')).toHaveText(/^Heard as 124 a minute in bars of 4; 9\d % of what was heard agrees\.$/);
  const bar = found.findIndex((m) => m.kind === 'bar' && m.time > 2.5);
  await page.getByRole('radio', { name: 'as tapped' }).click();
  await tapAlong(page, 'y', [found[bar + 2]!.time]);
  await expect(page.getByTestId('lone-bar')).toContainText('Count all of them from there?');
  await page.getByRole('button', { name: 'Count from there' }).click();
  const after = pulse(await savedMontage(page));
  expect(after.map((m) => m.time)).toEqual(found.map((m) => m.time));
  const counted = after.map((_, i) => ((i - bar - 2) % 4 === 0 ? 'bar' : 'beat'));
  expect(after.map((m) => m.kind)).toEqual(counted);
  await page.keyboard.press('Control+z');
  expect(pulse(await savedMontage(page))).toEqual(found);
});

test('the song is made thirty seconds long, its joins are heard and moved, and all is undone', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Shorter', clips: [], song: SONG });
  await openView(page, id, 'song');
  const before = await detected(page);
  await page.getByRole('button', { name: 'Make it shorter…' }).click();
  await page.getByRole('button', { name: 'Look for ways' }).click();
  const joins = page.locator('[data-testid^=join-]');
  await expect(joins.first()).toBeVisible();
  await joins
    .first()
    .getByRole('button', { name: /Join 1/ })
    .click();
  await expect(joins.first().getByRole('button', { name: /Join 1/ })).toBeVisible();
  await joins.first().getByRole('button', { name: 'a bar later' }).click();
  await page.getByRole('button', { name: 'Take this way' }).click();
  const { song } = await savedMontage(page);
  expect(Math.abs(arrangedLength(song!.pieces) - 30)).toBeLessThan(2);
  expect(song!.pieces.at(-1)!.to).toBeCloseTo(song!.length, 3);
  const bars = pulse(before)
    .filter((m) => m.kind === 'bar')
    .map((m) => m.time);
  for (const [i, piece] of song!.pieces.slice(0, -1).entries()) {
    expect(Math.min(...bars.map((b) => Math.abs(b - piece.to)))).toBeLessThan(1e-6);
    expect(Math.min(...bars.map((b) => Math.abs(b - song!.pieces[i + 1]!.from)))).toBeLessThan(1e-6);
  }
  await page.keyboard.press('Control+z');
  expect((await savedMontage(page)).song).toEqual(before.song);
});

test('a range is chosen by dragging over the lines, gets an even grid, and loses its marks', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, { name: 'Range', clips: [] });
  await openView(page, id, 'song');
  const line = (await page.getByTestId('song-line-0').boundingBox())!;
  const next = (await page.getByTestId('song-line-1').boundingBox())!;
  // Lines hold four bars, eight seconds: from second 2.2 to second 10.3.
  await drag(page, { x: line.x + (2.2 / 8) * line.width, y: line.y + 30 }, { x: next.x + (2.3 / 8) * next.width, y: next.y + 30 });
  await expect(page.getByTestId('range')).toHaveCount(2);
  await expect(page.getByTestId('range-tools')).toContainText('16 beats');
  await test.step('what is no tempo is said so where it was typed, and nothing is looked for', async () => {
    await page.getByLabel('Tempo hint').fill('4');
    await page.getByRole('button', { name: 'Detect here' }).click();
    await expect(page.getByTestId('range-tools').getByRole('alert')).toHaveText(
      '“4” is no tempo. Give beats a minute from 20 to 400, or nothing.',
    );
    await page.getByLabel('Tempo hint').fill('');
    await expect(page.getByTestId('range-tools').getByRole('alert')).toHaveCount(0);
  });
  await page.getByLabel('How many').fill('10');
  await page.getByLabel('What the grid counts').selectOption('frames');
  await page.getByRole('button', { name: 'Even grid' }).click();
  const laid = pulse(await savedMontage(page)).filter((m) => m.time > 2.1 && m.time < 10.3);
  const gaps = laid.slice(1).map((m, i) => m.time - laid[i]!.time);
  for (const gap of gaps) expect(gap).toBeCloseTo(10 / 30, 4);
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  const left = pulse(await savedMontage(page)).map((m) => m.time);
  expect(left.filter((t) => t > 2.21 && t < 10.2)).toEqual([]);
  await page.getByRole('button', { name: 'Fill holes' }).click();
  const filled = pulse(await savedMontage(page)).map((m) => m.time);
  expect(filled.length).toBeGreaterThan(left.length + 10);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect((await savedMontage(page)).marks).toEqual(montage.marks);
});

test('a doubtful beat is found by its key, drawn to its onset, locked, and measured against another', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Doubt', clips: [], song: SONG });
  await openView(page, id, 'song');
  const found = await detected(page);
  const beat = pulse(found).find((m) => m.time > 17 && m.kind === 'beat')!;
  const line = page.getByTestId('song-line-2');
  const box = (await line.boundingBox())!;
  const x = async (time: number): Promise<number> => {
    const { from, span } = await line.evaluate((e) => ({ from: Number(e.dataset['lineFrom']), span: Number(e.dataset['lineSpan']) }));
    return box.x + ((time - from) / span) * box.width;
  };
  const at = await x(beat.time);
  await drag(page, { x: at, y: box.y + 40 }, { x: at + 7, y: box.y + 40 });
  const moved = (await savedMontage(page)).marks.find((m) => m.id === beat.id)!;
  expect(moved.time - beat.time).toBeGreaterThan(0.045);
  await expect(page.getByTestId('doubtful').filter({ hasText: /late\?/ })).toBeVisible();
  await page.getByTestId('song-line-1').click({ position: { x: 500, y: 30 } });
  await page.keyboard.press('n');
  await expect(page.getByTestId('chosen-mark')).toContainText('beat at');
  await page.keyboard.press('x');
  const drawn = (await savedMontage(page)).marks.find((m) => m.id === beat.id)!;
  expect(Math.abs(drawn.time - beat.time)).toBeLessThan(0.012);
  await page.keyboard.press('Shift+L');
  await page.keyboard.press('Alt+ArrowRight');
  await expect(page.getByText('This mark is locked. Unlock it first.')).toBeVisible();
  const other = pulse(found).find((m) => m.time > drawn.time + 0.9)!;
  await page.keyboard.down('Shift');
  await page.mouse.click(await x(other.time), box.y + 40);
  await page.keyboard.up('Shift');
  await expect(page.getByTestId('distance')).toHaveText(/^\d+\.\d ms · \d+\.\d\d frames · 2\.\d\d beats apart$/);
});

test('accents are thinned live, a cue gets its word afterwards, and marks go out and in as a file', async ({ page }, info) => {
  const { id } = await preparedProject(page.request, { name: 'Accents', clips: [], song: SONG });
  await watchAudioClock(page);
  await openView(page, id, 'song');
  await detected(page);
  const count = async (): Promise<number> => Number(await page.getByTestId('accent-count').textContent());
  const all = await count();
  const slider = page.getByRole('slider', { name: 'Strength from which low accents count' });
  await slider.focus();
  await page.keyboard.press('End');
  await expect(page.getByTestId('left-low')).toHaveText(/^0 of \d+$/);
  expect(await count()).toBeLessThan(all);
  await page.keyboard.press('Home');
  await expect(page.getByTestId('left-low')).toHaveText(/^(\d+) of \1$/);

  await tapAlong(page, 'q', [2.5]);
  await page.getByLabel('Word of the tapped cue').fill('lift off');
  await page.keyboard.press('Enter');
  const cue = (await savedMontage(page)).marks.find((m) => m.kind === 'cue')!;
  expect(cue.label).toBe('lift off');

  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Write…' }).click();
  await page.getByRole('menuitem', { name: 'JAMS' }).click();
  const path = info.outputPath('song.jams');
  await (await download).saveAs(path);
  const written = readMarks('song.jams', readFileSync(path));
  expect(written.marks.find((m) => m.kind === 'cue')?.label).toBe('lift off');
  const before = await savedMontage(page);
  const kept = before.marks.filter((m) => m.kind !== 'accent').map((m) => [m.kind, m.time]);
  await page.getByRole('button', { name: 'Double the beats' }).click();
  await page.getByTestId('marks-file').setInputFiles(path);
  await expect(page.getByText(/marks read from song\.jams/)).toBeVisible();
  expect((await savedMontage(page)).marks.filter((m) => m.kind !== 'accent').map((m) => [m.kind, m.time])).toEqual(kept);
  await page.getByTestId('marks-file').setInputFiles({ name: 'bad.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b\n1,2\n') });
  await expect(page.getByText(/one of them must be "time"/)).toBeVisible();
});

test('on the pad, a finger taps what is chosen', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, { name: 'Pad', clips: [] });
  await openView(page, id, 'song');
  await page.getByRole('radio', { name: 'drop', exact: true }).first().check();
  await page.keyboard.press('Space');
  await playedTo(page, 1);
  const pad = await middleOf(page, '[data-testid=tap-pad]');
  await page.getByTestId('tap-pad').dispatchEvent('pointerdown', { pointerType: 'touch', clientX: pad.x, clientY: pad.y, bubbles: true });
  await page.keyboard.press('Space');
  const added = (await savedMontage(page)).marks.filter((m) => !montage.marks.some((o) => o.id === m.id));
  expect(added.map((m) => m.kind)).toEqual(['drop']);
});

test('the keys of tapping are learned with a metre, and no mark changes', async ({ page }) => {
  // The beats of the song come every half second, and two are a bar.
  const every = (seconds: number, times: number): number[] => Array.from({ length: times }, (_, i) => (i + 1) * seconds);
  const then = (): Command[] => [{ do: 'takeBeatTimes', times: [0, ...every(0.5, 30)], metre: 2 }];
  const { id, montage } = await preparedProject(page.request, { name: 'Lesson', clips: [], then });
  await watchAudioClock(page);
  await openView(page, id, 'song');
  await page.getByRole('button', { name: 'Learn', exact: true }).click();
  const lesson = page.getByTestId('tap-lesson');
  await expect(lesson.locator('[aria-current=step]')).toContainText('tap every beat');
  await tapAlong(page, 't', every(0.5, 10));
  await expect(lesson.locator('[aria-current=step]')).toContainText('first beat of each bar');
  await expect(lesson.getByRole('status')).toContainText(/\d+ taps, .*half of them within \d+ ms/);
  await tapAlong(page, 'y', every(1, 5));
  await expect(lesson.locator('[aria-current=step]')).toContainText('what sticks out');
  await lesson.getByRole('button', { name: 'End' }).click();
  await expect(lesson).toBeHidden();
  expect(await savedMontage(page)).toEqual(montage);
});
