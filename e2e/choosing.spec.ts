import { expect, test, type Page } from '@playwright/test';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { demoFile, dropFiles, made, openView, preparedProject, savedMontage, whenSaved } from './stage.ts';

const NAMES = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'];
const clips = (): string[] => NAMES.map((n, i) => made.clip(`kite-${n}`, { frames: 45 + i, fps: '30' }));
const card = (page: Page, name: string): ReturnType<Page['getByRole']> =>
  page.getByRole('button', { name: new RegExp(`^${name}\\.\\w+, number`) });
const storyOf = async (page: Page): Promise<string[]> => (await savedMontage(page)).footage.map((f) => f.name.replace(/\.\w+$/, ''));

test('twelve files dropped, selects and hits by keys, order, reload: all is there', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Twelve', clips: [] });
  await openView(page, id, 'footage');
  await dropFiles(page, 'main', [
    ...clips(),
    demoFile('drum.mp4'),
    demoFile('snap.mp4'),
    demoFile('ribbon-box.jpg'),
    demoFile('last-light.webp'),
  ]);
  await expect(page.getByTestId('footage-card')).toHaveCount(12, { timeout: 90_000 });
  await expect(page.getByLabel('Coming in')).toBeHidden({ timeout: 120_000 });
  // The first clip brings its size and rate.
  const first = (await savedMontage(page)).footage.find((f) => f.kind === 'clip')!;
  expect((await savedMontage(page)).shape).toMatchObject({ width: first.width, height: first.height });

  await test.step('in, hit and out by keys, frame by frame', async () => {
    await card(page, 'kite-a').click();
    for (let i = 0; i < 6; i++) await page.keyboard.press('.');
    await page.keyboard.press('i');
    for (let i = 0; i < 9; i++) await page.keyboard.press('.');
    await page.keyboard.press('h');
    for (let i = 0; i < 5; i++) await page.keyboard.press('.');
    await page.keyboard.press('o');
    await expect(page.getByTestId('select-line')).toContainText('hit 0:00.500');
    const [select] = (await savedMontage(page)).footage.find((f) => f.name === 'kite-a.mp4')!.selects;
    expect([select!.in, select!.hit!, select!.out].map((t) => Math.round(t * 30 * 1000) / 1000)).toEqual([6, 15, 21]);
  });

  await test.step('a second select in the same clip, with a hit of its own', async () => {
    for (let i = 0; i < 10; i++) await page.keyboard.press('.');
    await page.keyboard.press('Shift+i');
    for (let i = 0; i < 3; i++) await page.keyboard.press('.');
    await page.keyboard.press('h');
    const { selects } = (await savedMontage(page)).footage.find((f) => f.name === 'kite-a.mp4')!;
    expect(selects.map((s) => [s.in, s.hit!].map((t) => Math.round(t * 30)))).toEqual([
      [6, 15],
      [30, 33],
    ]);
    await page.getByRole('button', { name: 'Select 1' }).click();
    await expect(page.getByTestId('select-line')).toContainText('1 of 2');
  });

  await test.step('proposed hits are stepped through and taken at once', async () => {
    await card(page, 'drum').click();
    await expect(page.getByTestId('proposed-hit').first()).toBeVisible();
    const beats: number[] = [];
    for (let i = 0; i < 8; i++) {
      await page.keyboard.press('n');
      beats.push(Number(/\d+/.exec(await page.getByText(/^frame \d+$/).innerText())![0]));
    }
    for (const beat of [45, 75, 105]) expect(beats.some((n) => Math.abs(n - beat) <= 2)).toBe(true);
    await page.getByRole('button', { name: /^Take the best hits/ }).click();
    const saved = await savedMontage(page);
    const drum = saved.footage.find((f) => f.name === 'drum.mp4')!.selects[0]!.hit! * 30;
    expect([45, 75, 105].some((n) => Math.abs(drum - n) <= 2)).toBe(true);
    expect(Math.abs(saved.footage.find((f) => f.name === 'snap.mp4')!.selects[0]!.hit! * 30 - 30)).toBeLessThanOrEqual(2);
  });

  await test.step('a clip is chopped around its hits', async () => {
    await page.getByRole('button', { name: 'Chop' }).click();
    await page.getByRole('menuitem', { name: /Around its hits/ }).click();
    const { selects } = (await savedMontage(page)).footage.find((f) => f.name === 'drum.mp4')!;
    expect(selects.length).toBeGreaterThanOrEqual(3);
    for (const s of selects) expect(s.hit! >= s.in && s.hit! < s.out).toBe(true);
  });

  await test.step('several picked, rated and tagged at once, and put first in the order in which they were picked', async () => {
    await card(page, 'kite-e').click();
    await card(page, 'ribbon-box').click({ modifiers: ['ControlOrMeta'] });
    await card(page, 'kite-b').click({ modifiers: ['ControlOrMeta'] });
    await expect(page.getByTestId('many')).toContainText('3 picked');
    await page.keyboard.press('4');
    await page.getByLabel('Add a tag').fill('dusk');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'To the start, as picked' }).click();
    expect((await storyOf(page)).slice(0, 3)).toEqual(['kite-e', 'ribbon-box', 'kite-b']);
    const described = (await savedMontage(page)).footage.filter((f) => f.tags.includes('dusk'));
    expect(described.map((f) => f.rating)).toEqual([4, 4, 4]);
  });

  await test.step('found, sorted, and the order shown made the story', async () => {
    await page.getByLabel('Find footage').fill('dusk');
    await expect(page.getByTestId('footage-card')).toHaveCount(3);
    await page.getByLabel('Find footage').fill('no such kite');
    await expect(page.getByText('Nothing here is like that.')).toBeVisible();
    await page.getByRole('button', { name: 'Show all footage' }).click();
    await page.getByLabel('Order', { exact: true }).selectOption('name');
    await page.getByRole('button', { name: 'Make it the story' }).click();
    expect((await storyOf(page)).slice(0, 4)).toEqual(['drum', 'kite-a', 'kite-b', 'kite-c']);
  });

  await test.step('and after a reload all of it is there', async () => {
    const before = await savedMontage(page);
    await page.reload();
    await expect(page.getByTestId('footage-card')).toHaveCount(12);
    expect(await savedMontage(page)).toEqual(before);
    await card(page, 'kite-a').click();
    await expect(page.getByTestId('select-line')).toContainText('hit 0:00.500');
    await expect(page.getByTestId('hit')).toHaveCount(2);
  });
});

