import { onceFor } from '../../lists/once-for.ts';
import type { FrameRate } from '../../time/rate.ts';
import type { FootageItem, Montage } from '../../document/montage.ts';
import { scoreOf, type Slot } from '../../score/score.ts';

/** A stretch of a line that shows one clip, or nothing. Frames are the montage's. */
export interface CutPiece {
  readonly frame: number;
  readonly frames: number;
  /** null for black */
  readonly item: FootageItem | null;
  /** the moment of the clip that is seen first, seconds; the later one of its stretch where it runs backwards */
  readonly sourceIn: number;
  /** clip seconds a second: 1 is as it was filmed, 0 stands, negative backwards; the mean where it changes */
  readonly speed: number;
  /** whether its speed changes on the way */
  readonly eased: boolean;
  /** of the clip's own sound, 1 is as recorded */
  readonly sound: number;
  readonly slot: Slot | null;
}

/** The lines of a montage as other programs know them, from below. */
export interface CutList {
  readonly rate: FrameRate;
  readonly frames: number;
  readonly main: readonly CutPiece[];
  /** those over it that hold anything, with black between the cutaways */
  readonly over: readonly (readonly CutPiece[])[];
}

const black = (frame: number, frames: number): CutPiece => ({
  frame,
  frames,
  item: null,
  sourceIn: 0,
  speed: 1,
  eased: false,
  sound: 0,
  slot: null,
});

/** What a slot shows: its clip for as long as it reaches, then black. */
function piecesOf(slot: Slot): CutPiece[] {
  const { placed, start, frames } = slot;
  if (!placed || placed.coveredFrames === 0) return [{ ...black(start.frame, frames), slot }];
  const { item, shot, speed, coveredFrames, curve } = placed;
  const { retime } = shot;
  const eased = retime.kind === 'tied' && (retime.ties.length > 0 || retime.ease !== 'hard');
  const own = {
    frame: start.frame,
    frames: coveredFrames,
    item,
    sourceIn: item.kind === 'photo' ? 0 : curve.source(0),
    speed: item.kind === 'photo' ? 1 : speed,
    eased,
    sound: item.kind === 'photo' || !item.hasSound ? 0 : shot.sound,
    slot,
  };
  return coveredFrames < frames ? [own, { ...black(start.frame + coveredFrames, frames - coveredFrames), slot }] : [own];
}

/** Pieces with black in between, from the montage's start to its end. */
function withBlack(pieces: readonly CutPiece[], frames: number): CutPiece[] {
  const all: CutPiece[] = [];
  let at = 0;
  for (const piece of pieces) {
    if (piece.frame > at) all.push(black(at, piece.frame - at));
    all.push(piece);
    at = piece.frame + piece.frames;
  }
  if (at < frames) all.push(black(at, frames - at));
  return all;
}

/** A montage's cut, line by line; found once for each document. No pieces where there is no song. */
export const cutList = onceFor((montage: Montage): CutList => {
  const score = scoreOf(montage);
  return {
    rate: montage.shape.rate,
    frames: score.frames,
    main: withBlack(score.slots.flatMap(piecesOf), score.frames),
    over: score.overLines.filter((line) => line.length > 0).map((line) => withBlack(line.flatMap(piecesOf), score.frames)),
  };
});
