import { HOSTILE_INPUT, MediaProgramError, run } from '../program/run.ts';

/** The shorter side of a small picture. */
const STRIP_SIDE = 90;
const LONGEST_STRIP_SIDE = 480;
/** A filmstrip's pictures lie in a row of rows this wide. */
const STRIP_COLUMNS = 10;
const MOST_STRIP_PICTURES = 200;

/** A filmstrip: one picture holding small ones, left to right and down, evenly spaced in time. */
export interface Filmstrip {
  readonly pictures: number;
  readonly columns: number;
  /** of one small picture */
  readonly width: number;
  readonly height: number;
  /** seconds from one to the next */
  readonly every: number;
}

/** How a clip's filmstrip is laid out, and which frames are in it: every `step`-th from the first. */
export interface StripPlan extends Filmstrip {
  readonly step: number;
  readonly rows: number;
}

/** Lays out the filmstrip of a clip. @param length seconds; @param fps frames a second */
export function planStrip(video: { width: number; height: number }, length: number, fps: number): StripPlan {
  const even = (v: number): number => Math.max(2, 2 * Math.round(v / 2));
  // A picture has its limits: of a very long shape the longer side counts.
  const scale = Math.min(STRIP_SIDE / Math.min(video.width, video.height), LONGEST_STRIP_SIDE / Math.max(video.width, video.height));
  const [width, height] = [even(video.width * scale), even(video.height * scale)];
  const step = Math.max(1, Math.round(Math.max(0.25, length / MOST_STRIP_PICTURES) * fps));
  const pictures = Math.max(1, Math.ceil((length * fps) / step - 1e-6));
  return { pictures, columns: STRIP_COLUMNS, width, height, every: step / fps, step, rows: Math.ceil(pictures / STRIP_COLUMNS) };
}

/** Where a JPEG picture ends; within one these bytes cannot be (ISO/IEC 10918-1, B.1.1.5). */
const END_OF_IMAGE = Buffer.from([0xff, 0xd9]);
/** As good as those of the filmstrip. */
const QUALITY = '4';
const STRIP_TIME_LIMIT_MS = 60_000;
/** Bytes of the pictures of one filmstrip. */
export const STRIP_OUTPUT_LIMIT = 64 * 2 ** 20;

/** Words by which a media program writes so many small pictures one behind the other, JPEG, each as it comes. */
export const picturesWritten = (pictures: number): readonly string[] => [
  ...['-fps_mode', 'passthrough', '-frames:v', String(pictures), '-c:v', 'mjpeg', '-threads', '1', '-q:v', QUALITY, '-f', 'image2pipe'],
];

/**
 * Pictures that were written one behind the other.
 * @throws MediaProgramError where there are not so many
 */
export function picturesOf(all: Buffer, pictures: number): Buffer[] {
  const parts: Buffer[] = [];
  for (let from = 0, end = all.indexOf(END_OF_IMAGE); end >= 0; end = all.indexOf(END_OF_IMAGE, from)) {
    parts.push(all.subarray(from, end + END_OF_IMAGE.length));
    from = end + END_OF_IMAGE.length;
  }
  if (parts.length !== pictures) throw new MediaProgramError('its small pictures could not all be made');
  return parts;
}

/**
 * The pictures of a filmstrip one by one, JPEG. Cut by a media program, not by a library in this process: two hundred small pictures of
 * fifty clips would keep its threads from all else that they are for, and its event loop from a core.
 * @param path of the filmstrip
 * @throws MediaProgramError where it is none; CancelledError when the signal says so
 */
export async function stripPictures(
  path: string,
  { pictures, columns }: Filmstrip,
  { signal }: { readonly signal?: AbortSignal | undefined } = {},
): Promise<Buffer[]> {
  const cut = `untile=${columns}x${Math.ceil(pictures / columns)}`;
  const all = await run(
    'ffmpeg',
    [...HOSTILE_INPUT, '-v', 'error', '-threads', '1', '-i', path, '-vf', cut, ...picturesWritten(pictures), 'pipe:1'],
    { signal, timeLimit: STRIP_TIME_LIMIT_MS, outputLimit: STRIP_OUTPUT_LIMIT },
  );
  return picturesOf(all, pictures);
}
