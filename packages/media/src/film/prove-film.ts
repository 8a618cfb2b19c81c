import {
  findCuts,
  frameTime,
  playedPieces,
  PRINT_BYTES,
  PRINT_SIDE,
  proofOf,
  SONG_RATE,
  soundPlace,
  syncReport,
  toSongTime,
  WAV_CHANNELS,
  type AskedFilm,
  type Proof,
  type ProvenSound,
} from '@bluster/core';
import { HOSTILE_INPUT, run } from '../program/run.ts';
import { WavFile } from '../sound/sound.ts';
import type { SoundPath } from './mix.ts';
import { shownTimes } from './shown-times.ts';

/** What a finished film is held against. */
export interface ProofOrder {
  readonly asked: AskedFilm;
  /** of each frame as it was to be */
  readonly prints: Uint8Array;
  /** when its frames are shown, where that was read from it already; see shownTimes */
  readonly times?: readonly number[];
  readonly soundPath: SoundPath;
  readonly signal?: AbortSignal | undefined;
  /** told how many frames were read back */
  readonly onFrame?: (done: number, total: number) => void;
}

/** The sound is looked at in so many places, fewer where they would overlap, for so long each, so far to both sides; seconds. */
const PLACES = 10;
const LISTENED_S = 0.5;
const SOUND_REACH_S = 0.25;
/** Less alike than this, another sound covers the song there. */
const LEAST_LIKENESS = 0.3;
/** Reading back takes no longer than this a frame, ms; else something hangs. */
const LONGEST_FRAME_MS = 1000;

/** The prints of a film's frames as they are decoded, one after the other, whatever their times. */
async function readPrints(film: string, expected: number, { signal, onFrame }: ProofOrder, timeLimit: number): Promise<Uint8Array> {
  let prints = Buffer.alloc((expected + 16) * PRINT_BYTES);
  let filled = 0;
  const small = `scale=${PRINT_SIDE}:${PRINT_SIDE}:flags=area:out_color_matrix=bt709:out_range=tv`;
  const filters = `${small},format=yuv420p,extractplanes=y`;
  const words = ['-map', '0:v:0', '-fps_mode', 'passthrough', '-vf', filters, '-f', 'rawvideo', 'pipe:1'];
  await run('ffmpeg', ['-v', 'error', ...HOSTILE_INPUT, '-i', film, ...words], {
    signal,
    timeLimit,
    outputLimit: 2 * prints.length,
    onOutput: (chunk) => {
      if (filled + chunk.length > prints.length) prints = Buffer.concat([prints, Buffer.alloc(prints.length + chunk.length)]);
      chunk.copy(prints, filled);
      filled += chunk.length;
      onFrame?.(Math.min(expected, Math.floor(filled / PRINT_BYTES)), expected);
    },
  });
  return prints.subarray(0, filled - (filled % PRINT_BYTES));
}

/** A place where the song is heard for long enough, without a join in it: film and song seconds. */
interface Place {
  readonly at: number;
  readonly song: number;
}

/** Places along a film where the song can be listened for. */
function placesOf({ montage, from, to }: AskedFilm): Place[] {
  const { song, shape } = montage;
  if (!song) return [];
  const [start, end] = [frameTime(from, shape.rate), frameTime(to, shape.rate)];
  const pieces = playedPieces(song.pieces);
  const count = Math.max(1, Math.min(PLACES, Math.floor((end - start) / LISTENED_S)));
  const places = Array.from({ length: count }, (_, i): Place[] => {
    const wanted = start + ((i + 0.5) / count) * (end - start);
    const piece = pieces.find((p) => wanted >= p.at && wanted < p.at + p.length);
    if (!piece) return [];
    const [first, last] = [Math.max(start, piece.at + piece.fadeIn), Math.min(end, piece.at + piece.length - piece.fadeOut) - LISTENED_S];
    if (last <= first) return [];
    const at = Math.min(last, Math.max(first, wanted - LISTENED_S / 2));
    return [{ at: at - start, song: toSongTime(song.pieces, at) }];
  });
  return places.flat();
}

