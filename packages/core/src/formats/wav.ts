import { SONG_RATE } from '../music/signal.ts';

// Sound inside Bluster, of songs and of clips: WAV of 16 bit in two channels, with the shortest header there is (IBM and
// Microsoft, "Multimedia Programming Interface and Data Specifications 1.0", 1991).
export const WAV_HEADER_BYTES = 44;
export const WAV_CHANNELS = 2;
export const WAV_SAMPLE_BYTES = 2;
/** A sample of 1.0. */
export const WAV_FULL_SCALE = 32768;

/**
 * The header of such a file.
 * @param samples a channel
 * @param rate Hz
 * @returns 44 bytes: PCM, 16 bit, stereo
 */
export function wavHeader(samples: number, rate = SONG_RATE): Uint8Array<ArrayBuffer> {
  const head = new Uint8Array(WAV_HEADER_BYTES);
  const view = new DataView(head.buffer);
  const write = (at: number, text: string): void =>
    head.set(
      Uint8Array.from(text, (c) => c.charCodeAt(0)),
      at,
    );
  const frame = WAV_CHANNELS * WAV_SAMPLE_BYTES;
  write(0, 'RIFF');
  view.setUint32(4, WAV_HEADER_BYTES - 8 + samples * frame, true);
  write(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, WAV_CHANNELS, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * frame, true);
  view.setUint16(32, frame, true);
  view.setUint16(34, 8 * WAV_SAMPLE_BYTES, true);
  write(36, 'data');
  view.setUint32(40, samples * frame, true);
  return head;
}

/**
 * Samples a channel and their rate (Hz), from the header of such a file; null where it is another one, or cut off.
 * @param head the first 44 bytes or more
 */
export function readWavHeader(head: Uint8Array): { readonly length: number; readonly rate: number } | null {
  if (head.length < WAV_HEADER_BYTES) return null;
  const view = new DataView(head.buffer, head.byteOffset, WAV_HEADER_BYTES);
  if (view.getUint16(22, true) !== WAV_CHANNELS || view.getUint16(34, true) !== 8 * WAV_SAMPLE_BYTES) return null;
  return { length: Math.floor(view.getUint32(40, true) / (WAV_CHANNELS * WAV_SAMPLE_BYTES)), rate: view.getUint32(24, true) };
}

/** Samples as they lie in a WAV file; those beyond full scale at its ends. @param samples 1 is full scale */
export function wavSamples(samples: Float32Array): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(samples.length * WAV_SAMPLE_BYTES);
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < samples.length; i++) {
    const value = samples[i]! * WAV_FULL_SCALE;
    view.setInt16(
      i * WAV_SAMPLE_BYTES,
      value > WAV_FULL_SCALE - 1 ? WAV_FULL_SCALE - 1 : value < -WAV_FULL_SCALE ? -WAV_FULL_SCALE : Math.round(value),
      true,
    );
  }
  return bytes;
}
