import { create } from 'zustand';
import { toast } from 'sonner';
import { ANALYSIS_RATE } from '@bluster/core';
import { useEditor } from '../project/editor.ts';
import type { DetectMessage } from './detect.worker.ts';
import DetectWorker from './detect.worker.ts?worker';

/** The search for beats, in its worker. */
interface DetectionState {
  /** 0 to 1 while it runs, else null */
  readonly part: number | null;
  /** a sentence when nothing steady was heard */
  readonly verdict: string | null;
  start: (assetId: string) => Promise<void>;
  cancel: () => void;
}

let worker: Worker | null = null;

export const useDetection = create<DetectionState>((set, get) => ({
  part: null,
  verdict: null,
  start: async (assetId) => {
    get().cancel();
    set({ part: 0, verdict: null });
    const own = new DetectWorker();
    worker = own;
    const still = (): boolean => worker === own;
    try {
      const data = await fetch(`/api/assets/${assetId}/sound`).then((r) =>
        r.ok ? r.arrayBuffer() : Promise.reject(new Error('the song is not ready yet')),
      );
      // The browser's own decoder brings the song to the analysis rate.
      const buffer = await new OfflineAudioContext(2, 1, ANALYSIS_RATE).decodeAudioData(data);
      if (!still()) return;
      const channels = Array.from({ length: buffer.numberOfChannels }, (_, c) => buffer.getChannelData(c).slice());
      own.onmessage = (event: MessageEvent<DetectMessage>) => {
        if (!still()) return;
        if ('part' in event.data) {
          set({ part: event.data.part });
          return;
        }
        const { detection } = event.data;
        own.terminate();
        worker = null;
        set({ part: null, verdict: detection.verdict });
        if (detection.beats.length > 0 && useEditor.getState().history.now.song?.assetId === assetId)
          useEditor.getState().run({ do: 'takeDetection', detection });
      };
      own.onerror = (event) => {
        if (!still()) return;
        get().cancel();
        toast.error(`The beats could not be looked for: ${event.message}. Try again, or tap them.`);
      };
      own.postMessage(
        { channels, rate: ANALYSIS_RATE },
        channels.map((c) => c.buffer),
      );
    } catch (error) {
      if (!still()) return;
      get().cancel();
      toast.error(`The beats could not be looked for: ${(error as Error).message}.`);
    }
  },
  cancel: () => {
    worker?.terminate();
    worker = null;
    set({ part: null });
  },
}));
