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

/** What the page asks; `id` comes back with the answer. */
export type Ask = { readonly id: number } & (
  | { readonly do: 'listen'; readonly channels: Float32Array[]; readonly rate: number }
  | { readonly do: 'detect' }
  | { readonly do: 'teach'; readonly taps: readonly Tap[] }
  | { readonly do: 'range'; readonly from: number; readonly to: number; readonly hint?: TempoHint | undefined }
  | { readonly do: 'shorten'; readonly map: SongMap; readonly wished: number }
);

/** Onset strength in bands, for the loupe: one value a frame, 1 is strong. */
export interface OnsetCurves {
  readonly fps: number;
  readonly low: Float32Array;
  readonly mid: Float32Array;
  readonly high: Float32Array;
}

export interface Answers {
  listen: OnsetCurves;
  detect: Detection;
  teach: Lesson;
  range: readonly DetectedBeat[];
  shorten: readonly Proposal[];
}
export type Answer =
  | { readonly id: number; readonly part: number }
  | { readonly id: number; readonly answer: Answers[keyof Answers] }
  | { readonly id: number; readonly problem: string };

let heard: HeardSong | null = null;

/** A band's curve against its own strong onsets. */
function scaled(curve: Float32Array): Float32Array {
  const strong = curve.slice().sort()[Math.floor(curve.length * 0.985)] ?? 1;
  return curve.map((v) => Math.min(1, v / Math.max(1e-6, strong)));
}

function answerTo(ask: Ask, onProgress: (part: number) => void): Answers[keyof Answers] {
  if (ask.do === 'listen') {
    const signal = { samples: mixDown(ask.channels), rate: ask.rate };
    const onsets = onsetStrength(signal, (part) => onProgress(part * 0.8));
    heard = listen(signal, onsets);
    onProgress(0.9);
    return { fps: onsets.fps, low: scaled(onsets.low), mid: scaled(onsets.mid), high: scaled(onsets.high) };
  }
  if (!heard) throw new Error('the song has not been listened to yet');
  switch (ask.do) {
    case 'detect':
      return detectHeard(heard, onProgress);
    case 'teach':
      return teach(heard, ask.taps);
    case 'range':
      return detectRange(heard, ask.from, ask.to, ask.hint);
    case 'shorten':
      return shorten(heard, ask.map, ask.wished);
  }
}

onmessage = (event: MessageEvent<Ask>) => {
  const ask = event.data;
  const tell = (message: Answer): void => postMessage(message);
  let said = -1;
  try {
    const answer = answerTo(ask, (part) => {
      if (part - said > 0.01) tell({ id: ask.id, part: (said = part) });
    });
    tell({ id: ask.id, answer });
  } catch (error) {
    tell({ id: ask.id, problem: (error as Error).message });
  }
};
