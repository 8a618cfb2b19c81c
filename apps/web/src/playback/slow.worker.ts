import { stretchTime } from '@bluster/core';

onmessage = (event: MessageEvent<{ id: number; channels: Float32Array[]; rate: number; factor: number }>) => {
  const { id, channels, rate, factor } = event.data;
  const slow = stretchTime(channels, rate, factor);
  postMessage({ id, channels: slow });
};
