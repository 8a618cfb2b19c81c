import { ROUTES } from '@bluster/wire/routes';
import { create } from 'zustand';
import { toast } from 'sonner';
import { ANALYSIS_RATE, Refusal, type Proposal, type Reading, type SongMap, type Tap, type TempoHint } from '@bluster/core';
import { useEditor } from '../document/editor.ts';
import { sayProblem } from '../interface/say-problem.ts';
import { CalledOff, WorkerRequests } from '../workers/worker-requests.ts';
import type { ListeningRequests, OnsetCurves } from './listening.worker.ts';
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
  /** the ways in which the song can be read, the likeliest first; none until it was detected on this page */
  readonly readings: readonly Reading[];
  /** the one whose beats click instead of the marks */
  readonly previewed: Reading | null;
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
  /** counts the song as another reading has it */
  take: (reading: Reading) => void;
  /** lets a reading's beats click instead of the marks; null ends that */
  preview: (reading: Reading | null) => void;
  cancel: () => void;
}

const worker = new WorkerRequests<ListeningRequests>(() => new ListeningWorker());
/** Stands for the song that is to be listened to; another one, or calling off, takes its place. */
let latest: object | null = null;

export const useListening = create<Listening>((set, get) => {
  const onPart = (part: number): void => set({ part });

  /** Makes sure that this song has been listened to. */
  const listenTo = async (assetId: string): Promise<void> => {
    if (worker.running && get().assetId === assetId && get().curves) return;
    worker.stop();
    set({ assetId, part: 0, at: 'Listening to the song', curves: null, readings: [], previewed: null });
    const wanted = {};
    latest = wanted;
    const data = await fetch(ROUTES.assetPart(assetId, 'sound')).then((r) =>
      r.ok ? r.arrayBuffer() : Promise.reject(new Refusal('The song is not ready yet. Try again in a moment.')),
    );
    // The browser's own decoder brings the song to the analysis rate.
    const buffer = await new OfflineAudioContext(2, 1, ANALYSIS_RATE).decodeAudioData(data);
    if (latest !== wanted) throw new CalledOff();
    const channels = Array.from({ length: buffer.numberOfChannels }, (_, c) => buffer.getChannelData(c).slice());
    const curves = await worker.ask('listen', { channels, rate: ANALYSIS_RATE }, { transfer: channels.map((c) => c.buffer), onPart });
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
      if (error instanceof CalledOff) return null;
      sayProblem(error, failed);
      // A worker that failed is gone, and what it had heard with it.
      if (!worker.running) set({ assetId: null, curves: null });
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
    readings: [],
    previewed: null,
    detect: async (assetId) => {
      set({ verdict: null, readings: [], previewed: null });
      const detection = await work(assetId, 'Finding the beats', 'The beats could not be looked for', () =>
        worker.ask('detect', null, { onPart }),
      );
      if (!detection) return;
      const { verdict, agreement, others } = detection;
      set({ verdict, readings: detection.beats.length > 0 ? [{ ...detection, chance: agreement }, ...others] : [] });
      if ((detection.beats.length > 0 || detection.accents.length > 0) && stillSong(assetId))
        useEditor.getState().run({ do: 'takeDetection', detection });
    },
    teach: async (assetId, taps) => {
      const lesson = await work(assetId, 'Learning from the taps', 'The taps could not teach', () => worker.ask('teach', { taps }));
      if (!lesson || !stillSong(assetId)) return false;
      const { length } = useEditor.getState().history.now.song!;
      set({ verdict: null });
      return useEditor.getState().run({ do: 'takeBeats', beats: lesson.beats, from: 0, to: length, metre: lesson.metre });
    },
    detectRange: async (assetId, from, to, hint) => {
      const beats = await work(assetId, 'Finding the beats', 'The beats could not be looked for', () =>
        worker.ask('range', { from, to, hint }),
      );
      if (!beats || !stillSong(assetId)) return;
      if (beats.length === 0) toast.error('No beat was found in this range. Give another tempo, or lay an even grid.');
      else useEditor.getState().run({ do: 'takeBeats', beats, from, to });
    },
    shorten: async (assetId, map, wished) =>
      (await work(assetId, 'Looking for joins', 'No way was found', () => worker.ask('shorten', { map, wished }))) ?? [],
    hear: async (assetId) => {
      await work(assetId, 'Listening to the song', 'The song could not be listened to', () => Promise.resolve());
    },
    take: (reading) => {
      set({ previewed: null });
      useEditor.getState().run({ do: 'takeReading', reading });
    },
    preview: (previewed) => set({ previewed }),
    cancel: () => {
      latest = null;
      worker.stop();
      set({ part: null, assetId: null, curves: null });
    },
  };
});
