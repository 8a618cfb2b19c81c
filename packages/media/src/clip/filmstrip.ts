import sharp from 'sharp';

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

/** The pictures of a filmstrip one by one, JPEG. @param path of the filmstrip */
export async function stripPictures(path: string, { pictures, columns, width, height }: Filmstrip): Promise<Buffer[]> {
  // Decoded once: cut from the file, each picture would cost as much as all of them.
  const { data, info } = await sharp(path).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const raw = { width: info.width, height: info.height, channels: info.channels };
  const places = Array.from({ length: pictures }, (_, n) => ({ left: (n % columns) * width, top: Math.floor(n / columns) * height }));
  return Promise.all(
    places.map((at) =>
      sharp(data, { raw })
        .extract({ ...at, width, height })
        .jpeg({ quality: 84 })
        .toBuffer(),
    ),
  );
}