test('a cut connection goes on where it was, and so does a file whose page was closed', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Cut off', clips: [] });
  await openView(page, id, 'footage');
  const path = demoFile('drum.mp4');
  const offsets: number[] = [];
  page.on('request', (r) => {
    if (r.method() === 'PATCH') offsets.push(Number(r.headers()['upload-offset']));
  });
  let away = true;
  await page.route('**/api/uploads/*', (route) =>
    route.request().method() === 'PATCH' && away ? route.abort('connectionreset') : route.continue(),
  );
  await page.getByTestId('footage-input').setInputFiles(path);
  await expect(page.getByLabel('Coming in')).toContainText('waiting for the server');
  away = false;
  await expect(page.getByTestId('footage-card')).toHaveCount(1, { timeout: 60_000 });
  expect(offsets.length).toBeGreaterThanOrEqual(2);
  await whenSaved(page);
  await page.unroute('**/api/uploads/*');

  // Another file hangs; the page is closed over it. The server has taken half of it.
  const half = readFileSync(demoFile('snap.mp4'));
  let taken = 0;
  await page.route('**/api/uploads/*', async (route) => {
    const request = route.request();
    if (request.method() !== 'PATCH') return route.continue();
    const answer = await page.request.fetch(request.url(), {
      method: 'PATCH',
      headers: { 'Tus-Resumable': '1.0.0', 'Upload-Offset': '0', 'Content-Type': 'application/offset+octet-stream' },
      data: half.subarray(0, Math.floor(half.length / 2)),
    });
    taken = answer.status();
    // No answer ever comes.
    return undefined;
  });
  await page.getByTestId('footage-input').setInputFiles(demoFile('snap.mp4'));
  await expect(page.getByRole('progressbar', { name: 'Uploading snap.mp4' })).toBeVisible();
  await expect.poll(() => page.evaluate(() => Object.keys(localStorage).filter((k) => k.includes('snap.mp4')).length)).toBeGreaterThan(0);
  await expect.poll(() => taken).toBe(204);
  // The route goes only after its page: without it, what hangs would be sent after all.
  await page.reload();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await expect(page.getByLabel('Coming in')).toContainText('snap.mp4was cut off');
  offsets.length = 0;
  await page.getByTestId('footage-input').setInputFiles(demoFile('snap.mp4'));
  await expect(page.getByTestId('footage-card')).toHaveCount(2, { timeout: 60_000 });
  expect(offsets[0]).toBe(Math.floor(half.length / 2));
  await expect(page.getByLabel('Coming in')).toBeHidden({ timeout: 60_000 });
});

