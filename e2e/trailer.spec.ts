import { expect, test } from '@playwright/test';
import { join } from 'node:path';
import { carryOut, scoreOf, type Montage } from '@bluster/core';
import { ffmpeg } from '@bluster/media/testing/made-media';
import { fillSlots, filmOfBeginning, made, openView, preparedProject, savedMontage, whenSaved } from './stage.ts';

/** A photo of one colour with a paler middle, so that a frame that comes closer is seen to. */
function photo(name: string, colour: string): string {
  const path = join(made.folder, name);
  const middle = 'drawbox=x=iw*0.46:y=ih/4:w=iw*0.08:h=ih/2:color=white@0.5:t=fill';
  ffmpeg('-f', 'lavfi', '-i', `color=${colour}:s=1280x720,${middle}`, '-frames:v', '1', path);
  return path;
}

/** So many frames of it are looked at, up to the fourth second. */
const FRAMES = 116;

/** A frame of a film, grey. Places are parts of its size. */
interface GreyFrame {
  readonly at: (x: number, y: number) => number;
  /** how many pixels between two heights are bright */
  readonly inked: (top: number, foot: number) => number;
}

/** The first frames of a film. */
function framesOf(film: string, count: number, shape: { width: number; height: number }): GreyFrame[] {
  const all = ffmpeg('-i', film, '-frames:v', String(count), '-f', 'rawvideo', '-pix_fmt', 'gray', '-');
  const bytes = shape.width * shape.height;
  return Array.from({ length: count }, (_, n) => greyFrame(all.subarray(n * bytes, (n + 1) * bytes), shape));
}

function greyFrame(grey: Buffer, { width, height }: { width: number; height: number }): GreyFrame {
  const at = (x: number, y: number): number => grey[Math.round(y * (height - 1)) * width + Math.round(x * (width - 1))]!;
  const inked = (top: number, foot: number): number => {
    let count = 0;
    for (let row = Math.round(top * height); row < foot * height; row++)
      for (let x = 0; x < width; x++) if (grey[row * width + x]! > 150) count++;
    return count;
  };
  return { at, inked };
}

