import { Refusal } from '@bluster/core/refusal/refusal';
import { open } from 'node:fs/promises';
import { countingRate } from '@bluster/core/footage/counting-rate';
import { parseRate, type FrameRate } from '@bluster/core/time/rate';
import { HOSTILE_INPUT, MediaProgramError, run } from '../program/run.ts';

/** A file that cannot be used. The message is a sentence: what is wrong, and the way out. */
export class UnusableMediaError extends Refusal {}

/** The coefficients between RGB and YCbCr: ITU-R BT.601, BT.709 or BT.2020. */
export type ColourMatrix = 'bt601' | 'bt709' | 'bt2020';

/** What a file with moving pictures or sound is. */
export interface MediaProbe {
  /** seconds */
  readonly length: number;
  /** when the camera says it was filmed, ms since 1970 */
  readonly takenAt: number | null;
  readonly video: {
    /** upright, in square pixels */
    readonly width: number;
    readonly height: number;
    /** the constant rate at which its frames are counted */
    readonly rate: FrameRate;
    readonly frames: number;
    /** time stamp of the first frame, seconds */
    readonly start: number;
    readonly codec: string;
    /** how its colours are coded; guessed from its size where the file does not say, as players do */
    readonly matrix: ColourMatrix;
    /** whether black is 0 and white 255 */
    readonly fullRange: boolean;
    /** light coded for a high dynamic range: ITU-R BT.2100 PQ or HLG */
    readonly hdr: 'pq' | 'hlg' | null;
    /** each picture is two half pictures, of two moments */
    readonly interlaced: boolean;
    /** seconds before a wanted frame at which the file is opened, so that a keyframe lies between */
    readonly room: number;
  } | null;
  readonly sound: { readonly rate: number; readonly channels: number; readonly codec: string; readonly start: number } | null;
}

export interface ProbedStream {
  codec_type?: string;
  codec_name?: string;
  width?: number;
  height?: number;
  avg_frame_rate?: string;
  r_frame_rate?: string;
  sample_aspect_ratio?: string;
  color_space?: string;
  color_range?: string;
  color_transfer?: string;
  field_order?: string;
  sample_rate?: string;
  channels?: number;
  duration?: string;
  start_time?: string;
  tags?: { rotate?: string };
  side_data_list?: { rotation?: number }[];
  disposition?: { attached_pic?: number };
}

const MAX_SIDE = 8192;
/** Formats that only point at other files: never followed. */
const PLAYLISTS = /^(hls|dash|concat|ffconcat|m3u|asx|sdp|rtsp|applehttp|imf|tty|lavfi)/;

async function looksLikeText(path: string): Promise<{ size: number; text: string | null }> {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    const head = Buffer.alloc(Math.min(4096, size));
    await file.read(head, 0, head.length, 0);
    const odd = head.some((byte) => byte === 0 || (byte < 32 && ![9, 10, 13, 27].includes(byte)));
    return { size, text: odd ? null : head.toString('utf8') };
  } finally {
    await file.close();
  }
}

function rateOf(stream: ProbedStream): FrameRate {
  for (const text of [stream.avg_frame_rate, stream.r_frame_rate]) {
    const [num, den] = (text ?? '').split('/').map(Number);
    if (!num || !den) continue;
    try {
      return parseRate(den === 1 ? String(num) : num / den === Math.round(num / den) ? String(num / den) : (num / den).toFixed(4));
    } catch {
      // not a usable rate; the next field may have one
    }
  }
  return { num: 25, den: 1 };
}

function matrixOf({ color_space: said = '', width = 0, height = 0 }: ProbedStream): ColourMatrix {
  if (said.startsWith('bt2020')) return 'bt2020';
  if (said === 'bt709') return 'bt709';
  if (['bt470bg', 'smpte170m', 'fcc'].includes(said)) return 'bt601';
  return Math.max(width, height) >= 1280 || Math.min(width, height) > 576 ? 'bt709' : 'bt601';
}

