/** One channel of sound. Samples between -1 and 1, rate in Hz. */
export interface Signal {
  readonly samples: Float32Array;
  readonly rate: number;
}

/** The rate at which songs are played and mixed, Hz. */
export const SONG_RATE = 44100;

/** The rate at which songs are analysed, Hz: beats live below 11 kHz, and half the samples take half the time. */
export const ANALYSIS_RATE = 22050;

/** Length in seconds. */
export function signalLength(signal: Signal): number {
  return signal.samples.length / signal.rate;
}

/**
 * The mean of several channels of equal length.
 * @returns the very same array where there is one channel, an empty one where there is none
 */
export function mixDown(channels: readonly Float32Array[]): Float32Array {
  const first = channels[0];
  if (!first) return new Float32Array(0);
  if (channels.length === 1) return first;
  const mono = new Float32Array(first.length);
  for (const channel of channels) for (let i = 0; i < mono.length; i++) mono[i]! += channel[i]! / channels.length;
  return mono;
}
