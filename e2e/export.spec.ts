import { expect, test, type APIRequestContext } from '@playwright/test';
import { FILL_DEFAULTS, scoreOf } from '@bluster/core';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ownServer } from '../scripts/own-server.mjs';
import { probe } from '@bluster/media/probe/probe';
import { programPath } from '@bluster/media/program/programs';
import { made, openView, preparedProject, savedMontage, whenSaved } from './stage.ts';

const CLIPS = [made.clip('one', { frames: 150, fps: '30' }), made.clip('two', { frames: 150, fps: '25' })];

test('an export is called off, and another one made', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Called off',
    clips: CLIPS,
    then: () => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      { do: 'fill', options: FILL_DEFAULTS },
      { do: 'setShape', shape: { width: 1920, height: 1080, rate: { num: 30, den: 1 } } },
    ],
  });
  await openView(page, id, 'export');
  await page.getByRole('button', { name: 'Export the film' }).click();
  const rows = page.getByTestId('export');
  await expect(rows).toContainText(/\d+ %/);
  await rows.getByRole('button', { name: 'Cancel' }).click();
  await expect(rows).toHaveAttribute('data-state', 'cancelled');
  await expect(rows).toContainText('Cancelled.');
  await page.getByRole('button', { name: 'Export the film' }).click();
  await expect(rows).toHaveCount(2);
  await expect(rows.first()).toHaveAttribute('data-state', /running|queued/);
  // The step at the top says how far it is, on every view.
  await page.getByRole('link', { name: /^score/i }).click();
  await expect(page.getByRole('link', { name: /export \d+ %/i })).toBeVisible();
  await page.getByRole('link', { name: /^export/i }).click();
  await rows.first().getByRole('button', { name: 'Cancel' }).click();
  await expect(rows.first()).toHaveAttribute('data-state', 'cancelled');
});

test('what is missing is said before anything is made', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Half done',
    clips: CLIPS,
    then: (montage) => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      { do: 'hangShot', startPeg: 'start', assetId: montage.footage[0]!.assetId },
    ],
  });
  await openView(page, id, 'export');
  await expect(page.getByText('7 slots are empty and will be black.')).toBeVisible();
});

/** Eight seconds of two clips with a cut every second, each slot another part of its clip. */
const shortProject = (request: APIRequestContext, name: string): ReturnType<typeof preparedProject> =>
  preparedProject(request, {
    name,
    seconds: 8,
    clips: CLIPS,
    then: () => [
      { do: 'setShape', shape: { width: 320, height: 180, rate: { num: 30, den: 1 } } },
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 2 } },
      { do: 'fill', options: { ...FILL_DEFAULTS, tooShort: 'next' } },
    ],
  });

test('three shapes at once: each is made, read back and shown with its cuts; one is taken away, one made again', async ({ page }) => {
  const { id } = await shortProject(page.request, 'Three shapes');
  await openView(page, id, 'export');
  for (const shape of [/^9:16/, /^1:1/]) await page.getByRole('checkbox', { name: shape }).click();
  await page.getByLabel('Name of the film').fill('Day of kites');
  const foretold = page.getByTestId('will-be-made').getByRole('row');
  await expect(foretold).toHaveCount(3);
  await expect(foretold.nth(1)).toContainText('180×320');
  await page.getByRole('button', { name: 'Export 3 films' }).click();
  const films = page.getByTestId('export');
  await expect(films).toHaveCount(3);
  await expect(page.locator('[data-testid=export][data-state=done]')).toHaveCount(3, { timeout: 120_000 });
  // Newest first.
  const sizes = [
    [180, 180],
    [180, 320],
    [320, 180],
  ] as const;
  for (const [i, [width, height]] of sizes.entries()) {
    const film = films.nth(i);
    await expect(film.getByTestId('verdict')).toHaveText(
      /^All 7 cuts found in the film on their frames; sound \d[.]\d ms from the song[.]$/,
    );
    await expect(film.getByTestId('cuts-drawing').locator('g')).toHaveCount(7);
    await expect(film.locator('g[data-wrong=true]')).toHaveCount(0);
    await expect(film).toContainText('Day of kites');
    const path = join(made.folder, `shape-${width}x${height}.mp4`);
    writeFileSync(path, await (await page.request.get((await film.getByRole('link', { name: 'Film' }).getAttribute('href'))!)).body());
    expect((await probe(path, 'film')).video).toMatchObject({ width, height, frames: 240 });
  }
  await films.first().getByRole('button', { name: 'Remove' }).click();
  await films.first().getByRole('button', { name: 'Keep' }).click();
  await expect(films).toHaveCount(3);
  await films.first().getByRole('button', { name: 'Remove' }).click();
  await films.first().getByRole('button', { name: 'Remove for good' }).click();
  await expect(films).toHaveCount(2);
  await films.first().getByRole('button', { name: /again/ }).click();
  await expect(films).toHaveCount(3);
  await expect(films.first()).toContainText('9x16.mp4');
  await expect(films.first()).toHaveAttribute('data-state', 'done', { timeout: 60_000 });
});