function upright(stream: ProbedStream): { width: number; height: number } {
  const [sarNum, sarDen] = (stream.sample_aspect_ratio ?? '1:1').split(':').map(Number);
  const sar = sarNum && sarDen ? sarNum / sarDen : 1;
  const width = Math.max(2, 2 * Math.round(((stream.width ?? 0) * sar) / 2));
  const height = stream.height ?? 0;
  const turn =
    Math.abs(Math.round(Number(stream.side_data_list?.find((d) => d.rotation !== undefined)?.rotation ?? stream.tags?.rotate ?? 0))) % 180;
  return turn === 90 ? { width: height, height: width } : { width, height };
}

const HDR = { smpte2084: 'pq', 'arib-std-b67': 'hlg' } as const;
const hdrOf = ({ color_transfer: said = '' }: ProbedStream): 'pq' | 'hlg' | null => HDR[said as keyof typeof HDR] ?? null;

/** Streams without an index are opened anywhere, and have to come to a keyframe first. */
const WITHOUT_INDEX = /^(mpegts|mpeg|mpegvideo|h264|hevc|dv)/;
/** Of a clip whose frames do not come evenly, so much is looked at to find the grid they lie on, seconds. */
const STAMPS_S = 120;

/** Two numbers for its rate, a good way apart: its frames may not come evenly. */
function maybeVariable({ avg_frame_rate: mean, r_frame_rate: finest }: ProbedStream): boolean {
  const [a, b] = [mean, finest].map((text) => {
    const [num, den] = (text ?? '').split('/').map(Number);
    return num && den ? num / den : 0;
  }) as [number, number];
  return a > 0 && b > 0 && Math.abs(a / b - 1) > 0.0005;
}

/** The times of a clip's frames, seconds, as far as they are looked at. */
async function stampsOf(path: string, signal?: AbortSignal): Promise<number[]> {
  const wanted = ['-select_streams', 'v:0', '-read_intervals', `%+${STAMPS_S}`, '-show_entries', 'packet=pts_time,flags', '-of', 'csv=p=0'];
  const out = await run('ffprobe', [...HOSTILE_INPUT, '-v', 'error', ...wanted, path], {
    signal,
    timeLimit: 120_000,
    outputLimit: 16 << 20,
  });
  return out
    .toString()
    .split('\n')
    .map((line) => line.split(','))
    .flatMap(([time, flags = '']) => (flags[1] === 'D' || !Number.isFinite(Number(time)) || time === '' ? [] : [Number(time)]));
}

/** A time that a camera may have written; those that were never set say 1904 or 1970. */
function timeTaken(text: string | undefined): number | null {
  const time = Date.parse(text ?? '');
  return Number.isFinite(time) && time > Date.UTC(1980, 0, 1) ? time : null;
}

/** Names of text files that lie beside songs and footage. */
const TEXT_NAME = /\.(txt|csv|tsv|jams|json|lrc|srt|vtt|md|xml|edl)$/i;

/**
 * Finds out what a media file is, treating it as hostile: no protocols but files, formats that point elsewhere refused,
 * a limit on time.
 * @param name what the file is called, for the sentences
 * @throws UnusableMediaError when it is empty, damaged, text, a playlist, or without picture and sound
 */
