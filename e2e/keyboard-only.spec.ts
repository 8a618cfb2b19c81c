import { expect, test, type Page } from '@playwright/test';
import { scoreOf } from '@bluster/core';
import { made, projectOf, savedMontage } from './stage.ts';

/** Presses Tab until a control of that name has the focus. */
async function tabTo(page: Page, name: RegExp, most = 120): Promise<void> {
  for (let n = 0; n < most; n++) {
    const here = await page.evaluate(() => {
      const e = document.activeElement;
      return e && e !== document.body ? (e.getAttribute('aria-label') ?? e.textContent ?? '').trim() : '';
    });
    if (name.test(here)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`${name} cannot be reached with Tab`);
}

async function chooseFiles(page: Page, paths: readonly string[]): Promise<void> {
  // The browser opens its file dialog for a key that a person pressed; a page that is just being put together may lose one.
  await expect(async () => {
    const [chooser] = await Promise.all([page.waitForEvent('filechooser', { timeout: 5000 }), page.keyboard.press('Enter')]);
    await chooser.setFiles([...paths]);
  }).toPass({ timeout: 30_000 });
}

test('a whole montage is made without a mouse: song, footage, pegs, clips hung one by one, a title, the film', async ({ page }) => {
  // Told of file dialogs from the start.
  page.on('filechooser', () => undefined);
  await page.goto('/');
  await tabTo(page, /^New project$/);
  await page.keyboard.press('Enter');
  await page.keyboard.type('By keys');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/song$/);

  await tabTo(page, /^Choose a song$/);
  await chooseFiles(page, [made.song(12)]);
  await expect(page.getByTestId('beat-count')).toHaveText(/^2[0-9]$/, { timeout: 60_000 });

  await page.keyboard.press('Alt+2');
  await expect(page.getByText('Drop clips and photos here')).toBeVisible();
  await tabTo(page, /^Choose files$/);
  await chooseFiles(
    page,
    ['typed-a', 'typed-b'].map((name, i) => made.clip(name, { frames: 120 + i, fps: '30' })),
  );
  await expect(page.getByTestId('footage-card')).toHaveCount(2, { timeout: 60_000 });
  // The hit of the first, frame by frame; arrows go from card to card.
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowUp');
  for (let n = 0; n < 12; n++) await page.keyboard.press('.');
  await page.keyboard.press('h');
  await expect.poll(async () => (await savedMontage(page)).footage[0]!.selects[0]?.hit ?? 0).toBeGreaterThan(0.3);

  await page.keyboard.press('Alt+3');
  await expect(page).toHaveURL(/\/score$/);
  await tabTo(page, /^bars$/);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('empty-slot').first()).toBeVisible();
  for (const clip of ['typed-a', 'typed-b']) {
    await tabTo(page, /^(Shelf|Clip|Shot)$/);
    await page.keyboard.press('Home');
    await expect(page.getByRole('tab', { name: 'Shelf' })).toBeFocused();
    await tabTo(page, new RegExp(`^${clip}\\.mp4, drag`));
    await page.keyboard.press('Enter');
    await expect(page.getByRole('tab', { name: 'Clip', exact: true })).toHaveAttribute('aria-selected', 'true');
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('d');
    await expect(page.locator(`[data-testid=shot][data-clip="${clip}.mp4"]`).first()).toBeAttached();
  }
  const hung = scoreOf(await savedMontage(page)).slots.map((s) => s.placed?.item.name ?? null);
  expect(hung.filter(Boolean)).toEqual(['typed-a.mp4', 'typed-b.mp4']);
  await tabTo(page, /^Fill slots/);
  await page.keyboard.press('Enter');
  await expect.poll(async () => scoreOf(await savedMontage(page)).slots.every((s) => s.placed)).toBe(true);

  await page.keyboard.press('Alt+4');
  await expect(page).toHaveURL(/\/finish$/);
  await expect(page.getByTestId('dressed')).toBeVisible();
  await page.keyboard.press('Shift+T');
  await expect.poll(async () => (await savedMontage(page)).titles.length).toBe(1);

  // Out of the title's text, where keys are letters.
  await page.keyboard.press('Tab');
  await page.keyboard.press('Alt+5');
  await expect(page).toHaveURL(/\/export$/);
  // A film is made of what has been looked at; a person would be told, and press again.
  const unseen = async (): Promise<number> => {
    const answer = await page.request.get(`/api/projects/${projectOf(page)}/assets`);
    return ((await answer.json()) as { kind: string; info: { looked?: boolean } }[]).filter((a) => a.kind === 'clip' && !a.info.looked)
      .length;
  };
  await expect.poll(unseen, { timeout: 60_000 }).toBe(0);
  await tabTo(page, /^Export the film$/);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('export')).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
});

test('a dialog gives the focus back to what opened it, a menu included; a deleted project is brought back, and removed for good', async ({
  page,
}) => {
  const name = 'Kept for a while';
  await page.request.post('/api/projects', { data: { name } });
  await page.goto('/');
  const more = page.getByRole('button', { name: `More for ${name}` });
  await more.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: 'Rename…' }).press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(more).toBeFocused();
  await page.getByRole('button', { name: 'New project' }).first().press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'New project' }).first()).toBeFocused();

  await more.click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(more).toHaveCount(0);
  await page.reload();
  await page.getByText(/^Deleted projects/).click();
  await page.getByRole('button', { name: `Bring ${name} back` }).click();
  await expect(more).toBeVisible();
  // The list of deleted projects goes when it is empty, and comes closed: it has to have done both before it is looked at.
  const forGood = page.getByRole('button', { name: `Delete ${name} for good`, includeHidden: true });
  await expect(forGood).toHaveCount(0);
  await more.click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(forGood).toHaveCount(1);
  if (!(await forGood.isVisible())) await page.getByText(/^Deleted projects/).click();
  await forGood.click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete for good' }).click();
  await expect(forGood).toHaveCount(0);
  expect(JSON.stringify(await (await page.request.get('/api/projects/deleted')).json())).not.toContain(name);
});
