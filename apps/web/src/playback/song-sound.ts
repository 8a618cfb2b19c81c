import { ROUTES } from '@bluster/wire/routes';
import { create } from 'zustand';
import type { Peaks } from '@bluster/core';
import { player } from './player.ts';
import type { FromSong } from './song.worker.ts';
import SongWorker from './song.worker.ts?worker';

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

/**
 * Fetches a song, read in a worker: its sound, filled in as it comes, and then its outline.
 * @param onSound is given the sound when all of it is there
 * @throws with what went wrong
 */
function receiveSong(assetId: string, signal: AbortSignal, onSound: (buffer: AudioBuffer) => void): Promise<Peaks> {
  const worker = new SongWorker();
  const result = new Promise<Peaks>((resolve, reject) => {
    let buffer: AudioBuffer | null = null;
    worker.onmessage = ({ data }: MessageEvent<FromSong>) => {
      if (data.say === 'begins') buffer = new AudioBuffer({ length: Math.max(1, data.length), numberOfChannels: 2, sampleRate: data.rate });
      else if (data.say === 'goes on' && buffer) {
        data.channels.forEach((channel, c) => buffer!.copyToChannel(channel, c, data.at));
        if (data.at + data.channels[0]!.length === buffer.length) onSound(buffer);
      } else if (data.say === 'outline') resolve(data.peaks);
      else if (data.say === 'problem') reject(new Error(data.sentence));
    };
    worker.onerror = (event) => reject(new Error(event.message));
    signal.addEventListener('abort', () => reject(signal.reason as Error));
  });
  worker.postMessage(ROUTES.assetPart(assetId, 'sound'));
  return result.finally(() => worker.terminate());
}

let loading = new AbortController();

export const useSongSound = create<SongSound>((set, get) => ({
  assetId: null,
  state: 'none',
  problem: null,
  buffer: null,
  peaks: null,
  load: async (assetId) => {
    if (get().assetId === assetId && get().state !== 'failed') return;
    set({ assetId, state: 'loading', problem: null, buffer: null, peaks: null });
    loading.abort();
    const { signal } = (loading = new AbortController());
    try {
      const peaks = await receiveSong(assetId, signal, (buffer) => {
        player.setSong(buffer);
        set({ buffer });
      });
      set({ peaks, state: 'ready' });
    } catch (error) {
      if (!signal.aborted)
        set({
          state: 'failed',
          problem: `The song could not be loaded: ${(error as Error).message.replace(/\.$/, '')}. Reload the page to try again.`,
        });
    }
  },
  clear: () => {
    loading.abort();
    player.setSong(null);
    set({ assetId: null, state: 'none', problem: null, buffer: null, peaks: null });
  },
}));
