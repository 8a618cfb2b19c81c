import { onceFor } from '../lists/once-for.ts';
import { timeAfterBeats } from '../marks/beats-on.ts';
import type { Montage, Title } from '../document/montage.ts';
import { pegsOf } from '../score/score.ts';
import { cutFrame } from '../time/frames.ts';
import { tallestBar } from './letterbox.ts';
import { placedMoment } from './placed-moment.ts';

/** A title to paint. Lengths in pixels of the montage. */
export interface TitleItem {
  readonly titleId: string;
  readonly lines: readonly string[];
  /** the middle of the block of lines */
  readonly x: number;
  readonly y: number;
  /** height of the letters' line, and how wide a line may be: a longer one has its letters made smaller */
  readonly size: number;
  readonly widest: number;
  /** of the typeface */
  readonly weight: number;
  readonly colour: string;
  readonly opacity: number;
}

/** When a title is seen: frames of the montage, the last of which is not its own any more. */
export interface PlacedTitle {
  readonly title: Title;
  readonly from: number;
  readonly to: number;
}

export const TITLE_COLOURS = {
  white: '#ffffff',
  cream: '#f3efe6',
  coral: '#ff8a66',
  gold: '#f2c14e',
  ink: '#1b2733',
} as const satisfies Record<Title['colour'], string>;

const WEIGHTS = { light: 400, bold: 800 } as const satisfies Record<Title['weight'], number>;
/** Parts of the picture: how wide a title may be, and how far from the edge it stands. */
const WIDEST = 0.88;
const MARGIN = 0.07;
/** From one line's foot to the next's, in sizes. */
export const LINE_STEP = 1.15;
/** It comes and goes over so many beats, a third of its time at the most. */
const ENTER_BEATS = 0.5;
/** How far a rising title comes up, in sizes, and how small a growing one begins. */
const RISE = 0.6;
const SMALL = 0.86;

/**
 * The titles that are awake, in order of their first frame; found once for each document.
 * @example
 * placedTitles(montage).map((t) => [t.title.text, t.from, t.to]) // [["kites", 60, 120]]
 */
export const placedTitles = onceFor((montage: Montage): readonly PlacedTitle[] =>
  montage.titles.flatMap((title) => place(title, montage) ?? []).sort((a, b) => a.from - b.from),
);

function place(title: Title, montage: Montage): PlacedTitle | null {
  const { rule, lead } = montage.cut;
  const { rate } = montage.shape;
  const start = placedMoment(montage, title.from);
  if (!start) return null;
  const from = start.frame;
  const end = Math.min(pegsOf(montage).frames, cutFrame(timeAfterBeats(montage, start.time, title.beats), rate, rule, lead));
  return from < end ? { title, from, to: end } : null;
}

function itemOf({ title, from, to }: PlacedTitle, frame: number, montage: Montage): TitleItem {
  const { width, height } = montage.shape;
  const lines = title.text.split('\n');
  const size = title.size * height;
  const beat = (to - from) / title.beats;
  const enter = title.enter === 'cut' ? 0 : Math.min(ENTER_BEATS * beat, (to - from) / 3);
  // Whole frames count from their middle, so that the first is seen already and the last still is.
  const at = frame - from + 0.5;
  const part = enter > 0 ? Math.min(1, at / enter, (to - from - at) / enter) : 1;
  const eased = 1 - (1 - part) ** 2;
  const coming = at < (to - from) / 2;
  const block = size * (1 + (lines.length - 1) * LINE_STEP);
  const edge = tallestBar(montage, from, to) + MARGIN * height + block / 2;
  const y = title.place === 'middle' ? height / 2 : title.place === 'top' ? edge : height - edge;
  return {
    titleId: title.id,
    lines,
    x: width / 2,
    y: title.enter === 'rise' && coming ? y + (1 - eased) * RISE * size : y,
    size: title.enter === 'grow' ? size * (SMALL + (1 - SMALL) * Math.min(1, at / (to - from))) : size,
    widest: WIDEST * width,
    weight: WEIGHTS[title.weight],
    colour: TITLE_COLOURS[title.colour],
    opacity: eased,
  };
}

const NO_TITLES: readonly TitleItem[] = [];

/** The titles that are seen in a frame. */
export function titlesAt(montage: Montage, frame: number): readonly TitleItem[] {
  if (montage.titles.length === 0) return NO_TITLES;
  return placedTitles(montage)
    .filter(({ from, to }) => frame >= from && frame < to)
    .map((placed) => itemOf(placed, frame, montage));
}
