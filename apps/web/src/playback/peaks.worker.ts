import { mixDown, peaks } from '@bluster/core';

/** A stretch of a sound, one array a channel, and where in it that lies; samples. */
export interface SoundStretch {
  readonly channels: Float32Array[];
  readonly at: number;
  readonly length: number;
  /** Hz */
  readonly rate: number;
}

let samples = new Float32Array(0);

// The stretches come in order; the last one has the outline made.
onmessage = ({ data: { channels, at, length, rate } }: MessageEvent<SoundStretch>) => {
  if (at === 0) samples = new Float32Array(length);
  const mono = mixDown(channels);
  samples.set(mono, at);
  if (at + mono.length < length) return;
  const result = peaks({ samples, rate });
  postMessage(result, { transfer: [result.all.buffer, result.low.buffer, result.mid.buffer, result.high.buffer] as ArrayBuffer[] });
};
