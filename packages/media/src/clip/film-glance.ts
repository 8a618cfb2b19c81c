import { framesPerSecond, type FrameRate } from '@bluster/core/time/rate';
import { countFrames, smallPicture } from '../probe/frame-filters.ts';
import type { MediaProbe } from '../probe/probe.ts';
import { HOSTILE_INPUT, run, type RunOptions } from '../program/run.ts';
import { STRIP_OUTPUT_LIMIT, picturesOf, picturesWritten, planStrip, type Filmstrip } from './filmstrip.ts';

/** What a glance at a clip finds: how many frames it has, and small pictures of its key frames. */
export interface FilmGlance {
  readonly frames: number;
  readonly strip: Filmstrip;
  /** those of the filmstrip, one by one, JPEG */
  readonly pictures: readonly Buffer[];
  /** how much moves in it, guessed from what its pictures cost beside its key frames, 0 to 1; the look measures it */
  readonly movement: number;
}

/** A packet of a stream of pictures: when it is shown (seconds), its size, and whether it can be decoded by itself. */
export interface Packet {
  readonly time: number;
  readonly bytes: number;
  readonly key: boolean;
}

/** So far from its place a frame of a constant rate may be, parts of a frame. */
const OFF_PLACE = 0.25;
/** Where more of the pictures than this are key frames, decoding those is no shorter way. */
const MOST_KEYS = 0.25;
/** A line of the list of packets. */
const LINE_BYTES = 40;

/**
 * How many frames a clip has by its packets.
 * @param packets in any order
 * @returns null where its rate is not constant, or something else speaks against trusting them: its frames have to be decoded
 */
export function framesOf(packets: readonly Packet[], rate: FrameRate): number | null {
  if (packets.length === 0) return null;
  const fps = framesPerSecond(rate);
  const times = packets.map((p) => p.time).sort((a, b) => a - b);
  const even = times.every((time, n) => Math.abs((time - times[0]!) * fps - n) < OFF_PLACE);
  return even ? packets.length : null;
}

/** Reads the list of packets as ffprobe writes it: time and flags a line. Packets that are to be thrown away do not count. */
export function packetsOf(text: string): Packet[] {
  return text.split('\n').flatMap((line) => {
    const [time, size, flags = ''] = line.split(',');
    const at = Number.parseFloat(time ?? '');
    return Number.isFinite(at) && !flags.includes('D') ? [{ time: at, bytes: Number(size), key: flags.startsWith('K') }] : [];
  });
}

/** Where pictures cost as much as this part of a key frame, everything in them moves. */
const ALL_MOVES = 0.6;

/** How much moves, 0 to 1: coders spend on a picture what it differs by from the one before. A rank of about 0.6 with what is measured. */
export function guessedMovement(packets: readonly Packet[]): number {
  const mean = (of: readonly Packet[]): number => of.reduce((sum, p) => sum + p.bytes, 0) / Math.max(1, of.length);
  const [keys, others] = [packets.filter((p) => p.key), packets.filter((p) => !p.key)];
  return others.length === 0 ? 0 : Math.min(1, mean(others) / Math.max(1, mean(keys)) / ALL_MOVES);
}

/**
 * A glance at a clip, in a fraction of the time that decoding it takes: its frames are counted by its packets, and only key frames
 * are decoded, so that it can be cut while it is still to be looked at.
 * @returns null where only decoding tells how many frames it has, or would take no longer
 * @throws MediaProgramError, CancelledError
 */
export async function glanceAtFilm(
  path: string,
  media: MediaProbe,
  { signal, timeLimit = 60_000 }: Pick<RunOptions, 'signal' | 'timeLimit'> = {},
): Promise<FilmGlance | null> {
  const video = media.video!;
  const fps = framesPerSecond(video.rate);
  if (video.interlaced || video.hdr) return null;
  const wanted = ['-select_streams', 'v:0', '-show_entries', 'packet=pts_time,size,flags', '-of', 'csv=p=0'];
  const options = { signal, timeLimit };
  const listed = await run('ffprobe', ['-v', 'error', ...HOSTILE_INPUT, ...wanted, path], {
    ...options,
    outputLimit: 1e6 + LINE_BYTES * media.length * fps,
  });
  const packets = packetsOf(listed.toString());
  const frames = framesOf(packets, video.rate);
  const keys = packets.filter((p) => p.key).length;
  if (frames === null || keys === 0 || keys > MOST_KEYS * frames) return null;
  const { step, rows: _, ...strip } = planStrip(video, frames / fps, fps);
  // Each place of the strip shows the key frame before it; the last one stands until the end.
  const graph = [...countFrames(video, 'at-start'), `select='not(mod(n\\,${step}))'`, ...smallPicture(video, strip)];
  const still = 'tpad=stop=-1:stop_mode=clone';
  const words = ['-v', 'error', ...HOSTILE_INPUT, '-skip_frame', 'nokey', '-i', path, '-vf', [...graph, still].join(',')];
  const all = await run('ffmpeg', [...words, '-an', ...picturesWritten(strip.pictures), 'pipe:1'], {
    ...options,
    outputLimit: STRIP_OUTPUT_LIMIT,
  });
  return { frames, strip, pictures: picturesOf(all, strip.pictures), movement: guessedMovement(packets) };
}
