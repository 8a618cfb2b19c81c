import { expect, test, type Page } from '@playwright/test';
import { dropFiles, made, openView, savedMontage } from './stage.ts';

async function newProject(page: Page, name: string): Promise<string> {
  const { id } = (await (await page.request.post('/api/projects', { data: { name } })).json()) as { id: string };
  return id;
}
const goTo = (page: Page, view: string): Promise<void> => page.getByRole('link', { name: new RegExp(`^${view}`, 'i') }).click();
const clips = ['first', 'second', 'third', 'fourth'].map((name, i) => () => made.clip(`arriving-${name}`, { frames: 60 + i, fps: '30' }));

test('a song that is dropped in arrives although another view is looked at meanwhile', async ({ page }) => {
  await openView(page, await newProject(page, 'Song on the way'), 'export');
  await goTo(page, 'song');
  await expect(page.getByText('Drop a song here')).toBeVisible();
  await dropFiles(page, 'main', [made.song(12)]);
  await goTo(page, 'footage');
  await expect(page.getByRole('link', { name: /^song/i })).toContainText(/bpm/, { timeout: 60_000 });
  const { song, marks } = await savedMontage(page);
  expect(song!.name).toBe('ticking-12.flac');
  expect(marks.filter((m) => m.kind === 'beat' || m.kind === 'bar').length).toBeGreaterThan(20);
});

test('clips that are dropped in all arrive, in their order, although Score is looked at meanwhile', async ({ page }) => {
  await openView(page, await newProject(page, 'Clips on the way'), 'footage');
  await expect(page.getByText('Drop clips and photos here')).toBeVisible();
  const files = clips.map((make) => make());
  await dropFiles(page, 'main', files);
  await goTo(page, 'score');
  await expect(page.getByRole('link', { name: /^footage/i })).toContainText('4 clips', { timeout: 60_000 });
  const names = (await savedMontage(page)).footage.map((f) => f.name);
  expect(names).toEqual(['first', 'second', 'third', 'fourth'].map((n) => `arriving-${n}.mp4`));
});

test('what is on the server when the page is closed is in the montage when it is opened again; what was taken out stays out', async ({
  page,
  context,
}) => {
  const id = await newProject(page, 'Closed half-way');
  await openView(page, id, 'footage');
  await expect(page.getByText('Drop clips and photos here')).toBeVisible();
  await dropFiles(
    page,
    'main',
    clips.map((make) => make()),
  );
  const there = async (): Promise<{ name: string }[]> =>
    (await (await context.request.get(`/api/projects/${id}/assets`)).json()) as { name: string }[];
  await expect.poll(async () => (await there()).length, { intervals: [20] }).toBeGreaterThanOrEqual(2);
  await page.close({ runBeforeUnload: false });
  const again = await context.newPage();
  await openView(again, id, 'export');
  const inMontage = async (): Promise<string[]> => (await savedMontage(again)).footage.map((f) => f.name).sort();
  // What was still on its way when the page was closed may have come whole as well.
  await expect
    .poll(async () => JSON.stringify(await inMontage()) === JSON.stringify((await there()).map((a) => a.name).sort()), { timeout: 60_000 })
    .toBe(true);
  await goTo(again, 'footage');
  const gone = (await savedMontage(again)).footage[0]!.name;
  await again.getByTestId('footage-card').first().hover();
  await again.getByRole('button', { name: `Remove ${gone}` }).click();
  await expect.poll(inMontage).not.toContain(gone);
  await again.reload();
  await expect(again.getByTestId('footage-card').first()).toBeVisible();
  await goTo(again, 'score');
  await goTo(again, 'footage');
  expect(await inMontage()).not.toContain(gone);
});

test('the montage takes the shape that most of its footage has, and another in one click', async ({ page }) => {
  await openView(page, await newProject(page, 'Most are upright'), 'footage');
  await expect(page.getByText('Drop clips and photos here')).toBeVisible();
  const upright = ['a', 'b', 'c'].map((n, i) => made.clip(`upright-${n}`, { frames: 60 + i, fps: '25', size: '180x320' }));
  const wide = ['a', 'b'].map((n, i) => made.clip(`odd-${n}`, { frames: 50 + i, fps: '30', size: '320x240' }));
  await dropFiles(page, 'main', [wide[0]!, ...upright, wide[1]!]);
  await expect(page.getByTestId('footage-card')).toHaveCount(5, { timeout: 60_000 });
  await expect.poll(async () => (await savedMontage(page)).shape).toEqual({ width: 180, height: 320, rate: { num: 25, den: 1 } });
  await page.getByRole('button', { name: '320×240 · 2' }).click();
  await expect.poll(async () => (await savedMontage(page)).shape).toMatchObject({ width: 320, height: 240 });
});
