import { expect, test, type Page } from '@playwright/test';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { FILL_DEFAULTS, firingsOf, placedTitles, scoreOf, transitionsOf, type Command, type Montage } from '@bluster/core';
import { ffmpeg } from '@bluster/media/testing/made-media';
import { SMALL, drag, made, middleOf, openView, preparedProject, savedMontage } from './stage.ts';
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
  await page.getByRole('slider', { name: 'Size of the title' }).press('End');
  await page.getByRole('radio', { name: 'at once' }).click();
  await expect(page.getByTestId('title-strip')).toHaveText('Kite day');
  /** How many of the picture's middle rows hold something white. */
  const white = async (): Promise<number> => {
    const row = Array.from({ length: 60 }, (_, i): [number, number] => [0.2 + i * 0.01, 0.5]);
    return (await spots(page, row)).filter(([r]) => r! > 200).length;
  };
  await expect.poll(white).toBeGreaterThan(5);
  // On the picture it is dragged to where it is to stand; a place by name takes it back.
  const over = (await page.getByTestId('title-over').boundingBox())!;
  const held = { x: over.x + over.width / 2, y: over.y + over.height / 2 };
  await drag(page, held, { x: held.x + 30, y: held.y + 60 });
  await expect.poll(async () => (await savedMontage(page)).titles[0]!.at?.y ?? 0).toBeGreaterThan(0.6);
  await page.getByTestId('title-over').press('ArrowLeft');
  await page.getByRole('radio', { name: 'middle', exact: true }).click();
  await expect.poll(async () => (await savedMontage(page)).titles[0]!.at).toBeUndefined();
  await page.getByRole('checkbox', { name: 'plate' }).click();
  await page.getByRole('radio', { name: 'from the middle' }).click();
  await expect.poll(async () => (await savedMontage(page)).titles[0]).toMatchObject({ enter: 'middle', plate: { colour: '#1b2733' } });
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
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

/** The screen's pixels at a height, at some places across. */
const across = async (page: Page, places: readonly number[], y = 0.5): Promise<number[]> =>
  (
    await spots(
      page,
      places.map((x) => [x, y] as const),
    )
  ).map((rgb) => Math.max(...rgb));

test('the frame of a shot travels, arrives on a mark, and goes where it is drawn; undressed it stands', async ({ page }) => {
  await project(page, 'Moves');
  await page.getByTestId('print').first().click();
  await expect(page.getByRole('tab', { name: 'Picture' })).toHaveAttribute('data-state', 'active');
  // Its left half is bright by then, its right half dark; the border between them lies in the middle.
  await goTo(page, 45);
  await expect.poll(async () => (await across(page, [0.45, 0.55])).map((v) => v > 100)).toEqual([true, false]);
  await page.getByRole('radio', { name: 'to the right' }).click();
  await expect.poll(async () => (await across(page, [0.35, 0.45])).map((v) => v > 100)).toEqual([true, false]);
  await page.keyboard.down('z');
  await expect.poll(async () => (await across(page, [0.45, 0.55])).map((v) => v > 100)).toEqual([true, false]);
  await page.keyboard.up('z');
  await expect.poll(async () => (await across(page, [0.45])).map((v) => v > 100)).toEqual([false]);

  await goTo(page, 30);
  await page.getByRole('button', { name: 'arrives: the playhead' }).click();
  const moved = async (): Promise<NonNullable<Montage['shots'][number]['moves']>[number]> =>
    (await savedMontage(page)).shots[0]!.moves![0]!;
  const mark = (await savedMontage(page)).marks.find((m) => m.time === 1)!;
  expect(await moved()).toMatchObject({ kind: 'right', from: null, to: { markId: mark.id } });
  await expect(page.getByTestId('moves-lane').first()).toContainText('to the right, arrives on beat 3');
  await expect(page.getByTestId('print').first().getByLabel('moves')).toBeVisible();

  await page.getByRole('button', { name: 'Draw the frames' }).click();
  await expect(page.getByTestId('frame-from')).toBeVisible();
  const { views } = { views: (await page.getByTestId('frame-to').boundingBox())! };
  const from = { x: views.x + views.width / 2, y: views.y + views.height / 2 };
  await drag(page, from, { x: from.x - 40, y: from.y });
  await expect.poll(async () => (await moved()).kind).toBe('drawn');
  const drawn = (await moved()).views!;
  expect(drawn.to.x).toBeLessThan(0.5);
  // By the wheel it becomes smaller, so that what is in it is seen larger; by keys it moves.
  await page.mouse.move(from.x - 40, from.y);
  await page.mouse.wheel(0, -100);
  await expect.poll(async () => (await moved()).views!.to.zoom).toBeGreaterThan(drawn.to.zoom);
  const before = (await moved()).views!.from;
  await page.getByTestId('frame-to').press('ArrowRight');
  await expect.poll(async () => (await moved()).views!.to.x).toBeGreaterThan(drawn.to.x);
  expect((await moved()).views!.from).toEqual(before);
  for (let i = 0; i < 5; i++) await page.keyboard.press('Control+z');
  await expect.poll(async () => (await savedMontage(page)).shots[0]!.moves).toBeUndefined();
});

