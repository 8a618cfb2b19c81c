import { onceFor } from '../lists/once-for.ts';
import { timeAfterBeats } from '../marks/beats-on.ts';
import type { Montage, Title } from '../document/montage.ts';
import { pegsOf, scoreOf } from '../score/score.ts';
import { cutFrame, frameTime } from '../time/frames.ts';
import { firstFrom } from '../lists/first-from.ts';
import { hasWeights, USUAL_FACE } from './faces/faces.ts';
import { tallestBar } from './letterbox.ts';
import { ENTRANCES } from './entrances/all.ts';
import { softly, type EntranceKindDefinition, type PieceLook } from './entrances/entrance-kind.ts';
import { placedMoment, type PlacedMoment } from './placed-moment.ts';
import { triggerFrames } from './trigger-places.ts';
import { framesPerSecond } from '../time/rate.ts';

/** A part of a line that comes by itself. */
export interface TitlePiece extends PieceLook {
  readonly text: string;
}

/** A title to paint. Lengths in pixels of the montage. */
export interface TitleItem {
  readonly titleId: string;
  /** each line in pieces, from left to right */
  readonly lines: readonly (readonly TitlePiece[])[];
  /** the middle of the block of lines */
  readonly x: number;
  readonly y: number;
  /** height of the letters' line, and how wide a line may be: a longer one has its letters made smaller */
  readonly size: number;
  readonly widest: number;
  /** from letter to letter beyond what the typeface has, and from one line's foot to the next's; in sizes */
  readonly spacing: number;
  readonly step: number;
  /** a typeface that ships, or the id of a file */
  readonly face: string;
  /** of the typeface */
  readonly weight: number;
  readonly colour: string;
  readonly outline: { readonly width: number; readonly colour: string } | null;
  /** how much of it is seen beside the opacity of its colour */
  readonly plate: { readonly colour: string; readonly opacity: number } | null;
  readonly shadow: boolean;
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
} as const;

/** The colour of a title, #rrggbb. */
export const titleColour = ({ colour }: Title): string =>
  colour.startsWith('#') ? colour : TITLE_COLOURS[colour as keyof typeof TITLE_COLOURS];

const WEIGHTS = { light: 400, bold: 800 } as const satisfies Record<Title['weight'], number>;
/** Parts of the picture: how wide a title may be, and how far from the edge it stands. */
const WIDEST = 0.88;
const MARGIN = 0.07;
/** From one line's foot to the next's, in sizes. */
export const LINE_STEP = 1.15;
/** It comes, and goes, in a third of its time at the most. */
const MOST_OF_TIME = 1 / 3;
/** Of the time in which all pieces come, each takes so much. */
const PIECE_SHARE = 0.4;

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
  const end = Math.min(
    pegsOf(montage).frames,
    endOf(title, start, montage) ?? cutFrame(timeAfterBeats(montage, start.time, title.beats), rate, rule, lead),
  );
  return from < end ? { title, from, to: end } : null;
}

/** The first frame after a title that ends at a moment or a cut; null where that sleeps, or lies before its start. */
function endOf({ until }: Title, start: PlacedMoment, montage: Montage): number | null {
  if (until === undefined) return null;
  const end = until === 'cut' ? scoreOf(montage).pegs.find((p) => p.frame > start.frame)?.frame : placedMoment(montage, until)?.frame;
  return end !== undefined && end > start.frame ? end : null;
}

/** Words with the blanks that follow them, or letters with the signs that belong to them. */
function split(line: string, by: 'all' | 'letters' | 'words'): string[] {
  if (by === 'all') return [line];
  return line.match(by === 'words' ? /\S+\s*|^\s+/gu : /\P{M}\p{M}*/gu) ?? [''];
}

/** How far a title has come or has still to go. */
interface Come {
  /** of the whole, 0 to 1 */
  readonly part: number;
  readonly coming: boolean;
  /** of a piece whose mark is the n-th: where pieces come on marks */
  readonly onMark: (n: number) => number;
}

