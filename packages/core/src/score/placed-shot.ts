import { toMontageTime } from '../music/arrangement.ts';
import { cutFrame, frameTime } from '../time/frames.ts';
import { framesPerSecond, type FrameRate } from '../time/rate.ts';
import { byId } from '../lists/by-id.ts';
import type { FootageItem, Montage, Shot } from '../document/montage.ts';
import { sourceCurve, type SourceCurve } from './source-curve.ts';
import { clipLength } from '../document/footage-item.ts';

/** How a shot hangs in its slot. */
export interface PlacedShot {
  readonly shot: Shot;
  readonly item: FootageItem;
  /** clip seconds a montage second, on the whole: 0 where it stands, negative where it runs backwards */
  readonly speed: number;
  /** which moment of the clip is seen when */
  readonly curve: SourceCurve;
  /** how many of the slot's frames the clip covers */
  readonly coveredFrames: number;
  /** how much footage is missing to cover the slot, montage seconds */
  readonly missing: number;
  /** ties whose mark lies in the slot: the frame of the slot at which each is seen */
  readonly ties: readonly { readonly markId: string; readonly source: number; readonly into: number }[];
}

/** Frames of the slot on which the marks of a shot's ties fall; those of other slots and of sleeping marks are left out. */
function placeTies(shot: Shot, first: number, end: number, montage: Montage): PlacedShot['ties'] {
  if (shot.retime.kind !== 'tied') return NO_TIES;
  const { rule, lead } = montage.cut;
  const found = shot.retime.ties.flatMap(({ markId, source }) => {
    const mark = byId(montage.marks, (m) => m.id).get(markId);
    const time = mark ? toMontageTime(montage.song?.pieces ?? [], mark.time) : null;
    const frame = time === null ? -1 : cutFrame(time, montage.shape.rate, rule, lead);
    return frame >= first && frame < end ? [{ markId, source, into: frame - first }] : [];
  });
  return found.sort((a, b) => a.into - b.into).filter((t, i, all) => i === 0 || t.into > all[i - 1]!.into);
}

const NO_TIES: PlacedShot['ties'] = [];

/** A placed shot whose curve is made when it is first asked for: of a long score only a few are looked at. */
class Laid implements PlacedShot {
  private made: SourceCurve | null = null;

  constructor(
    readonly shot: Shot,
    readonly item: FootageItem,
    readonly speed: number,
    readonly coveredFrames: number,
    readonly missing: number,
    readonly ties: PlacedShot['ties'],
    private readonly length: number,
    private readonly rate: FrameRate,
  ) {}

  get curve(): SourceCurve {
    return (this.made ??= curveOf(this.shot, this.item, this.length, this.ties, this.rate));
  }
}

function curveOf(shot: Shot, item: FootageItem, length: number, ties: PlacedShot['ties'], rate: FrameRate): SourceCurve {
  if (item.kind === 'photo') return sourceCurve([{ at: 0, source: 0 }], 'hard');
  const { retime, sourceIn } = shot;
  const from = { at: 0, source: sourceIn };
  if (retime.kind === 'freeze') return sourceCurve([from], 'hard');
  if (retime.kind === 'rate') return sourceCurve([from, { at: length, source: sourceIn + retime.rate * length }], 'hard');
  const to = { at: length, source: retime.sourceOut };
  if (retime.kind === 'fit') return sourceCurve([from, to], 'hard');
  const tied = ties.map(({ into, source }) => ({ at: frameTime(into, rate), source }));
  const nodes = [...(tied[0]?.at === 0 ? [] : [from]), ...tied, to];
  return sourceCurve(nodes, retime.ease, retime.edges);
}

/**
 * How many frames a clip covers when it runs at an even speed. The last source frame lasts until its end, so a montage
 * frame is covered while its moment lies before that; backwards, while it lies not before the clip's start.
 */
function framesCovered(sourceIn: number, speed: number, length: number, frames: number, montage: Montage): number {
  const fps = framesPerSecond(montage.shape.rate);
  if (speed === 0) return frames;
  const count = speed > 0 ? Math.ceil(((length - sourceIn) / speed) * fps - 1e-6) : Math.floor((sourceIn / -speed) * fps + 1e-4) + 1;
  return Math.min(frames, Math.max(0, count));
}

