import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { FILL_DEFAULTS, scoreOf, shownAt, type Command, type Mark, type Montage } from '@bluster/core';
import { numberOf } from '@bluster/media/testing/made-media';
import { halvesShown, numberShown } from './numbered-screen.ts';
import { drag, holdKey, made, middleOf, openView, preparedProject, savedMontage, playedTo } from './stage.ts';

const CLIPS = [made.clip('one', { frames: 150, fps: '30' }), made.clip('two', { frames: 150, fps: '25' })];
const BARS: Command = { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } };
const FILLED: Command[] = [BARS, { do: 'fill', options: FILL_DEFAULTS }];

const starts = (m: Montage): number[] => scoreOf(m).slots.map((s) => s.start.frame);
const names = (m: Montage): (string | undefined)[] => scoreOf(m).slots.map((s) => s.placed?.item.name.replace('.mp4', ''));
const shotOf = (page: Page, slot: number): ReturnType<Page['locator']> => page.locator(`[data-testid=shot][data-slot="${slot}"]`).first();

async function chooseShot(page: Page, slot: number): Promise<void> {
  await shotOf(page, slot).click();
  await expect(page.getByTestId('shot-panel')).toContainText(`slot ${slot + 1} `);
}

/** The level of the left half of the screen when a frame is stepped to. */
async function levelAt(page: Page, frame: number): Promise<number> {
  const screen = page.getByTestId('screen');
  for (;;) {
    const now = Number(await screen.getAttribute('data-frame'));
    if (now === frame) break;
    await page.keyboard.press(now < frame ? '.' : ',');
    await expect(screen).toHaveAttribute('data-frame', String(now < frame ? now + 1 : now - 1));
  }
  return (await halvesShown(page))[0];
}

test('pegs on strong accents of a band, on drops, on cues, faster and faster, and evenly by frames', async ({ page }) => {
  const mark = (id: string, kind: Mark['kind'], time: number, more: Partial<Mark> = {}): Mark => ({
    id,
    kind,
    time,
    origin: 'hand',
    ...more,
  });
  const extra: Mark[] = [
    ...[1.1, 2.3, 3.7, 5.2].map((t, i) => mark(`a${i}`, 'accent', t, { band: 'high', strength: 0.3 + 0.2 * i })),
    mark('l', 'accent', 4.4, { band: 'low', strength: 1 }),
    mark('d', 'drop', 8),
    ...[2.5, 11.2].map((t, i) => mark(`c${i}`, 'cue', t, { label: 'kite' })),
  ];
  const { id } = await preparedProject(page.request, {
    name: 'Rules',
    clips: [],
    then: (m) => [{ do: 'takeMarking', marking: { marks: [...m.marks, ...extra], sections: [] } }],
  });
  await openView(page, id, 'score');
  const frames = (): Promise<number[]> => savedMontage(page).then(starts);
  await page.getByRole('button', { name: 'Other rules' }).click();
  await page.getByRole('radio', { name: 'high' }).click();
  await page.getByRole('button', { name: 'Hang on 2 accents' }).click();
  expect(await frames()).toEqual([0, 111, 156]);
  await page.getByLabel('from strength').fill('0.8');
  await page.getByRole('button', { name: 'Hang on 1 accent' }).click();
  expect(await frames()).toEqual([0, 156]);
  await page.getByRole('button', { name: 'drops', exact: true }).click();
  expect(await frames()).toEqual([0, 240]);
  await page.getByRole('button', { name: 'cues', exact: true }).click();
  expect(await frames()).toEqual([0, 75, 336]);
  // Typed digit by digit, what is not a number within the limits yet stays as it is; what is too small is refused when the field is left.
  const every = page.getByLabel('even, every');
  await every.fill('');
  await every.pressSequentially('1');
  await expect(every).toHaveValue('1');
  await every.press('Tab');
  await expect(page.getByRole('alert').filter({ hasText: '2 to 10,000' })).toBeVisible();
  await every.fill('');
  await every.pressSequentially('100');
  await page.getByRole('button', { name: 'Hang evenly' }).click();
  expect(await frames()).toEqual([0, 100, 200, 300, 400]);
  await page.getByRole('button', { name: 'faster', exact: false }).last().click();
  const faster = await frames();
  expect(faster.slice(0, 3)).toEqual([0, 60, 120]);
  // Half beats at the end: seven frames and a half each.
  const last = faster.slice(-3);
  expect([last[1]! - last[0]!, last[2]! - last[1]!].sort()).toEqual([7, 8]);
  await page.getByRole('button', { name: 'No pegs by rule' }).click();
  expect(await frames()).toEqual([0]);
});

