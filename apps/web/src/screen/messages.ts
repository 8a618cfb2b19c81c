import type { Montage } from '@bluster/core';

/** How many pictures a filmstrip has, and seconds from one to the next. */
export interface StripOf {
  readonly pictures: number;
  readonly every: number;
  /** whether others take the place of its pictures soon */
  readonly rough: boolean;
}

/** What the page tells the picture worker. Page times are milliseconds since the time origin of the clock both share. */
export type ToPicture =
  | { readonly do: 'canvas'; readonly canvas: OffscreenCanvas }
  | { readonly do: 'montage'; readonly montage: Montage }
  /** assets whose proxies are ready, and the filmstrips that stand in for those that are not */
  | { readonly do: 'assets'; readonly ready: readonly string[]; readonly strips: Readonly<Record<string, StripOf>> }
  | { readonly do: 'clock'; readonly playing: boolean; readonly position: number; readonly atMs: number; readonly speed: number }
  /** the last frame before a cut and the first after it, side by side; null shows the playhead's again */
  | { readonly do: 'cut'; readonly frame: number | null }
  /** a shot is shown whole, as it was taken; null shows the montage again */
  | { readonly do: 'whole'; readonly shotId: string | null }
  /** what lies behind the titles of a frame is asked for, small */
  | { readonly do: 'behind'; readonly frame: number }
  | { readonly do: 'measure' };

/** How playback went since it was last asked, for the benchmark. */
export interface PictureMeasure {
  readonly due: number;
  readonly missed: number;
  /** how late each cut's first frame was painted, in frames of the montage */
  readonly cutsLate: readonly number[];
}

export type FromPicture =
  | { readonly say: 'painted'; readonly frame: number }
  /** null where its pictures are not at hand */
  | { readonly say: 'behind'; readonly frame: number; readonly pixels: ImageData | null }
  | { readonly say: 'measure'; readonly measure: PictureMeasure };
