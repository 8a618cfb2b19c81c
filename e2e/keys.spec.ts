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

/**
 * Presses keys one after the other, each when the page has dealt with the one before, without waiting for it to be painted. Where letters
 * would be typed, or a dialog would take them, the next key goes back to the view.
 */
async function pressAll(page: Page, keys: readonly string[]): Promise<void> {
  await page.evaluate(async (all) => {
    const dealtWith = (): Promise<void> => new Promise((later) => setTimeout(later));
    const leave = async (): Promise<void> => {
      (document.activeElement as HTMLElement | null)?.blur();
      if (document.querySelector('[role="dialog"]') === null) return;
      press({ key: 'Escape', code: 'Escape' });
      await dealtWith();
    };
    const press = (init: KeyboardEventInit): void => {
      for (const type of ['keydown', 'keyup'])
        (document.activeElement ?? document.body).dispatchEvent(new KeyboardEvent(type, { ...init, bubbles: true, cancelable: true }));
    };
    for (const init of all) {
      await leave();
      press(init);
      await dealtWith();
    }
    await leave();
  }, keys.map(eventOf));
}

/** What a keyboard says of a key that is written "Shift+A". */
function eventOf(written: string): { key: string; code: string; shiftKey: boolean; altKey: boolean } {
  const words = written.split('+');
  const name = words.pop()!;
  const [shiftKey, altKey] = [words.includes('Shift'), words.includes('Alt')];
  if (/^[a-z]$/i.test(name)) return { key: shiftKey ? name.toUpperCase() : name, code: `Key${name.toUpperCase()}`, shiftKey, altKey };
  if (/^\d$/.test(name)) return { key: name, code: `Digit${name}`, shiftKey, altKey };
  const [key, code] = SIGNS[name] ?? [name, name];
  return { key: (shiftKey && SHIFTED[key]) || key, code, shiftKey, altKey };
}
const SIGNS: Record<string, [key: string, code: string]> = {
  '[': ['[', 'BracketLeft'],
  ']': [']', 'BracketRight'],
  ',': [',', 'Comma'],
  '.': ['.', 'Period'],
  Space: [' ', 'Space'],
};
const SHIFTED: Record<string, string> = { '[': '{', ']': '}' };

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
      await pressAll(page, KEYS);
      const after = await savedMontage(page);
      // That they were heard at all.
      if (view !== 'export') expect(PARTS[view]!(after), `keys of ${view}`).not.toEqual(PARTS[view]!(before));
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
