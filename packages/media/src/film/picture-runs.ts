import { drawListAt, scoreOf, type DrawList, type Montage, type PictureItem } from '@bluster/core';

/** The frames of its clip that a frame of the film shows, in the order in which they are asked for; rarely more than two. */
export type Want = readonly number[];

/** Frames of the film one after the other that one decoder can serve. */
export interface PictureRun {
  readonly item: PictureItem;
  readonly wants: readonly Want[];
  /** source frames come in rising order and are read as they pass; else all of them are held */
  readonly order: 'rising' | 'any';
  /** the frame of the plan that is its first */
  readonly first: number;
}

/** One picture of a frame of the film: the source frame of a run, and how much of it is seen over what lies below. */
export interface FilmLayer {
  readonly run: number;
  readonly source: number;
  readonly opacity: number;
}

/** A frame of the film: what is seen, and of which runs. */
export interface FilmFrame {
  readonly layers: readonly FilmLayer[];
  readonly list: DrawList;
}

/** A film, or a stretch of one, as it is put together: from which runs, and frame by frame of which of their pictures. */
export interface FilmPlan {
  readonly runs: readonly PictureRun[];
  readonly frames: readonly FilmFrame[];
}

/** As many frames of a clip that runs backwards are held at once, and no more bytes than this. */
const MOST_HELD = 24;
const MOST_BYTES = 256 * 2 ** 20;

/** How many wants from one on a run may take: all that rise, or a few that do not. */
function runLength(wants: readonly Want[], from: number, mostHeld: number): { count: number; order: PictureRun['order'] } {
  let rising = from + 1;
  while (rising < wants.length && wants[rising]![0]! >= wants[rising - 1]![0]!) rising++;
  // A picture that stands for some frames before it falls belongs to what falls.
  const falls = rising < wants.length && (rising - from < 3 || wants[rising - 1]![0] === wants[from]![0]);
  if (!falls) return { count: rising - from, order: 'rising' };
  let to = from + 1;
  let [low, high] = [wants[from]![0]!, Math.max(...wants[from]!)];
  for (; to < wants.length; to++) {
    low = Math.min(low, wants[to]![0]!);
    high = Math.max(high, ...wants[to]!);
    if (high - low >= mostHeld) break;
  }
  return { count: to - from, order: 'any' };
}

/** A shot while it is seen without a break. */
interface Stretch {
  readonly item: PictureItem;
  readonly first: number;
  readonly wants: number[][];
  /** of each of its frames, once they are divided: the run that serves it */
  readonly runs: number[];
}

/** Frames of a film that are planned at once: a few seconds' work of the encoder, a few megabytes of plan. */
const STRETCH = 3000;

/**
 * The plan of a film, a stretch of frames at a time, so that one of hours needs no more memory than one of minutes. A shot that
 * goes on over the end of a stretch is opened anew in the next.
 */
export function* filmPlans(montage: Montage, stretch = STRETCH): Generator<FilmPlan> {
  const { frames } = scoreOf(montage);
  for (let from = 0; from < frames; from += stretch) yield filmPlan(montage, from, Math.min(frames, from + stretch));
}

/** What a film shows from one of its frames to before another, frame by frame; runs count from that first one too. */
export function filmPlan(montage: Montage, from: number, to: number): FilmPlan {
  const { width, height } = montage.shape;
  const mostHeld = Math.max(2, Math.min(MOST_HELD, Math.floor(MOST_BYTES / (width * height * 1.5))));
  const stretches: Stretch[] = [];
  const seen: { list: DrawList; stretches: Map<string, Stretch> }[] = [];
  let open = new Map<string, Stretch>();
  for (let n = 0; n < to - from; n++) {
    const list = drawListAt(montage, from + n);
    const now = new Map<string, Stretch>();
    for (const item of list.items) {
      let stretch = now.get(item.shotId);
      if (!stretch) {
        stretch = open.get(item.shotId);
        if (!stretch) stretches.push((stretch = { item, first: n, wants: [], runs: [] }));
        stretch.wants.push([]);
        now.set(item.shotId, stretch);
      }
      stretch.wants.at(-1)!.push(item.frame);
    }
    seen.push({ list, stretches: now });
    open = now;
  }
  const runs: PictureRun[] = [];
  for (const { item, first, wants, runs: served } of stretches)
    for (let at = 0; at < wants.length;) {
      const { count, order } = runLength(wants, at, mostHeld);
      for (let i = 0; i < count; i++) served.push(runs.length);
      runs.push({ item, wants: wants.slice(at, at + count), order, first: first + at });
      at += count;
    }
  return {
    runs,
    frames: seen.map(({ list, stretches: of }, n) => ({
      list,
      layers: list.items.map(({ shotId, frame, opacity }) => {
        const stretch = of.get(shotId)!;
        return { run: stretch.runs[n - stretch.first]!, source: frame, opacity };
      }),
    })),
  };
}
