import { expect, test, type Page } from '@playwright/test';
import { join } from 'node:path';
import sharp from 'sharp';
import { FILL_DEFAULTS, carryOut, scoreOf, type Montage } from '@bluster/core';
import { ffmpeg, scratchFolder } from '@bluster/media/testing/made-media';
import { filmOfBeginning, goToView, made, openView, preparedProject, whenSaved } from './stage.ts';

const folder = scratchFolder();
/** Every shape that a montage is made in; small, so that its films are quick to make. */
const SHAPES = [
  ['16:9', 480, 270],
  ['9:16', 270, 480],
  ['1:1', 360, 360],
  ['4:5', 320, 400],
  ['4:3', 400, 300],
  ['2.39:1', 478, 200],
  ['21:9', 560, 240],
] as const;
const RATE = { num: 30, den: 1 };
const GRID = 8;

/** A photo whose colours say where one is in it, with nothing the same twice. */
async function colourChart(width: number, height: number, name: string): Promise<string> {
  const path = join(folder, name);
  const bytes = Buffer.alloc(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 3;
      bytes[at] = Math.round((200 * x) / width) + 20;
      bytes[at + 1] = Math.round((200 * y) / height) + 20;
      bytes[at + 2] = Math.floor((6 * x) / width) % 2 === Math.floor((6 * y) / height) % 2 ? 60 : 180;
    }
  await sharp(bytes, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
    .toFile(path);
  return path;
}

/** The mean colours of a picture in a grid, its outermost edge left out: a screenshot may take in a line of what lies beside it. */
async function gridOf(picture: Buffer): Promise<number[]> {
  const { width, height } = await sharp(picture).metadata();
  const [x, y] = [Math.round(0.02 * width), Math.round(0.02 * height)];
  const inner = await sharp(picture)
    .removeAlpha()
    .extract({ left: x, top: y, width: width - 2 * x, height: height - 2 * y })
    .png()
    .toBuffer();
  return [...(await sharp(inner).resize(GRID, GRID, { fit: 'fill', kernel: 'cubic' }).raw().toBuffer())];
}

/** Goes to a frame by keys, and waits until the screen has painted it. */
async function goTo(page: Page, frame: number, keys: readonly string[]): Promise<void> {
  for (const key of keys) await page.keyboard.press(key);
  await expect(page.getByTestId('screen')).toHaveAttribute('data-frame', String(frame));
}

/** Frames of the film that is made of a project's beginning now, in their order. */
async function filmFrames(
  page: Page,
  project: string,
  size: { width: number; height: number },
  frames: readonly number[],
): Promise<Buffer[]> {
  const film = await filmOfBeginning(page.request, project, (Math.max(...frames) + 1) / RATE.num, folder);
  const wanted = frames.map((n) => `eq(n\\,${n})`).join('+');
  const all = ffmpeg('-i', film, '-vf', `select=${wanted}`, '-vsync', '0', '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-');
  const bytes = size.width * size.height * 3;
  const picture = (i: number): Buffer => all.subarray(i * bytes, (i + 1) * bytes);
  return Promise.all(
    frames.map((_, i) =>
      sharp(picture(i), { raw: { ...size, channels: 3 } })
        .png()
        .toBuffer(),
    ),
  );
}

test('in every shape the screen shows the whole picture, the same as the film, in Score and Finish', async ({ page }) => {
  const [wide, upright] = [await colourChart(960, 600, 'wide.jpg'), await colourChart(600, 960, 'upright.jpg')];
  const { id, montage } = await preparedProject(page.request, {
    name: 'Shapes',
    clips: [wide, upright, made.clip('shaped', { frames: 60, fps: '30' })],
    seconds: 3,
    then: (m) => {
      // Soon after one another, so that the films are short.
      const beats: Montage = carryOut(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 1 } });
      const filled = carryOut(beats, { do: 'fill', options: FILL_DEFAULTS });
      const second = scoreOf(filled).slots[1]!.placed!.shot.id;
      return [
        { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 1 } },
        { do: 'fill', options: FILL_DEFAULTS },
        // One with ground beside it, the others cropped.
        { do: 'setFraming', ids: [second], framing: 'fit' },
        { do: 'setFocus', assetId: m.footage[0]!.assetId, x: 0.2, y: 0.8 },
      ];
    },
  });
  let revision = 2;
  for (const [name, width, height] of SHAPES)
    await test.step(name, async () => {
      const document = carryOut(montage, { do: 'setShape', shape: { width, height, rate: RATE } });
      expect((await page.request.put(`/api/projects/${id}/montage`, { data: { revision: revision++, document } })).status()).toBe(200);
      const second = scoreOf(document).slots[1]!.start.frame;
      for (const view of ['score', 'finish'] as const) {
        if (view === 'score') await openView(page, id, view);
        else {
          await page.keyboard.press('Alt+4');
          await expect(page).toHaveURL(/\/finish$/);
          // The address is Finish's while Score is still seen.
          await expect(page.getByTestId('dressed')).toBeVisible();
        }
        await goTo(page, 0, ['Home']);
        // Whole: as wide to its height as the film, and nowhere beyond its place.
        const box = (await page.getByTestId('screen').boundingBox())!;
        expect(box.width / box.height).toBeCloseTo(width / height, 1);
        const place = (await page.getByTestId('picture-place').boundingBox())!;
        expect(box.x).toBeGreaterThanOrEqual(place.x - 0.5);
        expect(box.y).toBeGreaterThanOrEqual(place.y - 0.5);
        expect(box.x + box.width).toBeLessThanOrEqual(place.x + place.width + 0.5);
        expect(box.y + box.height).toBeLessThanOrEqual(place.y + place.height + 0.5);
        if (view === 'finish') continue;
        const frames = [0, second + 2];
        const films = await Promise.all((await filmFrames(page, id, { width, height }, frames)).map(gridOf));
        for (const [i, film] of films.entries()) {
          if (i > 0) await goTo(page, second + 2, ['Shift+ArrowRight', '.', '.']);
          // What is painted is seen a moment later: that is for the browser to say.
          await expect(async () => {
            const screen = await gridOf(await page.getByTestId('screen').screenshot());
            const off = film.map((value, n) => Math.abs(value - screen[n]!));
            expect(Math.max(...off), `${name}, frame ${frames[i]}`).toBeLessThan(16);
            expect(off.reduce((sum, v) => sum + v, 0) / off.length).toBeLessThan(4);
          }).toPass({ timeout: 20_000 });
        }
      }
    });
});

