import { toMontageTime } from '../music/arrangement.ts';
import { cutFrame, frameTime } from '../time/frames.ts';
import { CommandError } from '../document/command-error.ts';
import type { FootageItem, Mark, Montage, Select, Shot } from '../document/montage.ts';
import { placeShot } from '../score/placed-shot.ts';
import { scoreOf, slotFrom, type Slot } from '../score/score.ts';
import { clipLength, stretchesOf } from '../document/footage-item.ts';

/**
 * What of a clip meets what of a slot; clip seconds. Without a time a select's own in, out or hit is meant.
 * A hit meets the slot's first frame, or a mark inside the slot.
 */
export type HangPoint =
  | { readonly kind: 'in'; readonly at?: number }
  | { readonly kind: 'out'; readonly at?: number }
  | { readonly kind: 'hit'; readonly at?: number; readonly markId?: string };

/** What is done where a clip is too short for its slot. */
export type Remedy = 'gap' | 'handles' | 'slow' | 'hold';

/** A clip for a slot, and how they are to meet. */
export interface HangWish {
  readonly assetId: string;
  /** where left out, the first that is not seen elsewhere */
  readonly selectId?: string | undefined;
  readonly point?: HangPoint;
  /** left out: the first of handles, slowing and a gap that does */
  readonly remedy?: Remedy | undefined;
}

/** How a clip would hang in a slot. */
export interface HangPlan {
  readonly shot: Omit<Shot, 'id'>;
  /** montage seconds that the select cannot cover at its own speed, before any remedy */
  readonly short: number;
  /** montage seconds without a picture, after the remedy */
  readonly missing: number;
  /** what would help, with the montage seconds that would still be missing; empty where nothing is short */
  readonly remedies: readonly { readonly remedy: Remedy; readonly missing: number; readonly speed: number }[];
}

/** The slowest that a clip is run to cover a slot unless more is asked for. */
export const LEAST_SPEED = 0.5;

/**
 * The frame of a slot on which a mark falls, or null where it lies outside.
 * @returns counted from the slot's first frame
 */
export function markInSlot(montage: Montage, mark: Mark, slot: Slot): number | null {
  const time = toMontageTime(montage.song?.pieces ?? [], mark.time);
  if (time === null) return null;
  const frame = cutFrame(time, montage.shape.rate, montage.cut.rule, montage.cut.lead) - slot.start.frame;
  return frame >= 0 && frame < slot.frames ? frame : null;
}

/** Where a clip would have to start to meet a slot as wished, clip seconds; may lie outside of it. */
function wantedStart(montage: Montage, slot: Slot, select: Select, point: HangPoint): number {
  if (point.kind === 'in') return point.at ?? select.in;
  if (point.kind === 'out') return (point.at ?? select.out) - slot.length;
  const hit = point.at ?? select.hit ?? select.in;
  const mark = point.markId === undefined ? undefined : montage.marks.find((m) => m.id === point.markId);
  const into = mark ? markInSlot(montage, mark, slot) : 0;
  if (into === null) throw new CommandError('That mark does not lie in this slot.');
  return hit - frameTime(into, montage.shape.rate);
}

/** The select that a time lies in, or else the whole clip. */
export function selectAround(item: FootageItem, seconds: number): Select {
  const selects = stretchesOf(item);
  return selects.find((s) => seconds >= s.in - 1e-6 && seconds < s.out - 1e-6) ?? { id: '', in: 0, out: clipLength(item), hit: null };
}

/** The first select of a clip that is seen in no other slot; the first of all where each is. */
function unusedSelect(montage: Montage, item: FootageItem, slot: Slot): Select {
  const selects = stretchesOf(item);
  if (selects.length === 1) return selects[0]!;
  const used = montage.shots.filter((s) => s.assetId === item.assetId && s.startPeg !== slot.start.id).map((s) => s.sourceIn);
  return selects.find((s) => !used.some((at) => at >= s.in - 1e-6 && at < s.out - 1e-6)) ?? selects[0]!;
}

/** A shot that shows a clip as it was recorded from a moment on. */
export function freshShot(item: FootageItem, startPeg: string, endPeg: string, sourceIn: number): Omit<Shot, 'id'> {
  return {
    assetId: item.assetId,
    startPeg,
    endPeg,
    sourceIn: item.kind === 'photo' ? 0 : Math.max(0, sourceIn),
    retime: { kind: 'rate', rate: 1 },
    whenShort: 'gap',
    framing: item.framing,
    sound: 0,
  };
}

/** The item of footage with an id; a sentence where it is gone. */
export function footageOf(montage: Montage, assetId: string): FootageItem {
  const item = montage.footage.find((f) => f.assetId === assetId);
  if (!item) throw new CommandError('That clip is no longer in the footage.');
  return item;
}

type Covering = Pick<Shot, 'sourceIn' | 'retime' | 'whenShort' | 'until'>;

/**
 * A stretch of a clip laid into a slot. Where it is too short the remedy decides; none moves the slot.
 * @param start where the clip starts at its own speed, clip seconds
 * @param anchor the moment of the clip that must stay where it is in the slot, and how far into it (seconds), if any
 */
