// From the core's own files: the whole of it takes longer to load than many a song to decode.
import { detectIn, type Detection } from '@bluster/core/music/detect';
import { OnsetMeter } from '@bluster/core/music/onset-strength';
import { ANALYSIS_RATE } from '@bluster/core/music/signal';
import { writeBeatText } from '@bluster/core/formats/beat-text';
import { hearSound } from '@bluster/server/media/sound';
import { decodeSong } from './song-file.ts';
import { InputError } from './usage.ts';

/** What `bluster beats` prints. */
export function printDetection(detection: Detection, as: { bars?: boolean; json?: boolean }): string {
  if (as.json) return `${JSON.stringify(detection, null, 2)}\n`;
  return writeBeatText((as.bars ? detection.beats.filter((b) => b.downbeat) : detection.beats).map((b) => b.time));
}

/** Finds a song's beats, hearing it while it is decoded. */
export async function findBeats(path: string): Promise<Detection> {
  const { signal, onsets } = await decodeSong(path, async () => {
    const meter = new OnsetMeter(ANALYSIS_RATE);
    await hearSound(path, (samples) => meter.push(samples));
    const heard = meter.finish();
    return { ...heard, seconds: heard.signal.samples.length / ANALYSIS_RATE };
  });
  const detection = detectIn(signal, onsets);
  if (detection.beats.length === 0) throw new InputError(detection.verdict ?? 'No beat was found in this song.');
  return detection;
}
