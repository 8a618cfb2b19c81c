import { create } from 'zustand';
import type { Peaks } from '@bluster/core';
import { player } from './player.ts';
import type { SoundStretch } from './peaks.worker.ts';
import PeaksWorker from './peaks.worker.ts?worker';

/** The decoded song, shared by all views. */
interface SongSound {
  readonly assetId: string | null;
  readonly state: 'none' | 'loading' | 'ready' | 'failed';
  readonly problem: string | null;
  readonly buffer: AudioBuffer | null;
  readonly peaks: Peaks | null;
  load: (assetId: string) => Promise<void>;
  clear: () => void;
}

/** So much is copied at a time, that the page can be used meanwhile. */
const STRETCH_S = 10;

/** A sound's outline in bands, computed in a worker. */
export async function outline(buffer: AudioBuffer): Promise<Peaks> {
  const worker = new PeaksWorker();
  const { length, sampleRate: rate, numberOfChannels } = buffer;
  try {
    const result = new Promise<Peaks>((resolve, reject) => {
      worker.onmessage = (event: MessageEvent<Peaks>) => resolve(event.data);
      worker.onerror = (event) => reject(new Error(event.message));
    });
    for (let at = 0; at < length; at += STRETCH_S * rate) {
      const channels = Array.from({ length: numberOfChannels }, (_, c) => {
        const stretch = new Float32Array(Math.min(STRETCH_S * rate, length - at));
        buffer.copyFromChannel(stretch, c, at);
        return stretch;
      });
      const part: SoundStretch = { channels, at, length, rate };
      worker.postMessage(
        part,
        channels.map((c) => c.buffer),
      );
      await Promise.race([new Promise((next) => setTimeout(next)), result]);
    }
    return await result;
  } finally {
    worker.terminate();
  }
}

export const useSongSound = create<SongSound>((set, get) => ({
  assetId: null,
  state: 'none',
  problem: null,
  buffer: null,
  peaks: null,
  load: async (assetId) => {
    if (get().assetId === assetId && get().state !== 'failed') return;
    set({ assetId, state: 'loading', problem: null, buffer: null, peaks: null });
    const still = (): boolean => get().assetId === assetId;
    try {
      const response = await fetch(`/api/assets/${assetId}/sound`);
      if (!response.ok) throw new Error('The song is not ready yet.');
      const buffer = await new OfflineAudioContext(2, 1, 44100).decodeAudioData(await response.arrayBuffer());
      if (!still()) return;
      player.setSong(buffer);
      set({ buffer });
      const peaks = await outline(buffer);
      if (still()) set({ peaks, state: 'ready' });
    } catch (error) {
      if (still())
        set({
          state: 'failed',
          problem: `The song could not be loaded: ${(error as Error).message.replace(/\.$/, '')}. Reload the page to try again.`,
        });
    }
  },
  clear: () => {
    player.setSong(null);
    set({ assetId: null, state: 'none', problem: null, buffer: null, peaks: null });
  },
}));