/** The film's sound in those places: one channel at SONG_RATE. @param start when the film's first frame is shown, by its file's time */
async function listenTo(
  film: string,
  places: readonly Place[],
  start: number,
  signal: AbortSignal | undefined,
  timeLimit: number,
): Promise<Float32Array[]> {
  const heard = places.map(() => new Float32Array(LISTENED_S * SONG_RATE));
  const firsts = places.map(({ at }) => Math.round((start + at) * SONG_RATE));
  let n = 0;
  let rest = Buffer.alloc(0);
  // By the file's own time; what comes late is filled with silence, so that a sample's number is its time.
  const words = ['-map', '0:a:0', '-af', 'aresample=async=1:first_pts=0', '-ac', '1', '-ar', String(SONG_RATE), '-f', 'f32le', 'pipe:1'];
  await run('ffmpeg', ['-v', 'error', '-copyts', ...HOSTILE_INPUT, '-i', film, ...words], {
    signal,
    timeLimit,
    outputLimit: Number.MAX_SAFE_INTEGER,
    onOutput: (chunk) => {
      const all = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk;
      const count = all.length >> 2;
      heard.forEach((samples, i) => {
        const [from, to] = [Math.max(n, firsts[i]!), Math.min(n + count, firsts[i]! + samples.length)];
        for (let k = from; k < to; k++) samples[k - firsts[i]!] = all.readFloatLE((k - n) * 4);
      });
      n += count;
      rest = Buffer.from(all.subarray(count * 4));
    },
  });
  return heard;
}

async function songAt(wav: WavFile, { song }: Place): Promise<Float32Array> {
  const samples = await wav.read(Math.round(song * SONG_RATE), LISTENED_S * SONG_RATE);
  return Float32Array.from({ length: samples.length / WAV_CHANNELS }, (_, i) => (samples[2 * i]! + samples[2 * i + 1]!) / 2);
}

async function proveSound(
  film: string,
  start: number,
  { asked, soundPath, signal }: ProofOrder,
  timeLimit: number,
): Promise<ProvenSound[]> {
  const places = placesOf(asked);
  if (places.length === 0) return [];
  const heard = await listenTo(film, places, start, signal, timeLimit);
  const wav = await WavFile.open(soundPath(asked.montage.song!.assetId));
  try {
    const found: ProvenSound[] = [];
    for (const [i, place] of places.entries()) {
      const lies = soundPlace(heard[i]!, await songAt(wav, place), SONG_RATE, SOUND_REACH_S);
      // Where the song was placed to whole samples, that much is no error of the film.
      found.push({ at: place.at, lateMs: lies && lies.likeness >= LEAST_LIKENESS ? Math.round(lies.late * 1e6) / 1e3 : null });
    }
    return found;
  } finally {
    await wav.close();
  }
}

/**
 * Reads a finished film back: where each of its cuts is, against the pictures that should stand on both sides of it, when that
 * frame is shown, and where its sound lies against the song itself.
 * @throws MediaProgramError where it cannot be read, CancelledError
 */
export async function proveFilm(film: string, order: ProofOrder): Promise<Proof> {
  const { asked, prints } = order;
  const { montage, from, to, preset } = asked;
  const { rate } = montage.shape;
  const planned = to - from;
  const timeLimit = 60_000 + planned * LONGEST_FRAME_MS;
  const times = preset.holds === 'sound' ? [] : (order.times ?? (await shownTimes(film, { signal: order.signal, timeLimit })));
  const begins = times[0] ?? 0;
  const heard = preset.sound.length > 0 ? proveSound(film, begins, order, timeLimit) : Promise.resolve([]);
  const seen = preset.holds === 'sound' ? Promise.resolve(new Uint8Array()) : readPrints(film, planned, order, timeLimit);
  // Side by side; where one fails, the other is not left behind unheard.
  const [sound, read] = await Promise.all([heard, seen]);
  if (preset.holds === 'sound') return proofOf({ rate, frames: { planned: 0, read: 0 }, cuts: [], sound });
  const start = frameTime(from, rate);
  const visible = syncReport(montage).cuts.filter((cut) => cut.visible && cut.frame > from && cut.frame < to);
  const marks = new Map(visible.map((cut) => [cut.number, cut.mark?.time ?? null]));
  const cuts = findCuts(
    prints,
    read,
    visible.map(({ number, frame }) => ({ number, frame: frame - from })),
  ).map((cut) => {
    const shown = cut.found === null ? undefined : times[cut.found];
    const time = shown === undefined ? null : shown - begins;
    const mark = marks.get(cut.number) ?? null;
    const errorMs = time === null || mark === null ? null : Math.round((start + time - mark) * 1e6) / 1e3;
    return { ...cut, time, errorMs };
  });
  return proofOf({ rate, frames: { planned, read: read.length / PRINT_BYTES }, cuts, sound });
}
