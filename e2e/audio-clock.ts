import type { Page } from '@playwright/test';

/** One sound handed to the audio clock. */
export interface Started {
  /** context seconds at which it starts */
  readonly when: number;
  /** where in its buffer, seconds */
  readonly offset: number;
  /** length of the buffer, seconds */
  readonly length: number;
}

/** Has the page write down what it hands to the audio clock, and lets tests ask what that clock said was heard when. */
export async function watchAudioClock(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const started: { when: number; offset: number; length: number }[] = [];
    Object.assign(globalThis, { startedSounds: started });
    const { start } = AudioBufferSourceNode.prototype as unknown as {
      start: (this: AudioBufferSourceNode, when: number, offset: number, length?: number) => void;
    };
    AudioBufferSourceNode.prototype.start = function (when = 0, offset = 0, length?: number) {
      started.push({ when, offset, length: this.buffer?.duration ?? 0 });
      Object.assign(globalThis, { lastContext: this.context });
      if (length === undefined) start.call(this, when, offset);
      else start.call(this, when, offset, length);
    };
  });
}

export const startedSounds = (page: Page): Promise<Started[]> =>
  page.evaluate(() => (globalThis as unknown as { startedSounds: Started[] }).startedSounds);
