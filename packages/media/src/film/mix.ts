import { open } from 'node:fs/promises';
import {
  clipLevel,
  isSongShaped,
  LIMIT_BLOCK,
  limitingGains,
  LoudnessMeter,
  type Loudness,
  pieceLevel,
  playedPieces,
  SONG_RATE,
  songLevel,
  stretchTime,
  turnDown,
  WAV_CHANNELS,
  wavHeader,
  wavSamples,
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
  if (!isSongShaped(plan)) return;
  for (let n = 0; n < out.length / WAV_CHANNELS; n++) {
    const level = songLevel(plan, (start + n) / SONG_RATE);
    for (let c = 0; c < WAV_CHANNELS; c++) out[n * WAV_CHANNELS + c]! *= level;
  }
}

/** What of a montage is heard, and how. */
export interface MixOrder {
  readonly plan: MixPlan;
  /** where it begins, montage seconds; at the start where left out */
  readonly from?: number;
  /** how long it is, seconds; silence after the song's end */
  readonly seconds: number;
  readonly soundPath: SoundPath;
  /** what its loudness is brought to, LUFS; null for as it is */
  readonly target?: number | null;
  readonly signal?: AbortSignal | undefined;
}

/** What is heard of a montage: where the song plays alone and at its own level, its samples come as they are. */
async function* mixed({ plan, from = 0, seconds, soundPath, signal }: MixOrder, gain = 1): AsyncGenerator<Float32Array> {
  const first = Math.round(from * SONG_RATE);
  const total = first + Math.round(seconds * SONG_RATE);
  const opened = new Map<string, WavFile>();
  const wavOf = async (assetId: string): Promise<WavFile> => {
    const wav = opened.get(assetId) ?? (await WavFile.open(soundPath(assetId)));
    opened.set(assetId, wav);
    return wav;
  };
  const made = new Map<ClipSound, Float32Array>();
  try {
    for (let start = first; start < total; start += CHUNK) {
      signal?.throwIfAborted();
      const out = new Float32Array(Math.min(CHUNK, total - start) * WAV_CHANNELS);
      if (plan.song) await placeSong(out, start, plan, await wavOf(plan.song.assetId));
      for (const clip of plan.clips) await addClip(out, start, clip, await wavOf(clip.assetId), made);
      if (gain !== 1) for (let i = 0; i < out.length; i++) out[i]! *= gain;
      yield out;
    }
  } finally {
    for (const wav of opened.values()) await wav.close();
  }
}

/** What was measured of a mix. */
export interface MeasuredMix {
  readonly loudness: Loudness;
  /** how far it is turned down where samples would lie beyond full scale (see limitingGains); null for nowhere */
  readonly gains: Float32Array | null;
}

/** The largest sample of each block. */
function peaksOf(samples: Float32Array, peaks: number[], rest: { from: number; peak: number }): void {
  for (let n = 0; n < samples.length / WAV_CHANNELS; n++) {
    for (let c = 0; c < WAV_CHANNELS; c++) {
      const sample = samples[n * WAV_CHANNELS + c]!;
      const loud = sample < 0 ? -sample : sample;
      if (loud > rest.peak) rest.peak = loud;
    }
    if (++rest.from < LIMIT_BLOCK) continue;
    peaks.push(rest.peak);
    rest.from = 0;
    rest.peak = 0;
  }
}

/** How a mix is turned up or down as a whole, and where its loudest places are turned down. */
interface Levelling {
  readonly gain: number;
  readonly gains: Float32Array | null;
}

/** Where a mix is brought to a loudness, its peaks stay this far below full scale: codecs overshoot. */
const CEILING = 10 ** (-1 / 20);
/** A mix is turned up by no more than this, dB: what is nearly silent is meant to be. */
const MOST_GAIN_DB = 20;

async function levelling(order: MixOrder): Promise<Levelling> {
  const { plan, target = null } = order;
  let gain = 1;
  if (target !== null) {
    const meter = new LoudnessMeter(SONG_RATE);
    for await (const samples of mixed(order)) meter.push(samples);
    const { integrated } = meter.result();
    if (integrated !== null) gain = 10 ** (Math.min(MOST_GAIN_DB, target - integrated) / 20);
  }
  // A song by itself lies within full scale, unless it is turned up.
  if (target === null && plan.clips.length === 0 && !plan.song?.line.some((p) => p.level > 1)) return { gain, gains: null };
  const peaks: number[] = [];
  const rest = { from: 0, peak: 0 };
  for await (const samples of mixed(order, gain)) peaksOf(samples, peaks, rest);
  if (rest.from > 0) peaks.push(rest.peak);
  return { gain, gains: limitingGains(Float32Array.from(peaks), target === null ? 1 : CEILING) };
}

/** The mix with what would lie beyond full scale turned down. */
async function* limited(order: MixOrder, { gain, gains }: Levelling): AsyncGenerator<Float32Array> {
  let start = 0;
  for await (const samples of mixed(order, gain)) {
    if (gains) turnDown(samples, start, gains, WAV_CHANNELS);
    start += samples.length / WAV_CHANNELS;
    yield samples;
  }
}

/** Measures what is heard of a montage, without writing it. */
export async function measureMix(order: MixOrder): Promise<MeasuredMix> {
  const levels = await levelling(order);
  const meter = new LoudnessMeter(SONG_RATE);
  for await (const samples of limited(order, levels)) meter.push(samples);
  return { loudness: meter.result(), gains: levels.gains };
}

/**
 * Writes the sound of a montage as WAV, 16 bit stereo at 44,100 Hz, a second at a time. Where the song plays alone and
 * unfaded, its samples come out as they went in; nothing is clipped: before what would be, all of it is turned down.
 */
export async function renderMix(order: MixOrder, to: string): Promise<MeasuredMix> {
  const levels = await levelling(order);
  const meter = new LoudnessMeter(SONG_RATE);
  const file = await open(to, 'w');
  try {
    await file.write(wavHeader(Math.round(order.seconds * SONG_RATE)));
    for await (const samples of limited(order, levels)) {
      meter.push(samples);
      await file.write(wavSamples(samples));
    }
  } finally {
    await file.close();
  }
  return { loudness: meter.result(), gains: levels.gains };
}
