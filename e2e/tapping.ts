import { expect, type Page } from '@playwright/test';
import type { Montage } from '@bluster/core';
import { startedSounds, type Started } from './audio-clock.ts';
import { savedMontage } from './stage.ts';

/** When keys went down, page ms, and what the audio clock said then. */
export interface KeySeen {
  readonly key: string;
  readonly event: number;
  readonly contextTime: number;
  readonly performanceTime: number;
}

/** Has the page write down each key that goes down; asked for, it says them. */
export async function watchKeys(page: Page): Promise<() => Promise<KeySeen[]>> {
  await page.addInitScript(() => {
    const seen: KeySeen[] = [];
    Object.assign(globalThis, { keysSeen: seen });
    addEventListener(
      'keydown',
      (event) => {
        const context = (globalThis as unknown as { lastContext?: AudioContext }).lastContext;
        const stamp = context?.getOutputTimestamp();
        seen.push({
          key: event.key,
          event: event.timeStamp,
          contextTime: stamp?.contextTime ?? 0,
          performanceTime: stamp?.performanceTime ?? 0,
        });
      },
      true,
    );
  });
  return () => page.evaluate(() => (globalThis as unknown as { keysSeen: KeySeen[] }).keysSeen);
}

/**
 * Presses a key a while after each of some moments of the audio clock is heard. All of it from within the page, whose timers
 * bring it close and who then watches the clock: neither messages to a busy page nor the pictures it paints make a press late.
 */
export async function pressAlong(page: Page, key: string, whens: readonly number[], lateMs = 0): Promise<void> {
  await page.evaluate(
    ([pressed, moments, late]) =>
      new Promise<void>((done) => {
        const { lastContext } = globalThis as unknown as { lastContext: AudioContext };
        const init = { key: pressed, code: `Key${pressed.toUpperCase()}`, bubbles: true };
        let next = 0;
        const watch = (): void => {
          const { contextTime, performanceTime } = lastContext.getOutputTimestamp();
          const at = performanceTime! + 1000 * (moments[next]! - contextTime!) + late;
          const left = at - performance.now();
          if (left > 25) return void setTimeout(watch, left - 20);
          while (performance.now() < at);
          for (const type of ['keydown', 'keyup']) document.body.dispatchEvent(new KeyboardEvent(type, init));
          if (++next < moments.length) setTimeout(watch);
          else done();
        };
        watch();
      }),
    [key, whens, lateMs] as const,
  );
}

/**
 * Taps a key on some of the song's true times while it plays, from its start.
 * @returns when the song's beginning was heard, seconds of the audio clock
 */
export async function tapAlong(page: Page, key: string, times: readonly number[]): Promise<number> {
  const songs = async (): Promise<Started[]> => (await startedSounds(page)).filter((s) => s.length > 5);
  const before = (await songs()).length;
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await expect.poll(async () => (await songs()).length, { intervals: [50] }).toBeGreaterThan(before);
  const song = (await songs()).at(-1)!;
  await pressAlong(
    page,
    key,
    times.map((time) => song.when + time - song.offset),
  );
  await page.keyboard.press('Space');
  return song.when - song.offset;
}

/** Has the song's marks be detected. @returns the montage with them, as it was saved */
export async function detected(page: Page): Promise<Montage> {
  await page.getByRole('button', { name: 'Detect', exact: true }).click();
  await expect(page.getByTestId('accent-count')).toBeVisible({ timeout: 60_000 });
  return savedMontage(page);
}
