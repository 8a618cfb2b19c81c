import { expect, test } from '@playwright/test';
import { fillSlots, made, openView, preparedProject, savedMontage, whenSaved } from './stage.ts';

const CLIPS = [made.clip('one', { frames: 150, fps: '30' })];

test('a reload brings everything back', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Kept', clips: CLIPS });
  await openView(page, id, 'score');
  await page.getByRole('button', { name: '2 bars', exact: true }).click();
  await fillSlots(page);
  const before = await savedMontage(page);
  expect(before.shots.length).toBeGreaterThan(2);
  await page.reload();
  await expect(page.getByTestId('shot').first()).toBeVisible();
  expect(await savedMontage(page)).toEqual(before);
  await expect(page.getByRole('button', { name: '2 bars', exact: true })).toHaveAttribute('aria-pressed', 'true');
});

for (const [choice, button] of [
  ['mine', 'Go on with this one'],
  ['the other', 'Take the other one'],
] as const)
  test(`what another window changed is not overwritten silently: ${choice} is chosen`, async ({ page, context }) => {
    const { id } = await preparedProject(page.request, { name: `Two windows, ${choice}`, clips: CLIPS });
    const other = await context.newPage();
    // Neither window hears of the other when it is looked at, as on two machines.
    for (const p of [page, other]) {
      await p.addInitScript(() => {
        for (const type of ['focus', 'visibilitychange']) addEventListener(type, (e) => e.stopImmediatePropagation(), true);
      });
      await openView(p, id, 'score');
    }
    await other.getByRole('button', { name: '2 bars', exact: true }).click();
    const theirs = await savedMontage(other);
    await page.getByRole('button', { name: 'every beat', exact: true }).click();
    await expect(page.getByRole('dialog')).toContainText('changed in another window');
    // Until the person has chosen, the other window's work is what the server has.
    expect(((await (await page.request.get(`/api/projects/${id}/montage`)).json()) as { document: unknown }).document).toEqual(theirs);
    await page.getByRole('button', { name: button }).click();
    await expect(page.getByRole('dialog')).toBeHidden();
    const after = await savedMontage(page);
    expect(after.pegRule).toEqual(choice === 'mine' ? { kind: 'pulse', unit: 'beat', every: 1 } : { kind: 'pulse', unit: 'bar', every: 2 });
    const kept = (await (await page.request.get(`/api/projects/${id}/versions`)).json()) as unknown[];
    expect(kept.length).toBeGreaterThan(0);
  });

test('while the server cannot be reached the work stays, and is saved when it is back', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Lost wind', clips: CLIPS });
  await openView(page, id, 'score');
  await page.route(`**/api/projects/${id}/montage`, (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()));
  await page.getByRole('button', { name: 'bars', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Not saved');
  await page.unroute(`**/api/projects/${id}/montage`);
  expect((await savedMontage(page)).pegRule).toEqual({ kind: 'pulse', unit: 'bar', every: 1 });
});

test('a save whose answer is lost is no conflict with oneself, also where something was edited since', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Lost answers', clips: CLIPS });
  await openView(page, id, 'score');
  const puts: number[] = [];
  await page.route(`**/api/projects/${id}/montage`, async (route) => {
    if (route.request().method() !== 'PUT') return route.continue();
    const response = await route.fetch();
    puts.push(response.status());
    // The first three are stored, or refused, and nobody hears of it.
    return puts.length <= 3 ? route.abort('connectionreset') : route.fulfill({ response });
  });
  await page.getByRole('button', { name: 'bars', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Not saved');
  await page.getByRole('button', { name: '2 bars', exact: true }).click();
  expect((await savedMontage(page)).pegRule).toEqual({ kind: 'pulse', unit: 'bar', every: 2 });
  expect(puts).toContain(409);
  await expect(page.getByRole('dialog')).toBeHidden();
});

test('what is edited while a slow save is under way is saved after it, and is no conflict', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Slow wind', clips: CLIPS });
  // Counts the waits after which an edit is sent.
  await page.addInitScript(() => {
    const later = globalThis.setTimeout;
    const counts = Object.assign(globalThis, { sendings: 0 });
    const counting = (work: () => void, ms?: number): ReturnType<typeof later> =>
      later(() => {
        work();
        if (ms === 220) counts.sendings++;
      }, ms);
    Object.assign(globalThis, { setTimeout: counting });
  });
  await openView(page, id, 'score');
  const puts: number[] = [];
  let answer = (): void => undefined;
  const held = new Promise<void>((done) => (answer = done));
  await page.route(`**/api/projects/${id}/montage`, async (route) => {
    if (route.request().method() !== 'PUT') return route.continue();
    const response = await route.fetch();
    puts.push(response.status());
    if (puts.length === 1) await held;
    await route.fulfill({ response });
  });
  const sendings = (): Promise<number> => page.evaluate(() => (globalThis as unknown as { sendings: number }).sendings);
  await page.getByRole('button', { name: 'bars', exact: true }).click();
  await expect.poll(() => puts.length).toBe(1);
  const before = await sendings();
  await page.getByRole('button', { name: '2 bars', exact: true }).click();
  await expect.poll(sendings).toBeGreaterThan(before);
  answer();
  expect((await savedMontage(page)).pegRule).toEqual({ kind: 'pulse', unit: 'bar', every: 2 });
  expect(puts).toEqual([200, 200]);
  await expect(page.getByRole('dialog')).toBeHidden();
});

test('while files or the project itself cannot be fetched a sentence says so, and goes when they can', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Gone behind the hill', clips: CLIPS });
  const files = `**/api/projects/${id}/assets`;
  await page.route(files, (route) => route.abort());
  await openView(page, id, 'score');
  await expect(page.getByRole('alert')).toContainText('The files of this project could not be fetched');
  await page.unroute(files);
  await expect(page.getByRole('alert')).toBeHidden();
  const project = `**/api/projects/${id}`;
  await page.route(project, (route) =>
    route.fulfill({ status: 500, json: { message: 'The disk cannot be read. Look whether it is there.' } }),
  );
  await page.reload();
  await expect(page.getByRole('alert')).toContainText('The disk cannot be read');
  await page.unroute(project);
  await whenSaved(page);
});
