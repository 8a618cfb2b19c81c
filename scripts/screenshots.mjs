// Takes the pictures of docs/screenshots from the demo project, each 1280x800.
import { there } from './there.mjs';
import { join, resolve } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM_ARGS } from './chromium-args.mjs';
import { ensureProgram } from './debian-programs.mjs';
import { demoServer } from './demo-server.mjs';
import { ownServer } from './own-server.mjs';

const shots = resolve(import.meta.dirname, '../docs/screenshots');
const { base, project, stop } = await demoServer();
const browser = await chromium.launch({ executablePath: there(ensureProgram('chromium'), 'chromium'), args: [...CHROMIUM_ARGS] });
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const open = async (view, ready) => {
    await page.goto(view === 'projects' ? base : `${base}/projects/${project}/${view}`);
    await ready();
    await page.waitForLoadState('networkidle');
  };
  const take = (name) => page.screenshot({ path: join(shots, `${name}.png`) });
  const saved = () => page.locator('[data-testid=save-state]', { hasText: /^Saved/ }).waitFor();
  const painted = (frame) => page.locator(`[data-testid=screen][data-frame="${frame}"]`).waitFor();

  /** Taps the first beats of the song as a person does who comes late by a steady 60 ms. */
  const tapAlongLate = async () => {
    const { document } = await (await page.request.get(`${base}/api/projects/${project}/montage`)).json();
    const beats = document.marks.filter((m) => m.kind === 'beat' || m.kind === 'bar').map((m) => m.time);
    await page.getByRole('radio', { name: 'as tapped' }).click();
    await page.getByRole('radio', { name: 'replace the stretch' }).click();
    await page.keyboard.press('Home');
    await page.keyboard.press('Space');
    for (const beat of beats.sort((a, b) => a - b).slice(2, 14)) {
      await page.waitForFunction(
        (t) => Number(/:([\d.]+)/.exec(globalThis.document.querySelector('[data-testid=time]')?.textContent ?? '')?.[1]) > t,
        beat + 0.06,
      );
      await page.keyboard.press('t');
    }
    await page.keyboard.press('Space');
    await page.getByTestId('noticed').waitFor();
    await saved();
  };

  await open('score', () => painted(0));
  await page.getByTestId('score').evaluate((e) => e.scrollTo(0, 250));
  await page.getByRole('button', { name: /^Slot 13/ }).click();
  await page.getByRole('tab', { name: 'Shelf' }).click();
  await page.locator('[data-testid=screen]:not([data-frame="0"])').waitFor();
  await take('score');
  await page.getByRole('tab', { name: 'Report' }).click();
  await page.getByTestId('report-row').first().waitFor();
  await take('score-report');
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  for (const { at, key } of [
    { at: 2.9, key: 'e' },
    { at: 5.6, key: 'w' },
    { at: 7.7, key: 'e' },
  ]) {
    await page.waitForFunction(
      (t) => Number(/:([\d.]+)/.exec(globalThis.document.querySelector('[data-testid=time]')?.textContent ?? '')?.[1]) > t,
      at,
    );
    await page.keyboard.press(key);
  }
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'The next live trim' }).click();
  await page.getByTestId('cut-view').waitFor();
  await page.getByRole('tab', { name: 'Shelf' }).click();
  await page.waitForLoadState('networkidle');
  await take('score-trims');
  await page.getByRole('button', { name: 'Done' }).click();
  await page.keyboard.press('Escape');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await saved();
  await page.request.get(`${base}/api/projects/${project}/montage`).then(async (r) => {
    const { revision, document } = await r.json();
    const bare = { ...document, shots: [], pegs: [], pegRule: null };
    await page.request.put(`${base}/api/projects/${project}/montage`, { data: { revision, document: bare } });
  });
  // What would be cut, and what was.
  await open('score', () => painted(0));
  await page.getByRole('button', { name: 'Other rules' }).click();
  await page.getByTestId('pace-strip').waitFor();
  await take('score-empty');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Make a first cut' }).click();
  await page.getByTestId('first-cut').getByRole('status').getByText('slots, from').waitFor();
  await page.waitForFunction(
    (t) => Number(/:([\d.]+)/.exec(globalThis.document.querySelector('[data-testid=time]')?.textContent ?? '')?.[1]) > t,
    9,
  );
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  await saved();
  await take('first-cut');
  await page.getByRole('button', { name: /^Close: go on/ }).click();
  await page.getByRole('button', { name: 'How slots are filled' }).click();
  await page.getByRole('radio', { name: 'best match' }).click();
  await page
    .getByText(/slots filled/)
    .last()
    .waitFor();
  await page.getByText('Working it out').waitFor({ state: 'hidden' });
  await page.getByRole('button', { name: 'Fill so' }).click();
  await page.getByTestId('shot').first().waitFor();
  await saved();
  await open('song', () => page.getByTestId('song-line-0').waitFor());
  await page.getByRole('button', { name: 'Detect', exact: true }).click();
  await page.getByTestId('accent-count').waitFor();
  await page.getByText('Beats from the song itself').waitFor();
  await page.getByTestId('song-line-2').click({ position: { x: 400, y: 40 } });
  await take('song');
  await page.getByRole('button', { name: 'Make it shorter…' }).click();
  await page.getByRole('button', { name: 'Look for ways' }).click();
  await page.getByTestId('join-0').waitFor();
  await take('song-shorter');
  await page.getByRole('button', { name: 'Leave it as it is' }).click();
  await tapAlongLate();
  await take('song-taps');
  await page.getByRole('button', { name: 'Leave', exact: true }).click();
  await page.keyboard.press('Control+z');
  await saved();
  await open('footage', () => page.getByTestId('footage-card').first().waitFor());
  await page.getByRole('button', { name: /^drum\.mp4, number/ }).click();
  await page
    .locator('video')
    .evaluate(
      (/** @type {HTMLVideoElement} */ v) =>
        new Promise((done) => (v.readyState >= 2 ? done(undefined) : v.addEventListener('loadeddata', done))),
    );
  await page.getByTestId('proposed-hit').first().waitFor();
  await take('footage');
  // Several picked and described, a clip chopped around its hits, a photo with its focus point.
  for (const name of ['crowd-hill', 'dive'])
    await page.getByRole('button', { name: new RegExp(`^${name}\\.mp4, number`) }).click({ modifiers: ['Control'] });
  await page.keyboard.press('4');
  await page.getByLabel('Add a tag').fill('dusk');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Chop' }).click();
  await page.getByRole('menuitem', { name: /Around its hits/ }).click();
  await page.getByRole('button', { name: 'Select 2' }).click();
  await page.locator('[data-sonner-toast]').waitFor({ state: 'detached' });
  await page.getByRole('button', { name: /^lantern-girl\.jpg, number/ }).click();
  await page.getByLabel('Frame size').selectOption('1080x1920');
  const photo = there(await page.getByRole('img', { name: 'lantern-girl.jpg' }).boundingBox());
  await page.mouse.click(photo.x + photo.width * 0.36, photo.y + photo.height * 0.5);
  await page.getByLabel('Frame size').selectOption('1280x720');
  await page.getByRole('button', { name: /of another shape/ }).click();
  await page.getByTestId('other-shape').first().waitFor();
  await take('footage-shapes');
  await page.keyboard.press('Escape');
  await open('finish', () => painted(0));
  const finishLines = page.getByTestId('dressed');
  await finishLines.evaluate((e) => e.scrollTo(0, 352));
  await page.getByTestId('firing-flash').first().waitFor();
  await take('finish');
  await finishLines.evaluate((e) => e.scrollTo(0, 0));
  await page.getByRole('tab', { name: 'Titles' }).click();
  await page.getByRole('list', { name: 'Titles' }).getByRole('button').first().click();
  await page.getByRole('region', { name: 'Chosen title' }).waitFor();
  await page.getByRole('group', { name: 'Colours of the picture' }).waitFor();
  await page.getByText('Finish').first().hover();
  await take('finish-titles');
  await page.getByRole('tab', { name: 'Sound' }).click();
  await page.locator('[data-testid=loudness]:not(.opacity-50)').waitFor();
  for (const [x, y] of [
    [80, 0],
    [430, 13],
  ]) {
    const line = there(await page.getByTestId('finish-line-1').getByTestId('level-line').boundingBox());
    await page.mouse.click(line.x + x, line.y + line.height / 2);
    const points = page.getByTestId('finish-line-1').getByTestId('level-point');
    const point = there(await points.last().boundingBox());
    await page.mouse.move(point.x + 6, point.y + 6);
    await page.mouse.down();
    await page.mouse.move(point.x + 6, point.y + 6 + y, { steps: 4 });
    await page.mouse.up();
  }
  await saved();
  await page.locator('[data-testid=loudness]:not(.opacity-50)').waitFor();
  await page.getByText('Finish').first().hover();
  await take('finish-sound');
  const shaped = async (width, height) => {
    const { revision, document } = await (await page.request.get(`${base}/api/projects/${project}/montage`)).json();
    const shape = { ...document.shape, width, height };
    await page.request.put(`${base}/api/projects/${project}/montage`, { data: { revision, document: { ...document, shape } } });
  };
  await saved();
  await shaped(720, 1280);
  await open('finish', () => painted(0));
  await page.getByTestId('print').first().click();
  await page.getByRole('radio', { name: 'closer' }).click();
  await page.getByRole('button', { name: 'Draw the frames' }).click();
  const frame = there(await page.getByTestId('frame-to').boundingBox());
  await page.mouse.move(frame.x + frame.width / 2, frame.y + frame.height / 2);
  await page.mouse.down();
  await page.mouse.move(frame.x + frame.width / 2 - 24, frame.y + frame.height / 2 + 10, { steps: 4 });
  await page.mouse.up();
  await saved();
  await take('finish-picture');
  await shaped(1280, 720);
  await open('export', () => page.getByRole('button', { name: 'Export the film' }).waitFor());
  await page.getByRole('button', { name: 'Export the film' }).click();
  await page.locator('[data-testid=export][data-state=done] video').waitFor({ timeout: 600_000 });
  // Played for a moment, since a film that was only sought shows that it is loading.
  await page.locator('video').evaluate(async (/** @type {HTMLVideoElement} */ v) => {
    v.currentTime = 20;
    await v.play();
    await new Promise((done) => (v.ontimeupdate = () => v.currentTime > 20.4 && done(undefined)));
    v.pause();
  });
  await take('export');
  await open('projects', () => page.getByRole('button', { name: /^Open Kite Day/ }).waitFor());
  await take('projects');
  const fresh = await (await page.request.post(`${base}/api/projects`, { data: { name: 'Second Day on the Down' } })).json();
  await page.goto(`${base}/projects/${fresh.id}/song`);
  // A loud, fast recording, of which it is not sure how it is counted.
  await page.getByTestId('song-input').setInputFiles(join(shots, '../../e2e/material/squall-on-the-ridge.ogg'));
  await page.getByRole('region', { name: 'Ways to count the song' }).waitFor();
  await saved();
  await take('song-readings');
  await open('song', () => page.getByTestId('song-line-0').waitFor());
  await page.getByTestId('song-input').setInputFiles(join(shots, '../../demo/media/lanterns-at-nine.mp3'));
  await page.getByRole('button', { name: 'Take the montage along' }).click();
  await page.getByTestId('carry-drawing').waitFor({ timeout: 60_000 });
  await take('song-along');
  const empty = await ownServer();
  await page.goto(empty.base);
  await page.getByRole('button', { name: 'Hear Paper Sails' }).waitFor();
  await take('begin');
  await empty.stop();
} finally {
  await browser.close();
  await stop();
}
