import { drawListAt, scoreOf, type Montage, type PictureItem } from '@bluster/core';

/** A frame of a clip that a frame of the film shows, and how much of another is mixed in. */
export interface Want {
  readonly source: number;
  readonly mixed: { readonly source: number; readonly part: number } | null;
}

/** Frames of the film one after the other that one decoder can serve. */
export interface PictureRun {
  /** null where nothing is seen */
  readonly item: PictureItem | null;
  readonly wants: readonly Want[];
  /** source frames come in rising order and are read as they pass; else all of them are held */
  readonly order: 'rising' | 'any';
}

/** As many frames of a clip that runs backwards are held at once, and no more bytes than this. */
const MOST_HELD = 24;
const MOST_BYTES = 256 * 2 ** 20;

const highest = (w: Want): number => Math.max(w.source, w.mixed?.source ?? 0);

/** How many wants from one on a run may take: all that rise, or a few that do not. */
function runLength(wants: readonly Want[], from: number, mostHeld: number): { count: number; order: PictureRun['order'] } {
  let rising = from + 1;
  while (rising < wants.length && wants[rising]!.source >= wants[rising - 1]!.source) rising++;
  // A picture that stands for some frames before it falls belongs to what falls.
  const falls = rising < wants.length && (rising - from < 3 || wants[rising - 1]!.source === wants[from]!.source);
  if (!falls) return { count: rising - from, order: 'rising' };
  let to = from + 1;
  let [low, high] = [wants[from]!.source, highest(wants[from]!)];
  for (; to < wants.length; to++) {
    low = Math.min(low, wants[to]!.source);
    high = Math.max(high, highest(wants[to]!));
    if (high - low >= mostHeld) break;
  }
  return { count: to - from, order: 'any' };
}

/** What a film shows, frame by frame, in runs. */
export function pictureRuns(montage: Montage): PictureRun[] {
  const { frames } = scoreOf(montage);
  const { width, height } = montage.shape;
  const mostHeld = Math.max(2, Math.min(MOST_HELD, Math.floor(MOST_BYTES / (width * height * 1.5))));
  const runs: PictureRun[] = [];
  let item: PictureItem | null = null;
  let wants: Want[] = [];
  const close = (): void => {
    if (!item) {
      if (wants.length > 0) runs.push({ item, wants, order: 'rising' });
    } else
      for (let from = 0; from < wants.length;) {
        const { count, order } = runLength(wants, from, mostHeld);
        runs.push({ item, wants: wants.slice(from, from + count), order });
        from += count;
      }
    wants = [];
  };
  for (let n = 0; n < frames; n++) {
    const [picture, over] = drawListAt(montage, n).items;
    if ((picture?.shotId ?? null) !== (item?.shotId ?? null)) {
      close();
      item = picture ?? null;
    }
    wants.push({ source: picture?.frame ?? 0, mixed: over ? { source: over.frame, part: over.opacity } : null });
  }
  close();
  return runs;
}