test('a file that had come whole, and whose answer was lost, comes into the footage and is kept once', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'No answer', clips: [] });
  await openView(page, id, 'footage');
  const snap = readFileSync(demoFile('snap.mp4'));
  let lost = 0;
  await page.route('**/api/uploads/*', async (route) => {
    const request = route.request();
    if (request.method() === 'PATCH' && lost++ === 0) {
      const answer = await page.request.fetch(request.url(), {
        method: 'PATCH',
        headers: { 'Tus-Resumable': '1.0.0', 'Upload-Offset': '0', 'Content-Type': 'application/offset+octet-stream' },
        data: snap,
      });
      expect(answer.ok()).toBe(true);
      return route.abort('connectionreset');
    }
    // As long as a whole file is being taken in, the protocol's server says where it is: at its end.
    if (request.method() === 'HEAD' && lost === 1)
      return route.fulfill({
        status: 200,
        headers: { 'Tus-Resumable': '1.0.0', 'Upload-Offset': String(snap.length), 'Upload-Length': String(snap.length) },
      });
    return route.continue();
  });
  await page.getByTestId('footage-input').setInputFiles(demoFile('snap.mp4'));
  await expect(page.getByTestId('footage-card')).toHaveCount(1, { timeout: 60_000 });
  await expect(page.getByLabel('Coming in')).toBeHidden({ timeout: 60_000 });
  expect(lost).toBe(2);
  const assets = (await (await page.request.get(`/api/projects/${id}/assets`)).json()) as { name: string }[];
  expect(assets.filter((a) => a.name === 'snap.mp4')).toHaveLength(1);
});

test('a clip that is ready before the page hears of it comes in all the same', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Ready at once', clips: [] });
  await openView(page, id, 'footage');
  // The list of assets comes when all of them are ready, as where the server is quick and the way to it slow.
  await page.route('**/assets', async (route) => {
    if (route.request().method() !== 'GET') return route.continue();
    let list: { state: string }[] = [];
    await expect
      .poll(async () => (list = (await (await page.request.get(route.request().url())).json()) as typeof list).map((a) => a.state), {
        timeout: 60_000,
      })
      .not.toContain('working');
    return route.fulfill({ json: list });
  });
  await page.getByTestId('footage-input').setInputFiles(demoFile('snap.mp4'));
  await expect(page.getByTestId('footage-card')).toHaveCount(1, { timeout: 60_000 });
  expect((await savedMontage(page)).footage.map((f) => f.name)).toEqual(['snap.mp4']);
  await page.unrouteAll({ behavior: 'ignoreErrors' });
});