test('the frame at the playhead as a picture; what a GIF cannot be is said before it is made', async ({ page }) => {
  const { id } = await shortProject(page.request, 'A picture');
  await openView(page, id, 'export');
  await page.getByRole('radio', { name: 'PNG' }).click();
  await expect(page.getByRole('radiogroup', { name: 'Stretch' }).or(page.getByRole('group', { name: 'Stretch' }))).toHaveCount(0);
  await page.getByRole('button', { name: 'Export the picture' }).click();
  const film = page.getByTestId('export');
  await expect(film).toHaveAttribute('data-state', 'done', { timeout: 60_000 });
  await expect(film).toContainText('A picture 16x9.png');
  await expect(film.getByTestId('verdict')).toHaveCount(0);
  const picture = await page.request.get((await film.getByRole('link', { name: 'Film' }).getAttribute('href'))!);
  expect(picture.headers()['content-type']).toBe('image/png');
  await page.getByRole('radio', { name: 'GIF' }).click();
  await expect(page.getByTestId('will-be-made')).toContainText('A picture 16x9.gif');
});

test('the cut goes out as OpenTimelineIO and as an edit decision list, and what is left out is said', async ({ page }) => {
  const { id } = await shortProject(page.request, 'To others');
  await openView(page, id, 'export');
  const ways = page.getByRole('region', { name: 'Other ways out' });
  await expect(ways.getByRole('listitem').filter({ hasText: 'Edit decision list' })).toContainText(
    "the frame rate of a clip (times are counted at the montage's) and the song and its marks",
  );
  for (const [title, file, says] of [
    ['OpenTimelineIO', 'To others.otio', '"OTIO_SCHEMA": "Timeline.1"'],
    ['Edit decision list', 'To others.edl', 'FCM: NON-DROP FRAME'],
  ] as const) {
    const [download] = await Promise.all([page.waitForEvent('download'), ways.getByRole('button', { name: title }).click()]);
    expect(download.suggestedFilename()).toBe(file);
    expect(readFileSync(await download.path(), 'utf8')).toContain(says);
  }
});

test('a project is saved as one file and opened again from the projects page; without media it says what is missing', async ({ page }) => {
  const { id } = await shortProject(page.request, 'Goes away');
  await openView(page, id, 'export');
  const ways = page.getByRole('region', { name: 'Other ways out' });
  const save = async (name: string): Promise<string> => {
    const [download] = await Promise.all([page.waitForEvent('download'), ways.getByRole('button', { name, exact: true }).click()]);
    expect(download.suggestedFilename()).toBe('Goes away.bluster.zip');
    const path = join(made.folder, `${name}.zip`);
    await download.saveAs(path);
    return path;
  };
  const [whole, bare] = [await save('Bundle'), await save('Bundle, no media')];
  await page.goto('/');
  await page.getByLabel('Bundle file').setInputFiles(whole);
  await expect(page).toHaveURL(/\/projects\/(?!.*deleted)[0-9a-f-]+\/score$/);
  expect(page.url()).not.toContain(id);
  await expect(page.getByTestId('shot')).toHaveCount(8);
  await page.goto('/');
  await page.getByLabel('Bundle file').setInputFiles(bare);
  await expect(page).toHaveURL(/\/footage$/);
  await expect(page.getByText(/^Not in the bundle: /)).toBeVisible();
  // They are brought in by their names, and the score has its pictures.
  await expect(page.getByText('2 files were not in the bundle.', { exact: false })).toBeVisible();
  await page.getByTestId('footage-input').setInputFiles([...CLIPS]);
  await expect(page.getByText('not in the bundle.', { exact: false }).filter({ hasNotText: 'Not in the bundle' })).toHaveCount(0);
  await expect(page.getByTestId('footage-card')).toHaveCount(2);
  await page.goto('/');
  await page.getByLabel('Bundle file').setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip at all') });
  await expect(page.getByText('This bundle cannot be opened: it is no zip file, or it was cut off.')).toBeVisible();
});

test('a bundle is opened by another Bluster, whose data folder was empty', async ({ browser, request }) => {
  const { id } = await shortProject(request, 'Goes far away');
  const path = join(made.folder, 'far-away.zip');
  writeFileSync(path, await (await request.get(`/api/projects/${id}/bundle`)).body());
  const away = await ownServer();
  // Another computer has a browser of its own: the page that goes from test to test, once it had been there, now and then stood still.
  const context = await browser.newContext();
  try {
    const page = await context.newPage();
    await page.goto(away.base);
    await expect(page.getByText('Nothing in the air yet')).toBeVisible();
    await page.getByLabel('Bundle file').setInputFiles(path);
    await expect(page).toHaveURL(/\/score$/);
    expect(page.url().startsWith(away.base)).toBe(true);
    await expect(page.getByTestId('shot')).toHaveCount(8);
    await page.goto(away.base);
    await expect(page.getByRole('button', { name: 'Open Goes far away' })).toBeVisible();
  } finally {
    await context.close();
    await away.stop();
  }
});

