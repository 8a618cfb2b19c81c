import type { Peaks } from '@bluster/core';
import { outline } from '../playback/outline.ts';

/** What a song that is still on its way to the server looks like. */
export interface LocalOutline {
  readonly peaks: Peaks;
  /** seconds, as the browser decodes it; the server's count is the one that stays */
  readonly length: number;
}

/** Decodes a file of this computer for a first look, or null where the browser cannot. */
export async function outlineOfFile(file: File): Promise<LocalOutline | null> {
  try {
    const buffer = await new OfflineAudioContext(2, 1, 44100).decodeAudioData(await file.arrayBuffer());
    return { peaks: await outline(buffer), length: buffer.duration };
  } catch {
    return null; // the server knows more formats, and says what is wrong with a file that is none
  }
}
