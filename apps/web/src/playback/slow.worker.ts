import { stretchTime } from '@bluster/core';
import { answerRequests } from '../workers/worker-requests.ts';

/** Sound slowed without a change of pitch: samples, one array a channel; the rate in Hz. */
export type SlowRequests = {
  slow: { ask: { readonly channels: Float32Array[]; readonly rate: number; readonly factor: number }; answer: Float32Array[] };
};

answerRequests<SlowRequests>({ slow: ({ channels, rate, factor }) => stretchTime(channels, rate, factor) });