// The trailer of a made-up film: photos of a hill, between them cards with words.
test('a trailer: cards on beats, a letterbox that opens, blur, vignette, dips and moves, wide and upright, read back from the film', async ({
  page,
}) => {
  test.setTimeout(420_000);
  const { id } = await preparedProject(page.request, {
    name: 'The longest string',
    seconds: 16,
    clips: [photo('trailer-moss.png', '0x2f6e58'), photo('trailer-dusk.png', '0x8a4a2a')],
    then: () => [
      { do: 'setShape', shape: { width: 640, height: 360, rate: { num: 30, den: 1 } } },
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
    ],
  });
  await openView(page, id, 'score');
  await fillSlots(page);
  await whenSaved(page);
  await openView(page, id, 'finish');

  // Cards in every second slot, each with its words, whose letters come from the middle.
  await page.getByRole('tab', { name: 'Titles' }).click();
  await page.getByRole('textbox', { name: 'Words of the cards, a line each' }).fill('A STRING\nA HILL\nONE LONG AFTERNOON');
  await page.getByRole('button', { name: 'Hang 3 cards' }).click();
  await expect(page.getByTestId('title-strip')).toHaveCount(3);
  let montage = await savedMontage(page);
  const slots = scoreOf(montage).slots;
  const isCard = slots.map((s) => s.placed?.item.name.startsWith('card '));
  expect(isCard).toEqual([true, false, true, false, true, false, false, false]);
  expect(montage.titles.map((t) => [t.text, t.enter, t.until])).toEqual([
    ['A STRING', 'middle', 'cut'],
    ['A HILL', 'middle', 'cut'],
    ['ONE LONG AFTERNOON', 'middle', 'cut'],
  ]);

  // A letterbox that opens under the first: it ends in the middle of the second bar, over two beats.
  await page.getByRole('tab', { name: 'Frame' }).click();
  await page.getByRole('button', { name: 'Lay a letterbox of 2.39' }).click();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.getByTestId('laid-letterbox').getByRole('button', { name: 'to: the playhead' }).click();
  await page.getByTestId('laid-letterbox').getByRole('spinbutton', { name: /goes/ }).fill('2');
  await page.getByTestId('laid-letterbox').getByRole('spinbutton', { name: /goes/ }).blur();
  // Darker edges over all, and a blur under the last words.
  await page.getByRole('button', { name: 'darker edges', exact: true }).click();
  await expect.poll(async () => (await savedMontage(page)).letterboxes[0]!.span.to?.markId ?? null).not.toBeNull();
  await page.getByRole('button', { name: 'blur', exact: true }).click();
  const blur = page.getByRole('list', { name: 'Looks that are laid' }).getByRole('listitem').filter({ hasText: 'blur' });
  for (let i = 0; i < 12; i++) await page.keyboard.press('Shift+ArrowRight');
  await blur.getByRole('button', { name: 'from: the playhead' }).click();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowRight');
  await blur.getByRole('button', { name: 'to: the playhead' }).click();
  await expect
    .poll(async () => (await savedMontage(page)).looks.map((l) => [l.kind, l.span?.from?.time, l.span?.to?.time]))
    .toEqual([
      ['vignette', undefined, undefined],
      ['blur', 8, 10],
    ]);
  await page.getByRole('tab', { name: 'Effects' }).click();
  await page.getByRole('button', { name: /^dip/ }).click();
  await page.getByRole('combobox', { name: 'On every' }).selectOption('cut');
  await page.getByRole('button', { name: 'Lay', exact: true }).click();
  await page.getByRole('tab', { name: 'Picture' }).click();
  await page.getByRole('radio', { name: 'photos' }).click();
  montage = await savedMontage(page);
  expect(montage.moveRule).toMatchObject({ what: 'photos' });
  expect(montage.effects.map((e) => e.kind)).toEqual(['dip']);

  const read = (film: string, shape: { width: number; height: number }): void => {
    const frames = framesOf(film, FRAMES, shape);
    const seen = (frame: number): GreyFrame => frames[frame]!;
    const wide = shape.width > shape.height;
    // The bars are there at first, and open: upright they take most of the picture.
    const bar = wide ? 0.06 : 0.2;
    expect(seen(20).at(0.5, bar)).toBeLessThan(20);
    expect(seen(100).at(0.5, bar)).toBeGreaterThan(20);
    // Letters come: more of them with every frame, all of them at the end of the card.
    const middle = (frame: number): number => seen(frame).inked(0.4, 0.6);
    expect(middle(6)).toBeLessThan(middle(14));
    expect(middle(14)).toBeLessThan(middle(40));
    expect(middle(40)).toBeGreaterThan(200);
    // On the cut it is dark, soon after it is not.
    const [dark, light] = [seen(60).at(0.5, 0.5), seen(110).at(0.5, 0.5)];
    expect(dark).toBeLessThan(0.6 * light);
    // The corner is darker than the edge's middle.
    expect(seen(110).at(0.02, 0.97)).toBeLessThan(seen(110).at(0.5, 0.97) - 8);
    // The frame moves over the photo: its pale middle begins elsewhere at the end of the slot than at its start.
    const pale = (frame: number): number => {
      const picture = seen(frame);
      const [across, down] = [shape.width, shape.height].map((size) => Array.from({ length: size / 2 }, (_, i) => i / size));
      const first = (places: readonly number[], at: (place: number) => number): number => places.findIndex((place) => at(place) > 120);
      return first(across!, (x) => picture.at(x, 0.5)) + 1000 * first(down!, (y) => picture.at(0.5, y));
    };
    expect(Math.abs(pale(75) - pale(115))).toBeGreaterThan(3);
  };
  const wide = await filmOfBeginning(page.request, id, FRAMES / 30, made.folder);
  read(wide, { width: 640, height: 360 });

  // The same trailer upright.
  const { revision, document } = (await (await page.request.get(`/api/projects/${id}/montage`)).json()) as {
    revision: number;
    document: Montage;
  };
  const upright = carryOut(document, { do: 'setShape', shape: { width: 360, height: 640, rate: { num: 30, den: 1 } } });
  expect((await page.request.put(`/api/projects/${id}/montage`, { data: { revision, document: upright } })).status()).toBe(200);
  const tall = await filmOfBeginning(page.request, id, FRAMES / 30, made.folder);
  read(tall, { width: 360, height: 640 });
});