test('the order in which clips were picked fills the slots; two shots swap; one goes on with a jump', async ({ page }) => {
  const clips = [...CLIPS, made.clip('long', { frames: 400, fps: '30' })];
  const { id } = await preparedProject(page.request, { name: 'Picked', clips, then: () => [BARS] });
  await openView(page, id, 'footage');
  const card = (name: string): ReturnType<Page['locator']> => page.getByRole('button', { name: new RegExp(`^${name}\\.mp4, number`) });
  await card('two').click();
  await card('one').click({ modifiers: ['Control'] });
  await page.getByRole('link', { name: /^score/i }).click();
  await page.getByRole('button', { name: 'How slots are filled' }).click();
  await page.getByRole('radio', { name: 'picked (2)' }).click();
  await page.getByRole('button', { name: 'Fill so' }).click();
  await expect.poll(async () => names(await savedMontage(page)).slice(0, 4)).toEqual(['two', 'one', 'two', 'one']);

  await chooseShot(page, 0);
  await shotOf(page, 3).click({ modifiers: ['Control'] });
  const before = await savedMontage(page);
  await page.getByRole('button', { name: 'Swap' }).click();
  const swapped = await savedMontage(page);
  expect(starts(swapped)).toEqual(starts(before));
  expect([shownAt(swapped, 0)!.source, shownAt(swapped, 180)!.source]).toEqual([shownAt(before, 180)!.source, shownAt(before, 0)!.source]);

  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Shelf' }).click();
  const [shelf, slot] = [await middleOf(page, '[data-testid=shelf-card]', 2), await middleOf(page, '[data-slot="2"]')];
  await drag(page, shelf, slot);
  await expect.poll(async () => names(await savedMontage(page))[2]).toBe('long');
  await chooseShot(page, 2);
  await page.getByRole('button', { name: 'Go on with it' }).click();
  await page.getByRole('menuitem', { name: 'skipping 30 frames' }).click();
  // 400 frames are enough for three slots of 60 after it, each 30 further on.
  await expect.poll(async () => names(await savedMontage(page)).slice(1, 7)).toEqual(['one', 'long', 'long', 'long', 'long', 'two']);
  const gone = await savedMontage(page);
  const first = shownAt(gone, 120)!.source;
  // Each slot of 60 frames goes on 30 frames after the one before ended.
  expect([180, 240].map((f) => shownAt(gone, f)!.source)).toEqual([first + 90, first + 180]);
});