/** How a shot covers the frames from one cut to another. @param first @param end frames of the montage */
export function placeShot(shot: Shot, item: FootageItem, first: number, end: number, montage: Montage): PlacedShot {
  const frames = end - first;
  const { rate } = montage.shape;
  const length = frameTime(frames, rate);
  if (item.kind === 'photo') return new Laid(shot, item, 1, frames, 0, NO_TIES, length, rate);
  const ties = placeTies(shot, first, end, montage);
  const { retime } = shot;
  const speed = retime.kind === 'freeze' ? 0 : retime.kind === 'rate' ? retime.rate : (retime.sourceOut - shot.sourceIn) / length;
  const runsOut = Math.min(shot.until ?? Infinity, clipLength(item));
  const coveredFrames = retime.kind === 'rate' ? framesCovered(shot.sourceIn, speed, runsOut, frames, montage) : frames;
  return new Laid(shot, item, speed, coveredFrames, frameTime(frames - coveredFrames, rate), ties, length, rate);
}

/** A frame's index at a moment of a clip, with slack for times that came from frames. */
const SLACK_FRAMES = 1e-4;

/**
 * The clip's own frame that is seen `into` frames after the start of its slot, or null where the clip has run out.
 * @example
 * sourceFrame(scoreOf(montage).slots[1].placed, 10, montage) // 10
 */
export function sourceFrame(placed: PlacedShot, into: number, montage: Montage): number | null {
  const { shot, item, curve } = placed;
  if (item.kind === 'photo') return 0;
  if (into >= placed.coveredFrames && shot.whenShort === 'gap') return null;
  const seconds = curve.source(frameTime(into, montage.shape.rate));
  const frame = Math.floor((seconds * item.rate.num) / item.rate.den + SLACK_FRAMES);
  const last = shot.until === undefined ? item.frames : Math.ceil((shot.until * item.rate.num) / item.rate.den - SLACK_FRAMES);
  return Math.max(0, Math.min(item.frames - 1, last - 1, frame));
}

/**
 * The clip's frame where a shot runs on before its slot's start or after its end, as fast as it runs there; the clip's first
 * or last where there is no more of it. @param frames of the slot
 */
export function sourceFrameBeyond(placed: PlacedShot, into: number, frames: number, montage: Montage): number {
  const { item, curve } = placed;
  if (item.kind === 'photo') return 0;
  const { rate } = montage.shape;
  const at = frameTime(into, rate);
  const edge = into < 0 ? 0 : frameTime(frames, rate);
  const seconds = curve.source(edge) + curve.speed(edge) * (at - edge);
  return Math.max(0, Math.min(item.frames - 1, Math.floor((seconds * item.rate.num) / item.rate.den + SLACK_FRAMES)));
}

/**
 * The two frames of a clip between which a moment lies, and how much of the second is seen in the first; for shots that
 * are blended, else null.
 */
export function blendAt(placed: PlacedShot, into: number, montage: Montage): { readonly next: number; readonly part: number } | null {
  const { shot, item, curve } = placed;
  if (!shot.blend || item.kind === 'photo' || into >= placed.coveredFrames) return null;
  const exact = (curve.source(frameTime(into, montage.shape.rate)) * item.rate.num) / item.rate.den;
  const frame = Math.floor(exact + SLACK_FRAMES);
  const part = exact - frame;
  return part < 0.02 || frame + 1 >= item.frames || frame < 0 ? null : { next: frame + 1, part: Math.min(1, part) };
}

/** Clip seconds seen at the start and at the end of a slot, in the order of time. */
export function sourceSpan(placed: PlacedShot, montage: Montage): { readonly from: number; readonly to: number } {
  const length = frameTime(placed.coveredFrames, montage.shape.rate);
  const ends = placed.curve.nodes.filter((n) => n.at < length).map((n) => n.source);
  ends.push(placed.shot.retime.kind === 'freeze' ? placed.shot.sourceIn : placed.curve.source(length));
  return { from: Math.max(0, Math.min(...ends)), to: Math.max(...ends) };
}

/**
 * Footage left before and after what a shot shows, clip seconds.
 * @returns Infinity for photos
 */
export function handlesOf(placed: PlacedShot, montage: Montage): { readonly before: number; readonly after: number } {
  if (placed.item.kind === 'photo') return { before: Infinity, after: Infinity };
  const { from, to } = sourceSpan(placed, montage);
  return { before: from, after: Math.max(0, clipLength(placed.item) - to) };
}