export async function probe(path: string, name: string, signal?: AbortSignal): Promise<MediaProbe> {
  const { size, text } = await looksLikeText(path);
  if (size === 0) throw new UnusableMediaError(`"${name}" is empty. Copy it again from where it came from.`);
  if (text !== null) {
    if (/#EXTM3U|ffconcat|\[playlist\]|<MPD|<smil/i.test(text) || /^\s*(file|https?|rtsp?|concat):/im.test(text))
      throw new UnusableMediaError(
        `"${name}" is a playlist that points at other files, and Bluster does not follow those. Add the files themselves.`,
      );
    throw new UnusableMediaError(
      TEXT_NAME.test(name)
        ? `"${name}" is a text file. Choose a video, a song or a photo; marks, lyrics and captions are read in the Song view.`
        : `"${name}" is a text file, whatever its name says. Choose a video, a song or a photo.`,
    );
  }
  let found: Probed;
  try {
    const out = await run('ffprobe', [...HOSTILE_INPUT, '-v', 'error', '-show_streams', '-show_format', '-of', 'json', path], {
      signal,
      timeLimit: 30_000,
    });
    found = JSON.parse(out.toString()) as Probed;
  } catch (error) {
    if (!(error instanceof MediaProgramError)) throw error;
    const cut = /moov atom not found|invalid data|end of file|truncat/i.test(error.said);
    throw new UnusableMediaError(
      cut
        ? `"${name}" is damaged or was cut off before its end. Copy it again from the camera or the card.`
        : `"${name}" cannot be read: ${error.message}. Convert it to MP4 or choose another file.`,
    );
  }
  const media = mediaOf(name, found);
  const video = pictureStream(found);
  if (!media.video || !video || !maybeVariable(video)) return media;
  return withRate(media, countingRate(await stampsOf(path, signal), media.video.rate));
}

/** What ffprobe says of a file. */
export interface Probed {
  readonly streams?: readonly ProbedStream[];
  readonly format?: { readonly format_name?: string; readonly duration?: string; readonly tags?: { readonly creation_time?: string } };
}

const pictureStream = ({ streams = [] }: Probed): ProbedStream | undefined =>
  streams.find((s) => s.codec_type === 'video' && !s.disposition?.attached_pic && s.width && s.height);

/** The same with its frames counted at another rate. */
function withRate(media: MediaProbe, rate: FrameRate): MediaProbe {
  const { video, length } = media;
  return { ...media, video: video && { ...video, rate, frames: Math.max(1, Math.round((length * rate.num) / rate.den)) } };
}

/**
 * What a file is by what was found in it.
 * @throws UnusableMediaError where it cannot be worked with
 */
export function mediaOf(name: string, found: Probed): MediaProbe {
  const { streams = [], format = {} } = found;
  if (PLAYLISTS.test(format.format_name ?? ''))
    throw new UnusableMediaError(
      `"${name}" is a playlist that points at other files, and Bluster does not follow those. Add the files themselves.`,
    );
  const video = pictureStream(found);
  const sound = streams.find((s) => s.codec_type === 'audio' && Number(s.sample_rate) > 0);
  const seconds = (s?: ProbedStream): number => Number(s?.duration ?? NaN);
  const length = [seconds(video), Number(format.duration ?? NaN), seconds(sound)].find((v) => Number.isFinite(v) && v > 0) ?? 0;
  if (!video && !sound) throw new UnusableMediaError(`"${name}" has neither a picture nor sound in it. Choose another file.`);
  if (video && (video.width! > MAX_SIDE || video.height! > MAX_SIDE))
    throw new UnusableMediaError(
      `"${name}" is ${video.width} x ${video.height} pixels, more than ${MAX_SIDE} on a side. Make a smaller copy of it.`,
    );
  // With pixels that are not square it may be far larger when it is shown.
  const shown = video && upright(video);
  if (shown && (shown.width > MAX_SIDE || shown.height > MAX_SIDE))
    throw new UnusableMediaError(
      `"${name}" is ${shown.width} x ${shown.height} pixels when it is shown as it says, more than ${MAX_SIDE} on a side. Make a copy of it with square pixels.`,
    );
  const media: MediaProbe = {
    length,
    takenAt: timeTaken(format.tags?.creation_time),
    video: video
      ? {
          ...shown!,
          rate: rateOf(video),
          frames: 1,
          start: Number(video.start_time ?? 0) || 0,
          codec: video.codec_name ?? 'unknown',
          matrix: matrixOf(video),
          fullRange: video.color_range === 'pc',
          hdr: hdrOf(video),
          interlaced: ['tt', 'bb', 'tb', 'bt'].includes(video.field_order ?? ''),
          room: WITHOUT_INDEX.test(format.format_name ?? '') ? 10 : 1,
        }
      : null,
    sound: sound
      ? {
          rate: Number(sound.sample_rate),
          channels: sound.channels ?? 1,
          codec: sound.codec_name ?? 'unknown',
          start: Number(sound.start_time ?? 0) || 0,
        }
      : null,
  };
  return media.video ? withRate(media, media.video.rate) : media;
}