test('a shot is framed by hand, and what it leaves free is filled', async ({ page }) => {
  await project(page, 'By hand');
  await goTo(page, 40);
  await page.getByTestId('print').first().click();
  await page.getByRole('tab', { name: 'Framing', exact: true }).click();
  await page.getByRole('radio', { name: 'show all of it' }).last().click();
  await page.getByRole('slider', { name: 'Scale' }).press('Home');
  await page.getByRole('radio', { name: 'a colour' }).click();
  await expect.poll(async () => (await spots(page, [[0.1, 0.5]]))[0]!.map((v) => Math.round(v / 16))).toEqual([13, 12, 10]);
  const { shots } = await savedMontage(page);
  expect(shots[0]).toMatchObject({ framing: 'fit', border: '#c9b99a' });
  expect(shots[0]!.view!.zoom).toBeCloseTo(0.2);
  await page.getByRole('radio', { name: 'itself, blurred' }).click();
  await expect.poll(async () => (await across(page, [0.1]))[0]).toBeGreaterThan(100);
  await page.getByRole('button', { name: 'As it was' }).click();
  expect((await savedMontage(page)).shots[0]!.view).toBeUndefined();
});

test('looks are worn by a shot and by all; a table of colours is read from a file, one that is none is refused with a sentence', async ({
  page,
}) => {
  await project(page, 'Looks');
  await goTo(page, 30);
  await page.getByTestId('print').first().click();
  await page.getByRole('tab', { name: 'Look', exact: true }).click();
  const [bright] = await across(page, [0.25]);
  await page.getByRole('button', { name: 'exposure', exact: true }).click();
  await page.getByRole('slider', { name: 'Strength of exposure' }).press('Home');
  await expect.poll(async () => (await across(page, [0.25]))[0]).toBeLessThan(bright! / 2);
  await page.getByRole('button', { name: 'As it was taken' }).click();
  await expect.poll(async () => (await across(page, [0.25]))[0]).toBeGreaterThan(bright! - 6);

  const negative = ['LUT_3D_SIZE 2'].concat([1, 0].flatMap((b) => [1, 0].flatMap((g) => [1, 0].map((r) => `${r} ${g} ${b}`)))).join('\n');
  await page.getByTestId('cube-file').setInputFiles({ name: 'negative.cube', mimeType: 'text/plain', buffer: Buffer.from(negative) });
  await expect.poll(async () => (await across(page, [0.75]))[0]).toBeGreaterThan(240);
  expect((await savedMontage(page)).shots[0]!.looks).toMatchObject([{ kind: 'table', strength: 1 }]);
  await page
    .getByTestId('cube-file')
    .setInputFiles({ name: 'kites.cube', mimeType: 'text/plain', buffer: Buffer.from('kites in the wind') });
  await expect(page.getByText(/kites.cube cannot be read. Line 1 is no line of a .cube file/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await savedMontage(page)).tables).toEqual([]);

  await page.getByRole('tab', { name: 'Frame', exact: true }).click();
  const [corner, middle] = await Promise.all([across(page, [0.02], 0.04), across(page, [0.3])]);
  await page.getByRole('button', { name: 'darker edges', exact: true }).click();
  await expect.poll(async () => (await across(page, [0.02], 0.04))[0]).toBeLessThan(corner[0]! - 40);
  expect(Math.abs((await across(page, [0.3]))[0]! - middle[0]!)).toBeLessThan(4);
  // From a moment on: before it, nothing is darkened.
  await goTo(page, 60);
  await page.getByRole('button', { name: 'from: the playhead' }).first().click();
  await goTo(page, 50);
  await expect.poll(async () => (await savedMontage(page)).looks[0]!.span?.from?.markId ?? null).not.toBeNull();
});