test('dividers move by keys and are remembered; the picture over the whole window leaves keys and marks alive', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Room', clips: [made.clip('roomy', { frames: 60, fps: '30' })], seconds: 6 });
  await openView(page, id, 'score');
  const screen = page.getByTestId('screen');
  const place = page.getByTestId('picture-place');
  const [before, room] = [(await screen.boundingBox())!, (await place.boundingBox())!];
  const divider = page.getByRole('separator', { name: 'Divider between the picture and the lines' });
  await divider.focus();
  for (let i = 0; i < 2; i++) await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await place.boundingBox())!.width).toBeGreaterThan(room.width + 20);
  // The arrows were the divider's: the playhead has not moved.
  await expect(page.getByTestId('time')).toHaveText('0:00.000');
  const wider = (await place.boundingBox())!.width;
  // Written down a moment after the last press, which may be later than after the first.
  const part = Number(await divider.getAttribute('aria-valuenow'));
  const kept = (): Promise<number[]> =>
    page.evaluate(() => {
      const text = localStorage.getItem('react-resizable-panels:wide-columns');
      const layouts = Object.values(JSON.parse(text ?? '{}') as Record<string, { layout: number[] }>);
      return layouts.map(({ layout }) => Math.round(layout[0]!));
    });
  await expect.poll(kept).toContain(part);
  await page.reload();
  await expect.poll(async () => Math.round((await place.boundingBox())!.width)).toBe(Math.round(wider));

  await page.getByRole('button', { name: 'The picture over the whole window' }).click();
  await expect(page.getByTestId('picture-place')).toHaveAttribute('data-size', 'window');
  const large = (await screen.boundingBox())!;
  expect(large.width * large.height).toBeGreaterThan(2 * before.width * before.height);
  await expect(page.getByTestId('loupe')).toBeVisible();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('p');
  await whenSaved(page);
  await expect(page.getByText('1 of 2 slots filled').or(page.getByText('0 of 2 slots filled')).first()).toBeAttached();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('picture-place')).toHaveAttribute('data-size', 'place');
  await page.keyboard.press('Shift+W');
  await expect(page.getByTestId('picture-place')).toHaveAttribute('data-size', 'window');
  await page.keyboard.press('Shift+E');
  await expect(page.getByTestId('picture-place')).toHaveAttribute('data-size', 'display');
  expect(await page.evaluate(() => document.fullscreenElement !== null)).toBe(true);
  await page.keyboard.press('Shift+E');
  await expect(page.getByTestId('picture-place')).toHaveAttribute('data-size', 'place');
});

/** Controls that can neither be seen nor scrolled to. */
const outOfReach = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = [];
    const { scrollWidth, scrollHeight } = document.documentElement;
    const controls = document.querySelectorAll<HTMLElement>('button, a, input, select, textarea, [role=slider], [role=separator]');
    for (const control of controls) {
      const box = control.getBoundingClientRect();
      if (box.width === 0 || box.height === 0 || control.closest('[aria-hidden=true]')) continue;
      let [scrolled, cut] = [false, false];
      for (let around = control.parentElement; around && around !== document.body && !scrolled; around = around.parentElement) {
        const style = getComputedStyle(around);
        const own = around.getBoundingClientRect();
        if (/auto|scroll/.test(style.overflowX + style.overflowY)) scrolled = true;
        else if (/hidden|clip/.test(style.overflowX + style.overflowY))
          cut ||= box.right > own.right + 2 || box.bottom > own.bottom + 2 || box.left < own.left - 2 || box.top < own.top - 2;
      }
      const off =
        box.right + scrollX > scrollWidth + 1 ||
        box.bottom + scrollY > scrollHeight + 1 ||
        box.left + scrollX < -1 ||
        box.top + scrollY < -1;
      if (!scrolled && (cut || off)) found.push(control.getAttribute('aria-label') ?? control.textContent ?? '');
    }
    return found;
  });

test('nothing is out of reach in small windows, upright or wide', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, {
    name: 'Small',
    clips: [made.clip('smallest', { frames: 60, fps: '30', size: '180x320' })],
    seconds: 6,
  });
  let revision = 2;
  for (const [width, height] of [
    [1280, 720],
    [720, 1280],
  ] as const) {
    const shaped = carryOut(montage, { do: 'setShape', shape: { width, height, rate: RATE } });
    await page.request.put(`/api/projects/${id}/montage`, { data: { revision: revision++, document: shaped } });
    // The second is 1280x800 at 200 %.
    for (const size of [
      { width: 1024, height: 640 },
      { width: 640, height: 400 },
    ]) {
      await page.setViewportSize(size);
      for (const view of ['song', 'footage', 'score', 'finish', 'export']) {
        if (view === 'song') await openView(page, id, view);
        else await goToView(page, view);
        expect(await outOfReach(page), `${view} at ${size.width}x${size.height}`).toEqual([]);
        if (size.width >= 1024) expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024);
      }
    }
  }
});
