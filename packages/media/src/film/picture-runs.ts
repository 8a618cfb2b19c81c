import { drawListAt, scoreOf, type DrawLayer, type DrawList, type Montage, type PictureItem } from '@bluster/core';
import type { Size } from './frame-planes.ts';
import type { Placed } from './sample-planes.ts';

/** The frames of its clip that a frame of the film shows, in the order in which they are asked for; rarely more than two. */
export type Want = readonly number[];

/** Frames of the film one after the other that one decoder can serve. */
export interface PictureRun {
  readonly item: PictureItem;
  /** the whole picture in so many pixels; null where it comes cropped, scaled and placed as the screen shows it */
  readonly raster: Size | null;
  readonly wants: readonly Want[];
  /** source frames come in rising order and are read as they pass; else all of them are held */
  readonly order: 'rising' | 'any';
  /** the frame of the plan that is its first */
  readonly first: number;
}

/** One picture of a frame of the film: the source frame of a run, and how it lies in its layer. */
export interface FilmPicture {
  readonly run: number;
  readonly source: number;
  readonly placed: Placed | null;
  readonly opacity: number;
  readonly blur: number;
}

/** A frame of the film: what is seen, and for each layer of the list its pictures. */
export interface FilmFrame {
  readonly layers: readonly (readonly FilmPicture[])[];
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
  /** its picture lies otherwise than ffmpeg alone would lay it, or not always in the same way */
  free: boolean;
  /** the most pixels of the screen to a pixel of it */
  largest: number;
  readonly first: number;
  readonly wants: number[][];
  /** of each of its frames, once they are divided: the run that serves it */
  readonly runs: number[];
}

const even = (value: number): number => Math.max(2, 2 * Math.ceil(value / 2 - 1e-6));
const sameRect = (a: PictureItem['source'], b: PictureItem['source']): boolean =>
  a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;

/** Whether a picture lies on the screen as ffmpeg can lay it, and as the first one of its shot does, on black. */
function isLaid(picture: PictureItem, first: PictureItem, layer: DrawLayer): boolean {
  if (picture.turn !== 0 || picture.blur > 0) return false;
  const { x, y, width, height } = picture.target;
  const whole = [x, y, width, height].every((side) => side % 2 === 0) && x >= 0 && y >= 0;
  return whole && layer.ground === '#000000' && sameRect(picture.source, first.source) && sameRect(picture.target, first.target);
}

/** In how many pixels the whole picture of a shot is needed: as many as the screen shows of it at the nearest, and no more than it has. */
function rasterOf({ item, free, largest }: Stretch): Size | null {
  if (!free) return null;
  const scale = Math.min(1, largest);
  return { width: even(item.size.width * scale), height: even(item.size.height * scale) };
}

/** Frames of a film that are planned at once: a few seconds' work of the encoder, a few megabytes of plan. */
const STRETCH = 3000;

/**
 * The plan of a film, a stretch of frames at a time, so that one of hours needs no more memory than one of minutes. A shot that
 * goes on over the end of a stretch is opened anew in the next.
 */
export function* filmPlans(montage: Montage, from = 0, to = scoreOf(montage).frames, stretch = STRETCH): Generator<FilmPlan> {
  for (let first = from; first < to; first += stretch) yield filmPlan(montage, first, Math.min(to, first + stretch));
}

/** What a film shows from one of its frames to before another, frame by frame; runs count from that first one too. */
export function filmPlan(montage: Montage, from: number, to: number): FilmPlan {
  const stretches: Stretch[] = [];
  const seen: { list: DrawList; stretches: Map<string, Stretch> }[] = [];
  let open = new Map<string, Stretch>();
  for (let n = 0; n < to - from; n++) {
    const list = drawListAt(montage, from + n);
    const now = new Map<string, Stretch>();
    for (const layer of list.layers)
      for (const item of layer.pictures) {
        let stretch = now.get(item.shotId);
        if (!stretch) {
          stretch = open.get(item.shotId);
          if (!stretch) stretches.push((stretch = { item, free: false, largest: 0, first: n, wants: [], runs: [] }));
          stretch.wants.push([]);
          now.set(item.shotId, stretch);
        }
        stretch.free ||= !isLaid(item, stretch.item, layer);
        stretch.largest = Math.max(stretch.largest, item.target.width / item.source.width);
        stretch.wants.at(-1)!.push(item.frame);
      }
    seen.push({ list, stretches: now });
    open = now;
  }
  const runs: PictureRun[] = [];
  for (const stretch of stretches) {
    const { item, first, wants, runs: served } = stretch;
    const raster = rasterOf(stretch);
    const { width, height } = raster ?? montage.shape;
    const mostHeld = Math.max(2, Math.min(MOST_HELD, Math.floor(MOST_BYTES / (width * height * 1.5))));
    for (let at = 0; at < wants.length;) {
      const { count, order } = runLength(wants, at, mostHeld);
      for (let i = 0; i < count; i++) served.push(runs.length);
      runs.push({ item, raster, wants: wants.slice(at, at + count), order, first: first + at });
      at += count;
    }
  }
  return {
    runs,
    frames: seen.map(({ list, stretches: of }, n) => ({
      list,
      layers: list.layers.map(({ pictures }) =>
        pictures.map(({ shotId, frame, opacity, blur, target, turn }): FilmPicture => {
          const stretch = of.get(shotId)!;
          const placed = stretch.free ? { target, turn } : null;
          return { run: stretch.runs[n - stretch.first]!, source: frame, placed, opacity, blur };
        }),
      ),
    })),
  };
}