test('a file that grows while it is read is refused with a sentence, and comes in when it is whole', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Growing', clips: [] });
  await openView(page, id, 'footage');
  const whole = readFileSync(made.clip('grown', { frames: 150, fps: '30' }));
  const path = join(made.folder, 'still-recording.mp4');
  writeFileSync(path, whole.subarray(0, whole.length >> 1));
  let grow = (): void => undefined;
  const grown = new Promise<void>((done) => (grow = done));
  // What is sent is held until the file has grown.
  await page.route('**/api/uploads', async (route) => {
    await grown;
    await route.continue();
  });
  await page.getByTestId('footage-input').setInputFiles(path);
  const row = page.getByLabel('Coming in').getByRole('listitem').filter({ hasText: 'still-recording' });
  await expect(row).toBeVisible();
  writeFileSync(path, whole);
  grow();
  await expect(row).toContainText('changed while it was read');
  await expect(row).toContainText('Bring it in again');
  await row.getByRole('button', { name: 'Dismiss still-recording.mp4' }).click();
  // As the button for choosing does before it opens, so that the same file counts as chosen anew.
  await page.getByTestId('footage-input').evaluate((input: HTMLInputElement) => (input.value = ''));
  await page.getByTestId('footage-input').setInputFiles(path);
  await expect(page.getByTestId('footage-card').filter({ hasText: 'still-recording' })).toBeVisible({ timeout: 60_000 });
});

test('the same file again is kept once; a sound goes to its own shelf', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Twice', clips: [] });
  await openView(page, id, 'footage');
  const path = made.clip('kite-a', { frames: 45, fps: '30' });
  await page.getByTestId('footage-input').setInputFiles(path);
  await expect(page.getByTestId('footage-card')).toHaveCount(1, { timeout: 60_000 });
  await dropFiles(page, 'main', [path]);
  await expect(page.getByText('kite-a.mp4 is here already; it is kept once.')).toBeVisible();
  await page.getByTestId('footage-input').setInputFiles(made.song(6));
  await expect(page.getByTestId('sound')).toHaveCount(1, { timeout: 60_000 });
  await expect(page.getByTestId('footage-card')).toHaveCount(1);
  await page.getByRole('slider', { name: /^Hit of/ }).fill('1.5');
  expect((await savedMontage(page)).sounds[0]!.hit).toBeCloseTo(1.5, 3);
});

test("a photo's focus point stays in the picture when the montage's shape changes; footage of another shape is listed", async ({
  page,
}) => {
  const { id } = await preparedProject(page.request, {
    name: 'Shapes',
    clips: [demoFile('ribbon-box.jpg'), made.clip('kite-a', { frames: 45, fps: '30' })],
  });
  await openView(page, id, 'footage');
  await card(page, 'ribbon-box').click();
  const picture = (await page.getByRole('img', { name: 'ribbon-box.jpg' }).boundingBox())!;
  await page.mouse.click(picture.x + picture.width * 0.2, picture.y + picture.height * 0.7);
  const photo = (await savedMontage(page)).footage.find((f) => f.kind === 'photo')!;
  expect(photo.focus.x).toBeCloseTo(0.2, 1);
  expect(photo.focus.y).toBeCloseTo(0.7, 1);
  await page.getByLabel('Frame size').selectOption('1080x1920');
  const crop = (await page.getByTestId('crop').boundingBox())!;
  const point = { x: picture.x + picture.width * 0.2, y: picture.y + picture.height * 0.7 };
  expect(point.x).toBeGreaterThan(crop.x - 1);
  expect(point.x).toBeLessThan(crop.x + crop.width + 1);
  await page.getByRole('button', { name: /of another shape/ }).click();
  await expect(page.getByTestId('other-shape')).toHaveCount(2);
  await page.getByRole('button', { name: 'Fit all' }).click();
  await expect(page.getByTestId('other-shape').first()).toContainText('of the screen empty');
  expect((await savedMontage(page)).footage.map((f) => f.framing)).toEqual(['fit', 'fit']);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  expect((await savedMontage(page)).footage.map((f) => f.framing)).toEqual(['fill', 'fill']);
});
