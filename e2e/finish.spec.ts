import { expect, test, type Page } from '@playwright/test';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { FILL_DEFAULTS, firingsOf, placedTitles, scoreOf, transitionsOf, type Command } from '@bluster/core';
import { ffmpeg } from '@bluster/media/testing/made-media';
import { drag, made, middleOf, openView, preparedProject, savedMontage } from './stage.ts';
import { halvesShown, numberShown, spots } from './numbered-screen.ts';

const filled = (): Command[] => [
  { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
  { do: 'fill', options: FILL_DEFAULTS },
];

/** A song of eight bars, a beat every half second, with numbered clips in slots of sixty frames. */
async function project(page: Page, name: string, then: () => readonly Command[] = filled): Promise<void> {
  const { id } = await preparedProject(page.request, {
    name,
    clips: [made.clip('finish-a', { frames: 150, fps: '30' }), made.clip('finish-b', { frames: 140, fps: '30' })],
    then,
  });
  await openView(page, id, 'finish');
  await expect(page.getByTestId('screen')).toHaveAttribute('data-frame', '0');
}

async function goTo(page: Page, frame: number): Promise<void> {
  const screen = page.getByTestId('screen');
  const now = (): Promise<number> => screen.getAttribute('data-frame').then(Number);
  while ((await now()) !== frame) {
    const before = await now();
    await page.keyboard.press(before < frame ? '.' : ',');
    await expect(screen).not.toHaveAttribute('data-frame', String(before));
  }
}

test('an effect is laid on every bar, left out on one, made weaker, taken away; the screen shows it', async ({ page }) => {
  await project(page, 'Effects');
  const dark = (await halvesShown(page))[0];
  await page.getByRole('button', { name: 'Lay', exact: true }).click();
  await expect(page.getByTestId('firing-flash')).toHaveCount(8);
  await expect.poll(async () => (await halvesShown(page))[0]).toBeGreaterThan(dark + 90);
  await goTo(page, 7);
  await expect.poll(async () => (await halvesShown(page))[0]).toBeLessThan(dark + 40);

  // Its sign on the second bar takes it away there, the lane brings it back.
  await page.getByRole('button', { name: 'flash at bar 2, beat 1, remove it' }).click();
  await expect(page.getByTestId('firing-flash')).toHaveCount(7);
  expect(firingsOf(await savedMontage(page)).map((f) => f.frame)).toEqual([0, 120, 180, 240, 300, 360, 420]);
  const lane = (await page.getByTestId('effects-lane').first().boundingBox())!;
  await page.mouse.click(lane.x + lane.width / 4 + 3, lane.y + lane.height / 2);
  await expect(page.getByTestId('firing-flash')).toHaveCount(8);

  await page.getByRole('slider', { name: /^Strength of the flash/ }).press('Home');
  await page.getByRole('radio', { name: '2', exact: true }).click();
  const { effects } = await savedMontage(page);
  expect(effects.map((e) => [e.strength, e.beats])).toEqual([[0.05, 2]]);
  await page.getByRole('button', { name: 'Remove the flash on every bar' }).click();
  await expect(page.getByTestId('firing-flash')).toHaveCount(0);
  for (let i = 0; i < 6; i++) await page.keyboard.press('Control+z');
  await expect(page.getByTestId('firing-flash')).toHaveCount(0);
  expect((await savedMontage(page)).effects).toEqual([]);
});

test('effects are laid by key on the mark at the playhead, also while it plays', async ({ page }) => {
  await project(page, 'By key');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('g');
  await expect(page.getByTestId('firing-punch')).toHaveCount(1);
  await page.keyboard.press('v');
  expect(firingsOf(await savedMontage(page)).map((f) => [f.effect.kind, f.frame])).toEqual([
    ['punch', 15],
    ['shake', 15],
  ]);
  await page.keyboard.press('v');
  await expect(page.getByTestId('firing-shake')).toHaveCount(0);
  await page.keyboard.press('Space');
  await expect.poll(async () => Number(await page.getByTestId('screen').getAttribute('data-frame'))).toBeGreaterThan(100);
  await page.keyboard.press('d');
  await expect(page.getByTestId('firing-dip')).toHaveCount(1);
  await page.keyboard.press('Space');
  const dip = firingsOf(await savedMontage(page)).find((f) => f.effect.kind === 'dip')!;
  expect(dip.frame % 15).toBe(0);
  expect(dip.frame).toBeGreaterThanOrEqual(90);
});

test('a dissolve is laid on a cut, both clips are seen in it, and it can lie on all cuts', async ({ page }) => {
  await project(page, 'Dissolve');
  await page.getByTestId('cut').first().click();
  await page.getByRole('radio', { name: 'dissolve' }).click();
  const [transition] = transitionsOf(await savedMontage(page));
  expect([transition!.from, transition!.cut, transition!.to]).toEqual([53, 60, 68]);
  await expect(page.getByTestId('transition-dissolve')).toHaveCount(1);
  // The second clip starts at its first frame, which stands before the cut.
  await expect(page.getByText(/starts at its first picture, which stands for 7 frames/)).toBeVisible();
  await expect(page.getByTestId('screen')).toHaveAttribute('data-frame', '60');
  // First clip at 60: halves 16 + 40 and 16 + 4; second at 0: both 16. Half way they are mixed.
  await expect.poll(async () => Math.abs((await halvesShown(page))[0] - (16 + (40 * 8) / 16))).toBeLessThan(4);
  await goTo(page, 68);
  await expect.poll(() => numberShown(page)).toBe(8);

  await page.getByRole('radio', { name: 'through black' }).click();
  await goTo(page, 60);
  await expect.poll(async () => Math.max(...(await spots(page, [[0.25, 0.5]]))[0]!)).toBeLessThan(8);
  await page.getByRole('radio', { name: 'after it' }).click();
  await page.getByRole('button', { name: 'Same on all cuts' }).click();
  const all = transitionsOf(await savedMontage(page));
  expect(all.map((t) => [t.transition.kind, t.to - t.from])).toEqual(Array.from({ length: 7 }, () => ['black', 15]));
  await page.getByRole('button', { name: 'All plain again' }).click();
  await expect(page.getByText('All cuts are plain.')).toBeVisible();
  // The key lays the last one again, Delete takes the transition and not the cut.
  await page.keyboard.press('w');
  await expect(page.getByTestId('transition-black')).toHaveCount(1);
  await page.keyboard.press('Delete');
  await expect(page.getByTestId('transition-black')).toHaveCount(0);
  expect(scoreOf(await savedMontage(page)).slots).toHaveLength(8);
});

test('a title is written, dressed, dragged to another beat and made longer; its letters are seen', async ({ page }) => {
  await project(page, 'Titles');
  await page.keyboard.press('Shift+T');
  const words = page.getByRole('textbox', { name: 'Words of the title' });
  await words.fill('Kite day');
  await words.blur();
  await page.getByRole('radio', { name: 'large' }).click();
  await page.getByRole('radio', { name: 'at once' }).click();
  await expect(page.getByTestId('title-strip')).toHaveText('Kite day');
  /** How many of the picture's middle rows hold something white. */
  const white = async (): Promise<number> => {
    const row = Array.from({ length: 60 }, (_, i): [number, number] => [0.2 + i * 0.01, 0.5]);
    return (await spots(page, row)).filter(([r]) => r! > 200).length;
  };
  await expect.poll(white).toBeGreaterThan(5);
  await page.keyboard.press('Escape');

  const strip = await middleOf(page, '[data-testid=title-strip]');
  const lane = (await page.getByTestId('effects-lane').first().boundingBox())!;
  const beat = lane.width / 16;
  await drag(page, { x: strip.x, y: strip.y }, { x: strip.x + 2 * beat + 4, y: strip.y });
  await expect.poll(async () => placedTitles(await savedMontage(page)).map(({ from, to }) => [from, to])).toEqual([[30, 90]]);
  const moved = (await page.getByTestId('title-strip').boundingBox())!;
  const end = { x: moved.x + moved.width - 3, y: moved.y + moved.height / 2 };
  await drag(page, end, { x: end.x + 4 * beat, y: end.y });
  await expect.poll(async () => placedTitles(await savedMontage(page)).map(({ from, to }) => [from, to])).toEqual([[30, 150]]);

  // An empty title is none, and what was there stays.
  await words.fill('  ');
  await words.blur();
  expect((await savedMontage(page)).titles[0]!.text).toBe('Kite day');
  await page.getByRole('button', { name: 'Take the title away' }).click();
  await expect(page.getByTestId('title-strip')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('title-strip')).toHaveText('Kite day');
});

test('a letterbox covers the picture above and below, and the picture fades', async ({ page }) => {
  await project(page, 'Frame');
  await page.keyboard.press('f');
  await page.getByRole('tab', { name: 'Frame' }).click();
  const edge = async (): Promise<number> => Math.max(...(await spots(page, [[0.25, 0.04]]))[0]!);
  await expect.poll(edge).toBeGreaterThan(90);
  await page.getByRole('radio', { name: '2.39' }).click();
  await expect.poll(edge).toBeLessThan(8);
  await page.getByRole('tab', { name: 'Cuts' }).click();
  await page.getByLabel('Starts out of black over').fill('1');
  await page.getByLabel('Starts out of black over').blur();
  await expect.poll(async () => Math.max(...(await spots(page, [[0.25, 0.5]]))[0]!)).toBeLessThan(8);
  expect((await savedMontage(page)).pictureFades).toEqual({ in: 1, out: 0 });
});

test('a sound from Footage is laid on every bar, and in the film its hit is heard there', async ({ page }) => {
  await project(page, 'Sounds');
  await page.getByRole('button', { name: 'sound', exact: true }).click();
  await expect(page.getByText('There are no sounds yet.')).toBeVisible();
  await page.getByRole('link', { name: 'Footage', exact: true }).last().click();
  // Silence, and a tone from 0.4 s on, where its hit is set.
  const path = join(made.folder, 'finish-tone.wav');
  ffmpeg('-f', 'lavfi', '-i', `aevalsrc='0.5*sin(2*PI*3000*t)*gt(t,0.4)*lt(t,0.5)':s=44100:d=0.6`, path);
  await page.getByTestId('footage-input').setInputFiles(path);
  await expect(page.getByTestId('sound')).toHaveCount(1, { timeout: 60_000 });
  expect((await savedMontage(page)).sounds[0]!.hit).toBeCloseTo(0.4, 2);

  await page.getByRole('link', { name: /^finish/i }).click();
  await page.getByRole('button', { name: 'Lay', exact: true }).click();
  await expect(page.getByTestId('firing-sound')).toHaveCount(8);
  await page.getByRole('button', { name: 'sound at bar 3, beat 1, remove it' }).click();
  await expect(page.getByTestId('firing-sound')).toHaveCount(7);

  await page.getByRole('link', { name: /^export/i }).click();
  await page.getByRole('button', { name: 'Export the film' }).click();
  await expect(page.getByTestId('export')).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
  const film = await page.request.get((await page.getByTestId('export').getByRole('link', { name: 'Film' }).getAttribute('href'))!);
  const to = join(made.folder, 'finish-sounds.mp4');
  writeFileSync(to, await film.body());
  // Only what is high: the song's ticks are low, but for a burst of noise that is soft there.
  const raw = ffmpeg('-i', to, '-af', 'bandpass=f=3000:w=200', '-f', 's16le', '-ac', '1', '-ar', '44100', '-');
  const pcm = new Int16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + 2 * (raw.length >> 1)));
  const loud = (time: number): number => {
    const part = pcm.subarray(Math.round((time + 0.02) * 44100), Math.round((time + 0.08) * 44100));
    return Math.sqrt(part.reduce((sum, v) => sum + v * v, 0) / part.length);
  };
  const bars = Array.from({ length: 8 }, (_, i) => loud(2 * i));
  for (const [i, level] of bars.entries()) {
    if (i === 2) expect(level).toBeLessThan(2000);
    else expect(level).toBeGreaterThan(6000);
  }
  expect(loud(2 - 0.1)).toBeLessThan(2000);
});

test('without marks, cuts or a song it says what is missing', async ({ page }) => {
  const { id } = (await (await page.request.post('/api/projects', { data: { name: 'Nothing' } })).json()) as { id: string };
  await page.goto(`/projects/${id}/finish`);
  await expect(page.getByText('There is nothing to dress before there is a song.')).toBeVisible();
  await page.keyboard.press('f');
  await page.keyboard.press('w');
  await page.keyboard.press('Shift+T');
  await expect(page.getByText('There is no song yet. Choose one in Song first.')).toBeVisible();
  await page.getByRole('tab', { name: 'Cuts' }).click();
  await expect(page.getByText('There are no cuts yet. Hang pegs in Score first.')).toBeVisible();
  await page.getByRole('tab', { name: 'Effects' }).click();
  await expect(page.getByText('Effects fire on the marks of a song.')).toBeVisible();
  await page.getByRole('tab', { name: 'Sound' }).click();
  await expect(page.getByText('No clip that hangs has sound of its own.')).toBeVisible();
});
