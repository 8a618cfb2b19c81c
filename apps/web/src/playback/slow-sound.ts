import type { SongPiece } from '@bluster/core';
import { WorkerRequests } from '../workers/worker-requests.ts';
import type { SlowRequests } from './slow.worker.ts';
import SlowWorker from './slow.worker.ts?worker';

/** Parts of slowed sound run over into one another by this, seconds of the song. */
export const SLOW_OVERLAP_S = 0.02;
/** The first part is short, so that it can be heard soon. */
const FIRST_S = 2;
const PART_S = 6;

/** A stretch that is slowed at once: montage time, song time and length, seconds. */
interface SlowPart {
  readonly at: number;
  readonly song: number;
  readonly length: number;
}

/** Takes a stretch of the arranged song apart into parts, none of which goes over a join. */
export function slowParts(pieces: readonly SongPiece[], from: number, to: number): SlowPart[] {
  const parts: SlowPart[] = [];
  let before = 0;
  for (const piece of pieces) {
    const end = Math.min(to, before + piece.to - piece.from);
    for (let at = Math.max(from, before); at < end - 1e-6;) {
      const length = Math.min(parts.length === 0 ? FIRST_S : PART_S, end - at);
      parts.push({ at, song: piece.from + at - before, length });
      at += length;
    }
    before += piece.to - piece.from;
  }
  return parts;
}

const worker = new WorkerRequests<SlowRequests>(() => new SlowWorker());

/** A stretch of a sound, slowed in a worker. Times in seconds of the sound. */
export function slowed(buffer: AudioBuffer, from: number, length: number, factor: number): Promise<Float32Array[]> {
  const first = Math.round(from * buffer.sampleRate);
  const last = Math.min(buffer.length, first + Math.round(length * buffer.sampleRate));
  const channels = Array.from({ length: buffer.numberOfChannels }, (_, c) => buffer.getChannelData(c).slice(first, last));
  return worker.ask('slow', { channels, rate: buffer.sampleRate, factor }, { transfer: channels.map((c) => c.buffer) });
}
