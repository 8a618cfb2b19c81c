import { frame as frameIt } from '../geometry/framing.ts';
import { frameTime } from '../time/frames.ts';
import { framesPerSecond, type FrameRate } from '../time/rate.ts';
import type { Framing, Mark, Montage } from '../document/montage.ts';
import { blendAt, handlesOf, sourceFrame, sourceSpan } from '../score/placed-shot.ts';
import { scoreOf, shownAt, type Slot } from '../score/score.ts';

/** What deserves a second look at a shot. */
export type Warning = 'gap' | 'very short' | 'repeated' | 'off mark on purpose' | 'low resolution' | 'black at the edges' | 'fast' | 'slow';

/** One cut, measured against its mark. */
export interface CutReport {
  /** 1 for the first cut */
  readonly number: number;
  readonly frame: number;
  /** montage seconds at which the cut's frame starts */
  readonly time: number;
  readonly mark: { readonly kind: Mark['kind']; readonly songTime: number; readonly time: number; readonly part: number | null } | null;
  /** how late the cut is against its mark; negative when early; null for a free peg */
  readonly errorMs: number | null;
  readonly errorFrames: number | null;
  /** whether the picture changes here: not between two empty slots, nor where a clip simply goes on */
  readonly visible: boolean;
  /** number of the slot that starts here */
  readonly slot: number;
}

/** One slot and what hangs in it. */
export interface SlotReport {
  readonly number: number;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly clip: string | null;
  readonly sourceIn: number | null;
  /** the clip's own first and last frame seen */
  readonly sourceFrames: readonly [number, number] | null;
  readonly speed: number | null;
  readonly framing: Framing | null;
  /** clip seconds left before and after what is seen; null for photos */
  readonly handles: readonly [number, number] | null;
  /** montage seconds without a picture */
  readonly missing: number;
  readonly warnings: readonly Warning[];
}

export interface SyncReport {
  readonly width: number;
  readonly height: number;
  readonly rate: FrameRate;
  readonly frames: number;
  readonly cuts: readonly CutReport[];
  readonly slots: readonly SlotReport[];
  /** cutaways over the line */
  readonly over: readonly SlotReport[];
  readonly worstErrorMs: number;
  /** of the cuts that belong to marks */
  readonly meanErrorMs: number;
  readonly freeCuts: number;
  readonly emptySlots: number;
  readonly shortShots: number;
  readonly warnings: number;
}

/** A shot of fewer frames is hardly seen. */
const VERY_SHORT_FRAMES = 4;
/** Within so many slots a clip that comes again is noticed. */
const REPEAT_SLOTS = 3;
const round = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;

function pictureChanges(cut: number, montage: Montage): boolean {
  const [a, b] = [shownAt(montage, cut - 1), shownAt(montage, cut)];
  if (!a || !b) return a !== b;
  if (a.slot === b.slot) return false;
  if (a.placed.item.assetId !== b.placed.item.assetId) return true;
  if (a.placed.shot.framing !== b.placed.shot.framing) return true;
  if (a.placed.item.kind === 'photo') return false;
  const pace = (Math.abs(b.placed.speed) * framesPerSecond(b.placed.item.rate)) / framesPerSecond(montage.shape.rate);
  const blended = blendAt(b.placed, cut - b.slot.start.frame, montage) !== null;
  return Math.abs(b.source - a.source) > Math.ceil(pace) + 1 || (blended && pace === 0);
}

/** Places of the slots that show each clip, so that a long score is not walked through for each of its slots. */
type PlacesByClip = ReadonlyMap<string, readonly number[]>;

function placesByClip(slots: readonly Slot[]): PlacesByClip {
  const places = new Map<string, number[]>();
  slots.forEach(({ placed }, i) => {
    if (!placed) return;
    const own = places.get(placed.item.assetId);
    if (own) own.push(i);
    else places.set(placed.item.assetId, [i]);
  });
  return places;
}

/** Whether a clip was shown shortly before, or this part of it at any time before. A clip that simply goes on was cut on purpose. */
function shownBefore(slots: readonly Slot[], at: number, places: PlacesByClip, montage: Montage): boolean {
  const { placed } = slots[at]!;
  if (!placed) return false;
  const part = sourceSpan(placed, montage);
  return (places.get(placed.item.assetId) ?? []).some((i) => {
    if (i >= at - 1) return false;
    if (at - i <= REPEAT_SLOTS) return true;
    const theirs = sourceSpan(slots[i]!.placed!, montage);
    return placed.item.kind === 'clip' && Math.min(part.to, theirs.to) - Math.max(part.from, theirs.from) > 0.1;
  });
}

