import {
  detectHeard,
  detectRange,
  listen,
  mixDown,
  onsetStrength,
  shorten,
  teach,
  type DetectedBeat,
  type Detection,
  type HeardSong,
  type Lesson,
  type Proposal,
  type SongMap,
  type Tap,
  type TempoHint,
} from '@bluster/core';
import { answerRequests } from '../workers/worker-requests.ts';

/** Onset strength in bands, for the loupe: one value a frame, 1 is strong. */
export interface OnsetCurves {
  readonly fps: number;
  readonly low: Float32Array;
  readonly mid: Float32Array;
  readonly high: Float32Array;
}

/** What the page asks of the worker that listens; the song is listened to first. */
export type ListeningRequests = {
  listen: { ask: { readonly channels: Float32Array[]; readonly rate: number }; answer: OnsetCurves };
  detect: { ask: null; answer: Detection };
  teach: { ask: { readonly taps: readonly Tap[] }; answer: Lesson };
  range: { ask: { readonly from: number; readonly to: number; readonly hint: TempoHint | undefined }; answer: readonly DetectedBeat[] };
  shorten: { ask: { readonly map: SongMap; readonly wished: number }; answer: readonly Proposal[] };
};

let heard: HeardSong | null = null;

/** A band's curve against its own strong onsets. */
function scaled(curve: Float32Array): Float32Array {
  const strong = curve.slice().sort()[Math.floor(curve.length * 0.985)] ?? 1;
  return curve.map((v) => Math.min(1, v / Math.max(1e-6, strong)));
}

function heardSong(): HeardSong {
  if (!heard) throw new Error('the song has not been listened to yet');
  return heard;
}

answerRequests<ListeningRequests>({
  listen: ({ channels, rate }, onPart) => {
    const signal = { samples: mixDown(channels), rate };
    const onsets = onsetStrength(signal, (part) => onPart(part * 0.8));
    heard = listen(signal, onsets);
    onPart(0.9);
    return { fps: onsets.fps, low: scaled(onsets.low), mid: scaled(onsets.mid), high: scaled(onsets.high) };
  },
  detect: (_, onPart) => detectHeard(heardSong(), onPart),
  teach: ({ taps }) => teach(heardSong(), taps),
  range: ({ from, to, hint }) => detectRange(heardSong(), from, to, hint),
  shorten: ({ map, wished }) => shorten(heardSong(), map, wished),
});
