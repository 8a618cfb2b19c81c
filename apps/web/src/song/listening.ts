import { create } from 'zustand';
import { toast } from 'sonner';
import { ANALYSIS_RATE, type Proposal, type SongMap, type Tap, type TempoHint } from '@bluster/core';
import { useEditor } from '../project/editor.ts';
import type { Answer, Answers, Ask, OnsetCurves } from './listening.worker.ts';
import ListeningWorker from './listening.worker.ts?worker';

/** The worker that listens to the song, and what it is doing. */
interface Listening {
  /** the song that has been listened to */
  readonly assetId: string | null;
  /** 0 to 1 while it works, else null; what it is at, in words */
  readonly part: number | null;
  readonly at: string;
  /** a sentence when nothing steady was heard */
  readonly verdict: string | null;
  readonly curves: OnsetCurves | null;
  /** finds beats, bars, sections, drops and accents, and takes them */
  detect: (assetId: string) => Promise<void>;
  /** lets taps choose tempo level, phase and bars; true when the beats were taken */
  teach: (assetId: string, taps: readonly Tap[]) => Promise<boolean>;
  /** finds the beats of a range anew */
  detectRange: (assetId: string, from: number, to: number, hint?: TempoHint) => Promise<void>;
  /** ways to shorten the song */
  shorten: (assetId: string, map: SongMap, wished: number) => Promise<readonly Proposal[]>;
  /** listens, so that the loupe can show onsets */
  hear: (assetId: string) => Promise<void>;
  cancel: () => void;
}

/** Raised when the work was cancelled: nothing has to be said about it. */
class Cancelled extends Error {}

type Question = Ask extends infer A ? (A extends Ask ? Omit<A, 'id'> : never) : never;

let worker: Worker | null = null;
let nextId = 0;
const waiting = new Map<number, { resolve: (answer: Answers[keyof Answers]) => void; reject: (error: Error) => void }>();

function stop(): void {
  worker?.terminate();
  worker = null;
  for (const { reject } of waiting.values()) reject(new Cancelled());
  waiting.clear();
}

export const useListening = create<Listening>((set, get) => {
  const start = (): Worker => {
    const own = new ListeningWorker();
    own.onmessage = (event: MessageEvent<Answer>) => {
      const { data } = event;
      const asked = waiting.get(data.id);
      if (!asked) return;
      if ('part' in data) {
        set({ part: data.part });
        return;
      }
      waiting.delete(data.id);
      if ('problem' in data) asked.reject(new Error(data.problem));
      else asked.resolve(data.answer);
    };
    own.onerror = (event) => {
      const problem = new Error(event.message);
      const asked = [...waiting.values()];
      waiting.clear();
      stop();
      set({ assetId: null, part: null });
      for (const { reject } of asked) reject(problem);
    };
    return own;
  };
  const ask = <N extends keyof Answers>(question: Question & { do: N }, transfer: Transferable[] = []): Promise<Answers[N]> =>
    new Promise((resolve, reject) => {
      const id = nextId++;
      waiting.set(id, { resolve: resolve as never, reject });
      worker!.postMessage({ ...question, id }, transfer);
    });

  /** Makes sure that this song has been listened to. */
  const listenTo = async (assetId: string): Promise<void> => {
    if (worker && get().assetId === assetId && get().curves) return;
    stop();
    set({ assetId, part: 0, at: 'Listening to the song', curves: null });
    worker = start();
    const own = worker;
    const data = await fetch(`/api/assets/${assetId}/sound`).then((r) =>
      r.ok ? r.arrayBuffer() : Promise.reject(new Error('the song is not ready yet')),
    );
    // The browser's own decoder brings the song to the analysis rate.
    const buffer = await new OfflineAudioContext(2, 1, ANALYSIS_RATE).decodeAudioData(data);
    if (worker !== own) throw new Cancelled();
    const channels = Array.from({ length: buffer.numberOfChannels }, (_, c) => buffer.getChannelData(c).slice());
    const curves = await ask(
      { do: 'listen', channels, rate: ANALYSIS_RATE },
      channels.map((c) => c.buffer),
    );
    set({ curves });
  };

  /** Runs one piece of work with its progress, and says in a sentence what went wrong. */
  const work = async <T>(assetId: string, at: string, failed: string, run: () => Promise<T>): Promise<T | null> => {
    try {
      if (get().part !== null) get().cancel();
      await listenTo(assetId);
      set({ part: 0.9, at });
      return await run();
    } catch (error) {
      if (!(error instanceof Cancelled)) toast.error(`${failed}: ${(error as Error).message}`);
      return null;
    } finally {
      set({ part: null });
    }
  };
  const stillSong = (assetId: string): boolean => useEditor.getState().history.now.song?.assetId === assetId;

  return {
    assetId: null,
    part: null,
    at: '',
    verdict: null,
    curves: null,
    detect: async (assetId) => {
      set({ verdict: null });
      const detection = await work(assetId, 'Finding the beats', 'The beats could not be looked for', () => ask({ do: 'detect' }));
      if (!detection) return;
      set({ verdict: detection.verdict });
      if ((detection.beats.length > 0 || detection.accents.length > 0) && stillSong(assetId))
        useEditor.getState().run({ do: 'takeDetection', detection });
    },
    teach: async (assetId, taps) => {
      const lesson = await work(assetId, 'Learning from the taps', 'The taps could not teach', () => ask({ do: 'teach', taps }));
      if (!lesson || !stillSong(assetId)) return false;
      const { length } = useEditor.getState().history.now.song!;
      set({ verdict: null });
      return useEditor.getState().run({ do: 'takeBeats', beats: lesson.beats, from: 0, to: length, metre: lesson.metre });
    },
    detectRange: async (assetId, from, to, hint) => {
      const beats = await work(assetId, 'Finding the beats', 'The beats could not be looked for', () =>
        ask({ do: 'range', from, to, hint }),
      );
      if (!beats || !stillSong(assetId)) return;
      if (beats.length === 0) toast.error('No beat was found in this range. Give another tempo, or lay an even grid.');
      else useEditor.getState().run({ do: 'takeBeats', beats, from, to });
    },
    shorten: async (assetId, map, wished) =>
      (await work(assetId, 'Looking for joins', 'No way was found', () => ask({ do: 'shorten', map, wished }))) ?? [],
    hear: async (assetId) => {
      await work(assetId, 'Listening to the song', 'The song could not be listened to', () => Promise.resolve());
    },
    cancel: () => {
      stop();
      set({ part: null, assetId: null, curves: null });
    },
  };
});