/** An ffmpeg whose films come two frames late: what an encoder that is broken would make of them. */
function lateFfmpeg(): string {
  const path = join(made.folder, 'late-ffmpeg');
  const late = 'tpad=start=2:start_mode=clone,trim=end_frame=240';
  const script = [
    '#!/bin/sh',
    // Only the call that writes the film has words for its container.
    'case " $* " in',
    // The container and the file come last.
    `  *" -video_track_timescale "*) n=$(($# - 3)); while [ "$n" -gt 0 ]; do set -- "$@" "$1"; shift; n=$((n - 1)); done; set -- "$@" -vf ${late} "$1" "$2" "$3"; shift 3 ;;`,
    'esac',
    `exec ${programPath('ffmpeg')} "$@"`,
    '',
  ];
  writeFileSync(path, script.join('\n'), { mode: 0o755 });
  return path;
}

test('a film that came out otherwise than planned says so: which cuts, how far off, and where', async ({ page, playwright }) => {
  const broken = await ownServer({ env: { BLUSTER_FFMPEG: lateFfmpeg() } });
  const request = await playwright.request.newContext({ baseURL: broken.base });
  try {
    const { id } = await shortProject(request, 'Late pictures');
    await page.goto(`${broken.base}/projects/${id}/export`);
    await page.getByRole('button', { name: 'Export the film' }).click();
    const film = page.locator('[data-testid=export][data-state=done]');
    await expect(film.getByTestId('verdict')).toContainText(
      '7 cuts are not where they should be, the first at 0:01: 2 frames late; sound',
      { timeout: 120_000 },
    );
    await expect(film.getByTestId('verdict')).not.toContainText('missing');
    await film.getByRole('button', { name: 'Go there' }).click();
    await expect(page).toHaveURL(/\/score$/);
    await expect(page.getByTestId('time')).toHaveText(/^0:01[.]/);
    // The report that goes out says the same.
    const [job] = (await (await request.get(`/api/projects/${id}/jobs`)).json()) as { id: string; kind: string }[];
    const table = await (await request.get(`/api/exports/${job!.id}/report?as=html`)).text();
    expect(table).toContain('7 cuts are not where they should be');
  } finally {
    await request.dispose();
    await broken.stop();
  }
});

test('a cut from another program is laid over the song: what is named is found, what is missing is pointed at', async ({ page }) => {
  const { id } = await shortProject(page.request, 'From others');
  await openView(page, id, 'score');
  await page.getByRole('button', { name: 'More for the score' }).click();
  await page.getByRole('menuitem', { name: /Lay out a cut/ }).click();
  const dialog = page.getByRole('dialog', { name: 'A cut that is there already' });
  const line = (n: number, reel: string, from: number, to: number): string =>
    `${String(n).padStart(3, '0')}  ${reel.padEnd(8)} V     C        00:00:01:00 00:00:0${1 + to - from}:00 01:00:0${from}:00 01:00:0${to}:00`;
  const list = ['TITLE: Kites', 'FCM: NON-DROP FRAME', line(1, 'ONE', 0, 2), line(2, 'BL', 2, 3), line(3, 'GONE', 3, 5)].join('\r\n');
  const file = (name: string, text: string): { name: string; mimeType: string; buffer: Buffer } => ({
    name,
    mimeType: 'text/plain',
    buffer: Buffer.from(text),
  });
  await dialog.getByLabel('Cut file').setInputFiles(file('kites.edl', list.replace('00:00:01:00', '00:99:01:00')));
  await expect(dialog.getByRole('alert')).toHaveText('Line 3 has a time code that cannot be read: 00:99:01:00.');
  await dialog.getByLabel('Cut file').setInputFiles(file('kites.edl', list));
  const read = dialog.getByTestId('read-cut');
  await expect(read).toContainText('kites.edl: 2 shots, 5.0 s; the song is 8.0 s.');
  await expect(read).toContainText('1 file is not in the footage.');
  await read.getByLabel('Stands for GONE').selectOption({ label: 'two.mp4' });
  await read.getByRole('button', { name: 'Lay it over the song' }).click();
  await expect(page.getByText('The cut lies over the song: 2 shots on free pegs.')).toBeVisible();
  await page.keyboard.press('Escape');
  await whenSaved(page);
  const { slots } = scoreOf(await savedMontage(page));
  expect(slots.slice(0, 3).map(({ frames, placed }) => [frames, placed?.item.name ?? null, placed?.shot.sourceIn ?? null])).toEqual([
    [60, 'one.mp4', 1],
    [30, null, null],
    [60, 'two.mp4', 1],
  ]);
});
