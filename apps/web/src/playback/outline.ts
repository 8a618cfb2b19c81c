import type { Peaks } from '@bluster/core';
import type { SoundStretch } from './peaks.worker.ts';
import PeaksWorker from './peaks.worker.ts?worker';

/** So much is copied at a time, that the page can be used meanwhile. */
const STRETCH_S = 10;

/** A sound's outline in bands, computed in a worker. */
export async function outline(buffer: AudioBuffer): Promise<Peaks> {
  const worker = new PeaksWorker();
  const { length, sampleRate: rate, numberOfChannels } = buffer;
  try {
    const result = new Promise<Peaks>((resolve, reject) => {
      worker.onmessage = (event: MessageEvent<Peaks>) => resolve(event.data);
      worker.onerror = (event) => reject(new Error(event.message));
    });
    for (let at = 0; at < length; at += STRETCH_S * rate) {
      const channels = Array.from({ length: numberOfChannels }, (_, c) => {
        const stretch = new Float32Array(Math.min(STRETCH_S * rate, length - at));
        buffer.copyFromChannel(stretch, c, at);
        return stretch;
      });
      const part: SoundStretch = { channels, at, length, rate };
      worker.postMessage(
        part,
        channels.map((c) => c.buffer),
      );
      await Promise.race([new Promise((next) => setTimeout(next)), result]);
    }
    return await result;
  } finally {
    worker.terminate();
  }
}