for (const way of ['rolling', 'rippling'] as const)
  test(`a cut that was there settles on the beats by ${way}`, async ({ page }) => {
    const cuts = [0, 1.1, 2.3, 3.9, 5];
    const { id } = await preparedProject(page.request, {
      name: 'Settled',
      clips: [made.clip('film', { frames: 240, fps: '30' })],
      then: (m) => [
        {
          do: 'layRun',
          at: 0,
          run: cuts.slice(1).map((out, i) => ({ assetId: m.footage[0]!.assetId, in: cuts[i]!, out })),
        },
      ],
    });
    await openView(page, id, 'score');
    const before = await savedMontage(page);
    expect(starts(before).slice(0, 5)).toEqual([0, 33, 69, 117, 150]);
    await page.getByRole('button', { name: 'More for the score' }).click();
    await page.getByRole('menuitem', { name: /Lay out a cut/ }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('radio', { name: way }).click();
    await dialog.getByRole('radio', { name: 'beats' }).click();
    const slowest = dialog.getByLabel('speed', { exact: false }).first();
    await slowest.fill('');
    await slowest.pressSequentially('60');
    await expect(slowest).toHaveValue('60');
    await dialog.getByLabel('shots of at least').fill('90');
    await dialog.getByLabel('shots of at least').press('Tab');
    await expect(dialog.getByRole('alert').filter({ hasText: '0 to 60' })).toBeVisible();
    await dialog.getByLabel('shots of at least').fill('50');
    await dialog.getByLabel('shots of at least').press('Tab');
    await expect(dialog.getByRole('alert').filter({ hasText: '0 to 60' })).toHaveCount(0);
    await expect(dialog.getByRole('alert')).toBeVisible();
    await dialog.getByLabel('shots of at least').fill('0.3');
    await dialog.getByRole('button', { name: /^Settle \d cuts/ }).click();
    await expect(dialog).toBeHidden();
    const m = await savedMontage(page);
    const settled = scoreOf(m).slots.slice(1, 4);
    for (const slot of settled) expect(slot.start.mark?.kind).toMatch(/beat|bar/);
    for (const slot of scoreOf(m).slots.slice(0, 4)) expect(slot.placed!.missing).toBe(0);
    if (way === 'rolling') {
      // What is seen between the cuts stays where it was in time.
      expect(settled.map((s, i) => Math.abs(s.start.frame - [33, 69, 117][i]!) <= 8)).toEqual([true, true, true]);
      for (const frame of [16, 50, 100, 140]) expect(shownAt(m, frame)!.source).toBe(shownAt(before, frame)!.source);
    } else {
      // Each shot begins with the picture that it began with.
      expect(settled.map((s) => s.placed!.shot.sourceIn)).toEqual([1.1, 2.3, 3.9].map((t) => expect.closeTo(t, 3)));
    }
    await page.keyboard.press('Control+z');
    expect(starts(await savedMontage(page))).toEqual(starts(before));
  });

test('prints show the pictures of what hangs in them, after another shot is hung and a slip too', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Prints', clips: CLIPS.slice(0, 1), then: () => FILLED });
  // The first time the pictures are asked for the server cannot be reached; they come all the same.
  let refused = 0;
  await page.context().route('**/api/tiles?*', (route) => (refused++ === 0 ? route.abort() : route.continue()));
  await openView(page, id, 'score');
  // Two pictures lie on a print of 2 s; the first shows what is seen after 0.4 s, as near as a filmstrip of every eighth frame has it.
  const shown = async (slot: number): Promise<number> => {
    const { data, info } = await sharp(await shotOf(page, slot).screenshot())
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const luma = (x: number): number => 16 + (data[3 * ((info.height >> 1) * info.width + Math.round(x * info.width))]! * 219) / 255;
    return numberOf(luma(0.13), luma(0.37));
  };
  const wanted = (m: Montage, slot: number): number => {
    const { placed } = scoreOf(m).slots[slot]!;
    return 8 * Math.round((placed!.curve.source(0.4) * 30) / 8);
  };
  const right = async (slot: number): Promise<boolean> => Math.abs((await shown(slot)) - wanted(await savedMontage(page), slot)) <= 1;
  for (const slot of [0, 1]) await expect.poll(() => right(slot)).toBe(true);
  expect(refused).toBeGreaterThan(1);
  expect(wanted(await savedMontage(page), 1)).toBeGreaterThan(wanted(await savedMontage(page), 0) + 30);
  const print = (await shotOf(page, 0).boundingBox())!;
  const y = print.y + 20;
  await drag(page, { x: print.x + 150, y }, { x: print.x + 55, y });
  await expect.poll(async () => scoreOf(await savedMontage(page)).slots[0]!.placed!.shot.sourceIn).toBeGreaterThan(0.8);
  await page.keyboard.press('Escape');
  await expect.poll(() => right(0)).toBe(true);
});

test("P is hung where it was heard: this computer's lateness is taken off", async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Late', clips: CLIPS });
  await page.addInitScript(() => {
    const state = { lateness: 0.25, spread: 0.01, way: 'onset', window: 0.06, place: 'add', clickLevel: 0 };
    localStorage.setItem('bluster-tapping', JSON.stringify({ state, version: 0 }));
  });
  await openView(page, id, 'score');
  await page.keyboard.press('Space');
  await playedTo(page, 1);
  // Half-way between two beats, which is a quarter of a second after the one that was meant.
  await page.evaluate(
    () =>
      new Promise<void>((done) => {
        const look = (): void => {
          const text = document.querySelector('[data-testid=time]')!.textContent;
          const phase = Number(/:([\d.]+)/.exec(text)![1]) % 0.5;
          if (phase > 0.22 && phase < 0.29) {
            dispatchEvent(new KeyboardEvent('keydown', { key: 'p', code: 'KeyP', bubbles: true }));
            document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'p', code: 'KeyP', bubbles: true }));
            done();
          } else requestAnimationFrame(look);
        };
        look();
      }),
  );
  await expect(page.getByTestId('peg')).toHaveCount(1);
  await page.keyboard.press('Space');
  const { pegs, marks } = await savedMontage(page);
  expect(marks.find((m) => m.id === pegs[0]!.markId)?.kind).toMatch(/beat|bar/);
});