function warningsOf(slots: readonly Slot[], at: number, places: PlacesByClip, montage: Montage): Warning[] {
  const slot = slots[at]!;
  const { placed } = slot;
  const found: Warning[] = [];
  if (slot.start.peg && !slot.start.mark) found.push('off mark on purpose');
  if (!placed) return ['gap', ...found];
  if (placed.missing > 0 && placed.shot.whenShort === 'gap') found.push('gap');
  if (slot.frames < VERY_SHORT_FRAMES) found.push('very short');
  const { item, shot } = placed;
  if (shownBefore(slots, at, places, montage)) found.push('repeated');
  const { source, target } = frameIt(item.width, item.height, montage.shape, shot.framing, item.focus);
  if (source.width < 0.99 * target.width - 2) found.push('low resolution');
  if (shot.framing === 'fit' && (target.width < montage.shape.width - 2 || target.height < montage.shape.height - 2))
    found.push('black at the edges');
  const speed = Math.abs(placed.speed);
  if (item.kind === 'clip' && speed > 2.001) found.push('fast');
  if (item.kind === 'clip' && speed > 0 && speed < 0.499 && !shot.blend) found.push('slow');
  return found;
}

function slotReport(slots: readonly Slot[], at: number, places: PlacesByClip, montage: Montage): SlotReport {
  const slot = slots[at]!;
  const { placed } = slot;
  const film = placed?.item.kind === 'clip' ? placed : null;
  const handles = film && handlesOf(film, montage);
  const shown = film && [sourceFrame(film, 0, montage), sourceFrame(film, Math.max(0, film.coveredFrames - 1), montage)];
  return {
    number: at + 1,
    fromFrame: slot.start.frame,
    toFrame: slot.end.frame,
    clip: placed?.item.name ?? null,
    sourceIn: placed?.shot.sourceIn ?? null,
    sourceFrames: shown && shown[0] !== null && shown[1] !== null ? [shown[0]!, shown[1]!] : null,
    speed: placed ? round(placed.speed, 4) : null,
    framing: placed?.shot.framing ?? null,
    handles: handles && [round(handles.before, 3), round(handles.after, 3)],
    missing: placed ? placed.missing : slot.length,
    warnings: warningsOf(slots, at, places, montage),
  };
}

/**
 * Measures every cut of a montage against the mark it belongs to, and looks at every shot.
 * Errors are planned, in ms: the film has not been looked at. No cuts and no shots where there is no song.
 * @example
 * syncReport(montage).frames // 600
 */
export function syncReport(montage: Montage): SyncReport {
  const score = scoreOf(montage);
  const { rate, width, height } = montage.shape;
  const cuts = score.slots.slice(1).map((slot, i): CutReport => {
    const { mark, frame, time, peg } = slot.start;
    const at = frameTime(frame, rate);
    const error = mark ? at - time : null;
    return {
      number: i + 1,
      frame,
      time: at,
      mark: mark && { kind: mark.kind, songTime: mark.time, time, part: peg?.part ?? null },
      errorMs: error === null ? null : round(error * 1e3, 3),
      errorFrames: error === null ? null : round(error * framesPerSecond(rate), 3),
      visible: pictureChanges(frame, montage),
      slot: i + 2,
    };
  });
  const reports = (all: readonly Slot[]): SlotReport[] => {
    const places = placesByClip(all);
    return all.map((_, i) => slotReport(all, i, places, montage));
  };
  const slots = reports(score.slots);
  const over = reports(score.over);
  const errors = cuts.flatMap((cut) => (cut.errorMs === null ? [] : [Math.abs(cut.errorMs)]));
  return {
    width,
    height,
    rate,
    frames: score.frames,
    cuts,
    slots,
    over,
    worstErrorMs: Math.max(0, ...errors),
    meanErrorMs: errors.length > 0 ? round(errors.reduce((a, b) => a + b, 0) / errors.length, 3) : 0,
    freeCuts: cuts.length - errors.length,
    emptySlots: score.slots.filter((s) => !s.placed).length,
    shortShots: score.slots.filter((s) => s.placed && s.placed.missing > 0).length,
    warnings: slots.reduce((sum, s) => sum + s.warnings.length, 0),
  };
}
