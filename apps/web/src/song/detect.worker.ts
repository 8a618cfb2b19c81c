import { detect, mixDown, type Detection } from '@bluster/core';

export type DetectMessage = { readonly part: number } | { readonly detection: Detection };

onmessage = (event: MessageEvent<{ channels: Float32Array[]; rate: number }>) => {
  const { channels, rate } = event.data;
  const tell = (message: DetectMessage): void => postMessage(message);
  let said = -1;
  const detection = detect({ samples: mixDown(channels), rate }, (part) => {
    if (part - said > 0.01) tell({ part: (said = part) });
  });
  tell({ detection });
};