function cover(
  item: FootageItem,
  select: Select,
  start: number,
  slot: Slot,
  anchor: { source: number; at: number } | null,
  remedy: Remedy,
  leastSpeed: number,
): Covering {
  const whole = clipLength(item);
  const bounds = remedy === 'handles' ? { in: 0, out: whole } : { in: Math.min(select.in, Math.max(0, start)), out: select.out };
  // A hit must be met exactly; otherwise the stretch may begin a little earlier or later.
  const inside = start >= bounds.in - 1e-6 && start + slot.length <= bounds.out + 1e-6;
  const plain: Covering = {
    sourceIn: Math.max(0, start),
    retime: { kind: 'rate', rate: 1 },
    whenShort: remedy === 'hold' ? 'hold' : 'gap',
  };
  if (inside) return plain;
  // What lies beyond the out is seen only where handles are asked for.
  const ended: Partial<Covering> = remedy !== 'handles' && bounds.out < whole - 1e-6 ? { until: bounds.out } : {};
  if (remedy === 'slow') {
    if (anchor && anchor.at > 1e-6) {
      // Speed below which both sides of the hit are covered by what there is of the clip.
      const [before, after] = [
        (anchor.source - bounds.in) / anchor.at,
        (bounds.out - anchor.source) / Math.max(1e-6, slot.length - anchor.at),
      ];
      const speed = Math.max(leastSpeed, Math.min(1, before, after));
      return { ...plain, ...ended, sourceIn: Math.max(0, anchor.source - anchor.at * speed), retime: { kind: 'rate', rate: speed } };
    }
    const from = Math.max(bounds.in, Math.min(start, bounds.out));
    const speed = Math.max(leastSpeed, Math.min(1, (bounds.out - from) / slot.length));
    if (speed > leastSpeed) return { ...plain, sourceIn: from, retime: { kind: 'fit', sourceOut: bounds.out } };
    return { ...plain, ...ended, sourceIn: from, retime: { kind: 'rate', rate: speed } };
  }
  // Before its start a clip has nothing: it is begun there, and its hit comes that much later.
  return { ...plain, ...ended, sourceIn: Math.max(bounds.in, Math.min(start, Math.max(bounds.in, whole - item.rate.den / item.rate.num))) };
}

const REMEDIES: readonly Remedy[] = ['handles', 'slow', 'hold', 'gap'];

/**
 * How a clip would hang in a slot, with all that could be done where it is too short. Nothing is changed.
 * @throws CommandError where the slot, the clip or the mark is not there
 * @param leastSpeed clip seconds a montage second to which a clip may be slowed
 */
export function planHang(montage: Montage, slot: Slot, wish: HangWish, leastSpeed = LEAST_SPEED): HangPlan {
  const item = footageOf(montage, wish.assetId);
  const blank = freshShot(item, slot.start.id, slot.end.id, 0);
  if (item.kind === 'photo') return { shot: blank, short: 0, missing: 0, remedies: [] };
  const point = wish.point ?? { kind: 'in' };
  const stretches = stretchesOf(item);
  const select =
    stretches.find((s) => s.id === wish.selectId) ??
    (point.at === undefined ? unusedSelect(montage, item, slot) : selectAround(item, point.at));
  const start = wantedStart(montage, slot, select, point);
  const anchor =
    point.kind === 'hit' ? { source: point.at ?? select.hit ?? select.in, at: (point.at ?? select.hit ?? select.in) - start } : null;
  const from = Math.max(select.in, Math.min(start, select.out));
  const short = Math.max(0, start < select.in - 1e-6 ? select.in - start : 0) + Math.max(0, start + slot.length - select.out);
  const tried = (remedy: Remedy): { shot: Omit<Shot, 'id'>; missing: number; speed: number } => {
    const wanted = remedy === 'handles' || remedy === 'slow' || anchor ? start : from;
    const shot = { ...blank, ...cover(item, select, wanted, slot, anchor, remedy, leastSpeed) };
    const placed = placeShot({ ...shot, id: '' }, item, slot.start.frame, slot.end.frame, montage);
    return { shot, missing: placed.missing, speed: placed.speed };
  };
  if (short < frameTime(1, montage.shape.rate) / 2) {
    const { shot, missing } = tried('gap');
    return { shot, short: 0, missing, remedies: [] };
  }
  const all = REMEDIES.map((remedy) => ({ remedy, ...tried(remedy) }));
  const chosen =
    (wish.remedy && all.find((r) => r.remedy === wish.remedy)) ??
    all.find((r) => r.remedy === 'slow' && r.missing === 0) ??
    all.find((r) => r.remedy === 'handles' && r.missing === 0) ??
    all.find((r) => r.remedy === 'slow')!;
  return {
    shot: chosen.shot,
    short,
    missing: chosen.missing,
    remedies: all.map(({ remedy, missing, speed }) => ({ remedy, missing, speed })),
  };
}

/** How much of a slot a clip would leave open if it were hung there, montage seconds; for saying so beforehand. */
export function wouldMiss(montage: Montage, slot: Slot, assetId: string): number {
  return planHang(montage, slot, { assetId }).missing;
}

/** The slot that starts at a peg; a sentence where it is gone. */
export function slotNamed(montage: Montage, startPeg: string): Slot {
  const slot = slotFrom(montage, startPeg);
  if (!slot) throw new CommandError('That slot is no longer there.');
  return slot;
}

/** The stretch of several slots as one. */
export function slotsJoined(montage: Montage, startPeg: string, count: number): Slot {
  const { slots, pegs } = scoreOf(montage);
  const first = slots.find((s) => s.start.id === startPeg);
  if (!first) throw new CommandError('That slot is no longer there.');
  const at = pegs.findIndex((p) => p.id === startPeg);
  const end = pegs[Math.min(pegs.length - 1, at + count)]!;
  const frames = end.frame - first.start.frame;
  return { ...first, end, frames, length: frameTime(frames, montage.shape.rate) };
}
