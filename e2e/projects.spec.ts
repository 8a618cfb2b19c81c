import { expect, test } from '@playwright/test';

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