/** The lines of a title in pieces, each as far as it has come. */
function piecesOf(text: string, kind: EntranceKindDefinition, { part, coming, onMark }: Come): TitlePiece[][] {
  const lines = text.split('\n').map((line) => split(line, kind.by));
  const count = lines.reduce((sum, line) => sum + line.length, 0);
  let n = 0;
  return lines.map((line) =>
    line.map((piece, i) => {
      // All lines one after the other; outwards, each from its own middle.
      const middle = (line.length - 1) / 2;
      const along = count < 2 ? 0 : n / (count - 1);
      const order = kind.order === 'along' ? along : middle === 0 ? 0 : Math.abs(i - middle) / middle;
      if (kind.order === 'on marks') return { text: piece, ...kind.piece(onMark(n++), coming) };
      n++;
      const own = kind.by === 'all' ? part : Math.max(0, Math.min(1, (part - order * (1 - PIECE_SHARE)) / PIECE_SHARE));
      return { text: piece, ...kind.piece(own, coming) };
    }),
  );
}

function itemOf({ title, from, to }: PlacedTitle, frame: number, montage: Montage): TitleItem {
  const { width, height } = montage.shape;
  const kind = ENTRANCES[title.enter];
  const face = title.face ?? USUAL_FACE;
  const size = title.size * height;
  const { rate } = montage.shape;
  const start = frameTime(from, rate);
  const frames = (beats: number): number => (timeAfterBeats(montage, start, beats) - start) * framesPerSecond(rate);
  const beats = title.enterBeats ?? kind.beats;
  const enter = beats > 0 ? Math.min(frames(beats), (to - from) * MOST_OF_TIME) : 0;
  // Whole frames count from their middle, so that the first is seen already and the last still is.
  const at = frame - from + 0.5;
  const onMarks = kind.order === 'on marks';
  const leaving = enter > 0 ? Math.min(1, (to - from - at) / enter) : 1;
  const part = enter > 0 && !onMarks ? Math.min(leaving, at / enter) : leaving;
  const step = LINE_STEP + (title.leading ?? 0);
  const marks = onMarks ? wordFrames(montage, title, from) : [];
  const onMark = (n: number): number => {
    // Words for which there is no mark left come with the last one that has one.
    const mark = marks[Math.min(n, marks.length - 1)] ?? from;
    const since = frame - mark + 0.5;
    return since < 0 ? 0 : Math.min(leaving, enter > 0 ? since / enter : 1);
  };
  const coming = onMarks ? leaving === 1 : at < (to - from) / 2;
  const lines = piecesOf(title.text, kind, { part, coming, onMark });
  const block = size * (1 + (lines.length - 1) * step);
  const edge = tallestBar(montage, from, to) + MARGIN * height + block / 2;
  const y = title.at ? title.at.y * height : title.place === 'middle' ? height / 2 : title.place === 'top' ? edge : height - edge;
  const x = (title.at?.x ?? 0.5) * width;
  return {
    titleId: title.id,
    lines,
    x,
    // No line leaves the picture, above or below.
    y: Math.max(block / 2, Math.min(height - block / 2, y)),
    size: kind.grows ? size * kind.grows(Math.min(1, at / (to - from))) : size,
    // Nor at its sides.
    widest: Math.min(WIDEST * width, 2 * Math.max(0.05 * width, Math.min(x, width - x))),
    spacing: title.spacing ?? 0,
    step,
    face,
    weight: hasWeights(face) ? WEIGHTS[title.weight] : WEIGHTS.light,
    colour: titleColour(title),
    outline: title.outline ?? null,
    plate: title.plate ? { colour: title.plate.colour, opacity: title.plate.opacity * softly(part) } : null,
    shadow: title.shadow ?? true,
  };
}

/** The frames of the marks on which a title's words come, from its first frame on. */
function wordFrames(montage: Montage, { wordsOn = 'beat' }: Title, from: number): readonly number[] {
  const all = triggerFrames(montage, wordsOn);
  const after = all.slice(firstFrom(all, (frame) => frame, from));
  return after[0] === from ? after : [from, ...after];
}

const NO_TITLES: readonly TitleItem[] = [];

/** The titles that are seen in a frame. */
export function titlesAt(montage: Montage, frame: number): readonly TitleItem[] {
  if (montage.titles.length === 0) return NO_TITLES;
  return placedTitles(montage)
    .filter(({ from, to }) => frame >= from && frame < to)
    .map((placed) => itemOf(placed, frame, montage));
}