test('the curve over a print is dragged there; backwards and mixed frames are seen on the screen as in the film', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Curves', seconds: 8, clips: CLIPS.slice(0, 1), then: () => FILLED });
  await openView(page, id, 'score');
  await chooseShot(page, 0);
  await page.getByTestId('curve-mark').nth(2).click();
  const onPrint = page.getByTestId('curve-over').getByTestId('curve-tie');
  await expect(onPrint).toHaveCount(1);
  const before = await savedMontage(page);
  const tie = (await onPrint.boundingBox())!;
  await drag(page, { x: tie.x + 4, y: tie.y + 4 }, { x: tie.x + 4, y: tie.y - 4 });
  const after = await savedMontage(page);
  const source = (m: Montage): number => scoreOf(m).slots[0]!.placed!.ties[0]!.source;
  expect(source(after)).toBeGreaterThan(source(before) + 0.1);
  expect(shownAt(after, 30)!.source).toBe(Math.round(source(after) * 30));
  // Before its first tie it runs as recorded.
  expect(after.shots[0]!.sourceIn).toBeCloseTo(source(after) - 1, 6);

  await chooseShot(page, 1);
  await page.getByRole('button', { name: 'Backwards' }).click();
  const turned = await savedMontage(page);
  expect(shownAt(turned, 61)!.source).toBe(shownAt(turned, 60)!.source - 1);
  const screen = page.getByTestId('screen');
  for (let frame = 60; frame < 64; frame++) {
    await expect(screen).toHaveAttribute('data-frame', String(frame));
    await expect.poll(() => numberShown(page), { message: `frame ${frame}` }).toBe(shownAt(turned, frame)!.source);
    await page.keyboard.press('.');
  }
  // Played, the clip runs back; levels of its preview tell a frame from its neighbour, but not always.
  await page.keyboard.press('Space');
  await playedTo(page, 3);
  await page.keyboard.press('Space');
  await expect
    .poll(async () => {
      const frame = Number(await screen.getAttribute('data-frame'));
      return frame > 80 && Math.abs((await numberShown(page)) - shownAt(turned, frame)!.source) <= 1;
    })
    .toBe(true);
  expect(shownAt(turned, 90)!.source).toBe(shownAt(turned, 60)!.source - 30);

  await chooseShot(page, 2);
  await page.getByLabel('Speed in percent').fill('50');
  await page.keyboard.press('Enter');
  await page.getByLabel('mix between frames').check();
  const mixed = await savedMontage(page);
  // Half of one frame and half of the next: between the levels that both have on the screen when they are seen whole.
  const between = await levelAt(page, 121);
  const [one, two] = [await levelAt(page, 120), await levelAt(page, 122)];
  expect([shownAt(mixed, 120)!.source + 1, shownAt(mixed, 121)!.source + 1]).toEqual([
    shownAt(mixed, 122)!.source,
    shownAt(mixed, 122)!.source,
  ]);
  expect(between - one).toBeGreaterThan(1);
  expect(two - between).toBeGreaterThan(1);
});

test('empty slots are filled from the list of gaps, one and then all', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Gaps', clips: CLIPS, then: () => [BARS] });
  await openView(page, id, 'score');
  await page.getByRole('tab', { name: 'Report' }).click();
  const gaps = page.getByTestId('gaps');
  await expect(gaps).toContainText('8 gaps, 16.00 s');
  await gaps.getByRole('button', { name: 'fill' }).nth(3).click();
  await expect(gaps).toContainText('7 gaps');
  const one = await savedMontage(page);
  expect(names(one).map((n) => n !== undefined)).toEqual([false, false, true, false, false, false, false, false]);
  await gaps.getByRole('button', { name: 'fill' }).first().click();
  await expect(gaps).toBeHidden();
  const m = await savedMontage(page);
  expect(m.shots).toHaveLength(8);
  expect(scoreOf(m).slots[2]!.placed!.shot).toEqual(scoreOf(one).slots[2]!.placed!.shot);
});

test('undo goes back 500 steps after a reload', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Long undo', clips: CLIPS, then: () => FILLED });
  await openView(page, id, 'score');
  const before = await savedMontage(page);
  await page.getByTestId('peg').nth(2).click();
  // Seventeen times to and fro.
  for (let i = 0; i < 34; i++)
    await holdKey(
      page,
      i % 2 === 0 ? { key: '}', code: 'BracketRight', shiftKey: true } : { key: '{', code: 'BracketLeft', shiftKey: true },
      15,
    );
  await savedMontage(page);
  await page.reload();
  await expect(page.getByTestId('shot').first()).toBeVisible();
  await holdKey(page, { key: 'z', code: 'KeyZ', ctrlKey: true }, 500);
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeDisabled();
  // Ten steps of 510 are forgotten: after them the third peg stood ten frames later.
  expect(starts(await savedMontage(page))[3]).toBe(starts(before)[3]! + 10);
  await page.keyboard.press('Control+Shift+z');
  expect(starts(await savedMontage(page))[3]).toBe(starts(before)[3]! + 11);
});
