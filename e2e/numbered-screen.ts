import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { numberOf } from '@bluster/media/testing/made-media';

/** The screen's pixels: level of a spot given in parts of width and height, 0 to 255 each of red, green and blue. */
export async function spots(page: Page, places: readonly (readonly [number, number])[]): Promise<number[][]> {
  const { data, info } = await sharp(await page.getByTestId('screen').screenshot())
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return places.map(([x, y]) => {
    const at = 3 * (Math.floor(y * info.height) * info.width + Math.floor(x * info.width));
    return [data[at]!, data[at + 1]!, data[at + 2]!];
  });
}

/** The luma of both halves of the screen's picture. Video levels 16 to 235 are shown as 0 to 255. */
export async function halvesShown(page: Page): Promise<[number, number]> {
  const [left, right] = await spots(page, [
    [0.25, 0.5],
    [0.75, 0.5],
  ]);
  const luma = (rgb: number[]): number => 16 + (rgb[1]! * 219) / 255;
  return [luma(left!), luma(right!)];
}

/** The number that a numbered clip's frame carries: see numberedClip. */
export async function numberShown(page: Page): Promise<number> {
  return numberOf(...(await halvesShown(page)));
}
