import { expect, test } from '@playwright/test';
import Database from 'better-sqlite3';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { openView, preparedProject, savedMontage } from './stage.ts';

test('projects are made, renamed, copied, deleted and brought back', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).first().click();
  await page.getByRole('textbox', { name: 'Name' }).fill('');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Name' })).toBeVisible(); // without a name nothing is made
  await page.getByRole('textbox', { name: 'Name' }).fill('Wind from the west');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/song$/);
  await page.getByRole('link', { name: 'All projects' }).click();

  const card = (name: string): ReturnType<typeof page.getByRole> => page.getByRole('button', { name: `Open ${name}`, exact: true });
  const more = async (name: string, what: string): Promise<void> => {
    await page.getByRole('button', { name: `More for ${name}`, exact: true }).click();
    await page.getByRole('menuitem', { name: what }).click();
  };
  await more('Wind from the west', 'Rename…');
  await page.getByRole('textbox', { name: 'Name' }).fill('Wind from the sea');
  await page.keyboard.press('Enter');
  await expect(card('Wind from the sea')).toBeVisible();
  await more('Wind from the sea', 'Duplicate');
  await expect(card('Wind from the sea copy')).toBeVisible();
  await more('Wind from the sea', 'Delete');
  await expect(card('Wind from the sea')).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(card('Wind from the sea')).toBeVisible();
  await page.reload();
  await expect(card('Wind from the sea')).toBeVisible();
});

test('a project that is not there, and an address that is none, end in a sentence and a way out', async ({ page }) => {
  await page.goto('/projects/00000000-0000-4000-8000-000000000000/score');
  await expect(page.getByRole('alert')).toContainText('There is no such project');
  await page.getByRole('link', { name: 'All projects' }).click();
  await expect(page.getByRole('heading', { name: 'Projects' })).toBeVisible();
  await page.goto('/nowhere');
  await expect(page.getByRole('link')).not.toHaveCount(0);
});

test('a project whose montage is damaged says so beside the others, is taken out as a file, and goes back to a version that can be read', async ({
  page,
}) => {
  const { id } = await preparedProject(page.request, { name: 'Torn sail', clips: [], seconds: 4 });
  const { revision, document } = (await (await page.request.get(`/api/projects/${id}/montage`)).json()) as {
    revision: number;
    document: unknown;
  };
  await page.request.post(`/api/projects/${id}/versions`, { data: { revision, document, reason: 'By hand' } });
  const database = new Database(join(process.env['BLUSTER_E2E_DATA']!, 'bluster.sqlite'));
  database.prepare('UPDATE montage SET document = substr(document, 1, 200), revision = revision + 1 WHERE projectId = ?').run(id);
  database.close();

  await page.goto('/');
  const card = page.getByRole('article', { name: 'Torn sail' });
  await expect(card.getByRole('alert')).toContainText('is damaged');
  await expect(page.getByRole('button', { name: 'New project' }).first()).toBeEnabled();
  const download = page.waitForEvent('download');
  await card.getByRole('link', { name: 'Take it out as a file' }).click();
  expect(readFileSync(await (await download).path(), 'utf8')).toBe(JSON.stringify(document).slice(0, 200));

  await expect(card.getByRole('button', { name: 'Back to the last good version' })).toBeVisible();

  // Opened by its address it says the same, and has the same ways out.
  await page.goto(`/projects/${id}/song`);
  await expect(page.getByText(/is damaged/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Take it out as a file' })).toBeVisible();
  await page.getByRole('button', { name: 'Back to the last good version' }).click();
  await expect(page.getByText(/The project is as it was saved on/)).toBeVisible();
  await openView(page, id, 'song');
  expect((await savedMontage(page)).marks).toHaveLength(8);
});
