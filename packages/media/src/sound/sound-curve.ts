import { SONG_RATE } from '@bluster/core/music/signal';
import { WavFile } from './sound.ts';

/** Values a second of a sound curve. */
export const CURVE_RATE = 50;

/** Loudness of a sound over time: the root mean square of each fiftieth of a second, 0 to 1. */
export async function soundCurve(wav: string): Promise<number[]> {
  const file = await WavFile.open(wav);
  try {
    const block = SONG_RATE / CURVE_RATE;
    const curve: number[] = [];
    // A second at a time: whoever asks the server for something meanwhile waits for no more than that.
    const chunk = block * CURVE_RATE;
    for (let at = 0; at < file.length; at += chunk) {
      const samples = await file.read(at, Math.min(chunk, file.length - at));
      for (let i = 0; i < samples.length; i += block * 2) {
        let sum = 0;
        const end = Math.min(samples.length, i + block * 2);
        for (let k = i; k < end; k++) sum += samples[k]! ** 2;
        curve.push(Math.round(Math.sqrt(sum / (end - i)) * 1e4) / 1e4);
      }
    }
    return curve;
  } finally {
    await file.close();
  }
}
