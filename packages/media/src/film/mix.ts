import { open } from 'node:fs/promises';
import {
  clipLevel,
  pieceLevel,
  playedPieces,
  SONG_RATE,
  songLevel,
  stretchTime,
  WAV_CHANNELS,
  wavHeader,
  type ClipSound,
  type MixPlan,
} from '@bluster/core';
import { WavFile } from '../sound/sound.ts';

/** Finds the decoded sound (as soundToWav writes it) of an asset. */
export type SoundPath = (assetId: string) => string;

const CHUNK = SONG_RATE;

/** Samples around a stretch that is stretched, so that overlap and add has something to go on with. */
const STRETCH_ROOM = Math.round(0.05 * SONG_RATE);

/** All samples of a clip's stretch, interleaved, made longer or shorter at their own pitch. */
async function stretchedSamples(clip: ClipSound, wav: WavFile): Promise<Float32Array> {
  const count = Math.round(clip.length * SONG_RATE);
  const from = Math.round(clip.from * SONG_RATE);
  const source = await wav.read(from, Math.ceil(count * clip.speed) + STRETCH_ROOM);
  const channels = Array.from({ length: WAV_CHANNELS }, (_, c) =>
    Float32Array.from({ length: source.length / WAV_CHANNELS }, (__, i) => source[i * WAV_CHANNELS + c]!),
  );
  const stretched = stretchTime(channels, SONG_RATE, 1 / clip.speed);
  const out = new Float32Array(count * WAV_CHANNELS);
  for (let c = 0; c < WAV_CHANNELS; c++) for (let i = 0; i < count; i++) out[i * WAV_CHANNELS + c] = stretched[c]![i] ?? 0;
  return out;
}

/** Adds what a clip is heard to do between two samples of the film. Stretched sounds are kept in `made` while they go on. */
async function addClip(out: Float32Array, start: number, clip: ClipSound, wav: WavFile, made: Map<ClipSound, Float32Array>): Promise<void> {
  const first = Math.round(clip.at * SONG_RATE);
  const last = first + Math.round(clip.length * SONG_RATE);
  const from = Math.max(first, start);
  const to = Math.min(last, start + out.length / WAV_CHANNELS);
  if (to <= from) return;
  const whole = clip.speed === 1 ? null : (made.get(clip) ?? (await stretchedSamples(clip, wav)));
  if (whole && last > to) made.set(clip, whole);
  else made.delete(clip);
  const samples =
    whole?.subarray((from - first) * WAV_CHANNELS) ?? (await wav.read(Math.round(clip.from * SONG_RATE) + from - first, to - from));
  for (let n = from; n < to; n++) {
    const level = clipLevel(clip, (n - first) / SONG_RATE);
    for (let c = 0; c < WAV_CHANNELS; c++) out[(n - start) * WAV_CHANNELS + c]! += level * samples[(n - from) * WAV_CHANNELS + c]!;
  }
}

/** Puts the song's pieces between two samples of the film into place: as they are, but for the joins between them. */
async function placeSong(out: Float32Array, start: number, plan: MixPlan, wav: WavFile): Promise<void> {
  for (const piece of playedPieces(plan.song?.pieces ?? [])) {
    const first = Math.round(piece.at * SONG_RATE);
    const last = Math.round((piece.at + piece.length) * SONG_RATE);
    const from = Math.max(first, start);
    const to = Math.min(last, start + out.length / WAV_CHANNELS);
    if (to <= from) continue;
    const samples = await wav.read(Math.round(piece.from * SONG_RATE) + from - first, to - from);
    const level = (n: number): number => pieceLevel(piece, (n - first) / SONG_RATE);
    const fades = level(from) < 1 || level(to - 1) < 1 || piece.fadeIn + piece.fadeOut > 0;
    for (let n = from; n < to; n++) {
      const gain = fades ? level(n) : 1;
      for (let c = 0; c < WAV_CHANNELS; c++) out[(n - start) * WAV_CHANNELS + c]! += gain * samples[(n - from) * WAV_CHANNELS + c]!;
    }
  }
  const faded = plan.song && (plan.song.fadeIn > 0 || plan.song.fadeOut > 0);
  if (!faded) return;
  for (let i = 0; i < out.length; i++) out[i]! *= songLevel(plan, (start + Math.floor(i / WAV_CHANNELS)) / SONG_RATE);
}

/**
 * Writes the sound of a montage as WAV, 16 bit stereo at 44,100 Hz, a second at a time. Where the song plays alone and
 * unfaded, its samples come out as they went in.
 * @param seconds length of the film; silence after the song's end
 */
export async function renderMix(plan: MixPlan, seconds: number, soundPath: SoundPath, to: string, signal?: AbortSignal): Promise<void> {
  const total = Math.round(seconds * SONG_RATE);
  const opened = new Map<string, WavFile>();
  const wavOf = async (assetId: string): Promise<WavFile> => {
    const wav = opened.get(assetId) ?? (await WavFile.open(soundPath(assetId)));
    opened.set(assetId, wav);
    return wav;
  };
  const made = new Map<ClipSound, Float32Array>();
  const file = await open(to, 'w');
  try {
    await file.write(wavHeader(total));
    for (let start = 0; start < total; start += CHUNK) {
      signal?.throwIfAborted();
      const out = new Float32Array(Math.min(CHUNK, total - start) * WAV_CHANNELS);
      if (plan.song) await placeSong(out, start, plan, await wavOf(plan.song.assetId));
      for (const clip of plan.clips) await addClip(out, start, clip, await wavOf(clip.assetId), made);
      const bytes = Buffer.alloc(out.length * 2);
      for (let i = 0; i < out.length; i++) bytes.writeInt16LE(Math.max(-32768, Math.min(32767, Math.round(out[i]! * 32768))), i * 2);
      await file.write(bytes);
    }
  } finally {
    await file.close();
    for (const wav of opened.values()) await wav.close();
  }
}
