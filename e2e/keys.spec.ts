import { expect, test, type Page } from '@playwright/test';
import { FILL_DEFAULTS, type Montage } from '@bluster/core';
import { goToView, made, openView, preparedProject, savedMontage } from './stage.ts';

/** Every single key, alone and with Shift; those that leave the view or open a dialog are pressed elsewhere. */
const KEYS = [
  ...'abcdefghijklmnopqrstuvwxyz'.split(''),
  ...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.split('').map((k) => `Shift+${k}`),
  ...['[', ']', ',', '.', '0', '3', 'Delete', 'Backspace', 'ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End'],
  ...[
    'Shift+Delete',
    'Shift+ArrowUp',
    'Shift+ArrowDown',
    'Shift+[',
    'Shift+]',
    'Alt+[',
    'Alt+]',
    'Alt+ArrowLeft',
    'Alt+ArrowRight',
    'Space',
    'Space',
  ],
];

/** What each view is about. */
const PARTS: Record<string, (m: Montage) => unknown> = {
  song: (m) => [m.marks, m.song],
  footage: (m) => [m.footage, m.sounds],
  score: (m) => [m.shots, m.pegs.map(({ transition: _, ...peg }) => peg)],
  finish: (m) => [m.effects, m.titles, m.pegs.map((p) => p.transition), m.letterboxes],
};

/** Where letters would be typed, or a dialog would take them, the next key goes back to the view. */
async function leaveFieldsAndDialogs(page: Page): Promise<void> {
  const open = await page.evaluate(() => {
    (document.activeElement as HTMLElement | null)?.blur();
    return document.querySelector('[role="dialog"]') !== null;
  });
  if (open) await page.keyboard.press('Escape');
}

test('no key in any view touches what is chosen in another', async ({ page }) => {
  const { id } = await preparedProject(page.request, {
    name: 'Every key',
    clips: ['keyed-a', 'keyed-b', 'keyed-c'].map((name, i) => made.clip(name, { frames: 90 + i, fps: '30' })),
    seconds: 8,
    then: (m) => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      { do: 'fill', options: FILL_DEFAULTS },
      { do: 'addEffect', kind: 'flash', what: 'bar' },
      { do: 'addTitle', text: 'KITES', at: { markId: m.marks[0]!.id }, beats: 3 },
    ],
  });
  /** Something chosen in each view: a mark, a clip, a shot, a title. */
  const chooseEverywhere = async (): Promise<void> => {
    await openView(page, id, 'footage');
    await page.getByRole('button', { name: /^keyed-b\.mp4, number/ }).click();
    await goToView(page, 'score');
    await page
      .getByTestId('empty-slot')
      .or(page.getByRole('button', { name: /^Slot 2:/ }))
      .first()
      .click();
    await goToView(page, 'finish');
    await page.getByRole('tab', { name: 'Titles' }).click();
    await page.getByRole('button', { name: /KITES/ }).first().click();
    await goToView(page, 'song');
    const loupe = (await page.getByTestId('loupe').boundingBox())!;
    await page.mouse.click(loupe.x + loupe.width / 2, loupe.y + loupe.height / 2);
  };
  for (const view of ['footage', 'export', 'song', 'score', 'finish'])
    await test.step(view, async () => {
      await chooseEverywhere();
      await goToView(page, view);
      const before = await savedMontage(page);
      for (const key of KEYS) {
        await leaveFieldsAndDialogs(page);
        await page.keyboard.press(key);
      }
      await leaveFieldsAndDialogs(page);
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
      const after = await savedMontage(page);
      for (const [other, part] of Object.entries(PARTS)) {
        // Pegs hang on marks, and effects fire on pegs and marks: what is changed in one's own view may take those along.
        if (other === view || (view === 'song' && other !== 'footage') || (view === 'score' && other !== 'footage')) continue;
        expect(part(after), `${other}, by keys of ${view}`).toEqual(part(before));
      }
      await page.request.put(`/api/projects/${id}/montage`, {
        data: {
          revision: ((await (await page.request.get(`/api/projects/${id}/montage`)).json()) as { revision: number }).revision,
          document: before,
        },
      });
    });
});

test('Delete in Song takes the chosen mark, in Score the chosen shot, in Footage the picked clip, and nothing else', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, {
    name: 'Delete',
    clips: ['gone-a', 'gone-b'].map((name, i) => made.clip(name, { frames: 90 + i, fps: '30' })),
    seconds: 8,
    then: () => [
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      { do: 'fill', options: FILL_DEFAULTS },
    ],
  });
  await openView(page, id, 'score');
  await page.getByRole('button', { name: /^Slot 2:/ }).click();
  for (const view of ['song', 'footage', 'export']) {
    await goToView(page, view);
    if (view === 'footage') continue;
    await page.keyboard.press('Delete');
    expect((await savedMontage(page)).shots, view).toEqual(montage.shots);
  }
  await goToView(page, 'score');
  await page.keyboard.press('Delete');
  expect((await savedMontage(page)).shots).toHaveLength(montage.shots.length - 1);
  await goToView(page, 'footage');
  await page.getByRole('button', { name: /^gone-b\.mp4, number/ }).click();
  await page.keyboard.press('Delete');
  await page.getByRole('dialog').getByRole('button', { name: 'Remove' }).click();
  expect((await savedMontage(page)).footage.map((f) => f.name)).toEqual(['gone-a.mp4']);
});
