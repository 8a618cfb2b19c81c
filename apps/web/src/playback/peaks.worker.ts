import { mixDown, peaks } from '@bluster/core';

onmessage = (event: MessageEvent<{ channels: Float32Array[]; rate: number }>) => {
  const { channels, rate } = event.data;
  const result = peaks({ samples: mixDown(channels), rate });
  postMessage(result, { transfer: [result.all.buffer, result.low.buffer, result.mid.buffer, result.high.buffer] as ArrayBuffer[] });
};