test('a wipe goes the way it is told to, on every cut of the section; flashes that come too fast are said and thinned out', async ({
  page,
}) => {
  await project(page, 'Ways');
  await page.getByTestId('cut').first().click();
  await page.getByRole('radio', { name: 'wipe' }).click();
  await page.getByRole('radio', { name: 'downwards' }).click();
  await goTo(page, 61);
  // From above comes the second clip, whose first frame is dark.
  await expect
    .poll(async () =>
      (
        await spots(page, [
          [0.25, 0.2],
          [0.25, 0.8],
        ])
      ).map((rgb) => Math.max(...rgb) > 20),
    )
    .toEqual([false, true]);
  expect((await savedMontage(page)).pegs[0]!.transition).toEqual({ kind: 'wipe', beats: 1, place: 'over', way: 'down' });
  await expect(page.getByTestId('transition-wipe')).toHaveCount(1);

  await page.getByRole('tab', { name: 'Effects' }).click();
  await page.getByRole('button', { name: 'strobe' }).click();
  await page.getByRole('button', { name: 'Lay', exact: true }).click();
  await expect(page.getByText(/flashes more than three times, which can make people ill/)).toBeVisible();
  await page.getByRole('button', { name: 'Thin them out' }).click();
  await expect(page.getByText(/flashes more than three times/)).toHaveCount(0);
  expect((await savedMontage(page)).effects).toMatchObject([{ kind: 'strobe', gentle: true }]);
  await page.getByRole('combobox', { name: 'How the strobe runs' }).selectOption('even');
  expect((await savedMontage(page)).effects[0]!.curve).toBe('even');
});

test('a letterbox covers the picture above and below, and the picture fades', async ({ page }) => {
  await project(page, 'Frame');
  await page.keyboard.press('f');
  await page.getByRole('tab', { name: 'Frame' }).click();
  const edge = async (): Promise<number> => Math.max(...(await spots(page, [[0.25, 0.04]]))[0]!);
  await expect.poll(edge).toBeGreaterThan(90);
  await page.getByRole('button', { name: 'Lay a letterbox of 2.39' }).click();
  await expect.poll(edge).toBeLessThan(8);
  await page.getByRole('tab', { name: 'Cuts' }).click();
  await page.getByLabel('Starts out of black over').fill('1');
  await page.getByLabel('Starts out of black over').blur();
  await expect.poll(async () => Math.max(...(await spots(page, [[0.25, 0.5]]))[0]!)).toBeLessThan(8);
  expect((await savedMontage(page)).pictureFades).toEqual({ in: 1, out: 0 });
});

test('a sound from Footage is laid on every bar, and in the film its hit is heard there', async ({ page }) => {
  await project(page, 'Sounds', () => [...filled(), SMALL]);
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
