import { frameTime } from '../time/frames.ts';
import { framesPerSecond, type FrameRate } from '../time/rate.ts';
import type { Framing, Mark, Montage } from './document.ts';
import { scoreOf, sourceFrame, type Slot } from './score.ts';

/** One cut, measured against its mark. */
export interface CutReport {
  /** 1 for the first cut */
  readonly number: number;
  readonly frame: number;
  /** montage seconds at which the cut's frame starts */
  readonly time: number;
  readonly mark: { readonly kind: Mark['kind']; readonly songTime: number; readonly time: number } | null;
  /** how late the cut is against its mark; negative when early; null for a free peg */
  readonly errorMs: number | null;
  readonly errorFrames: number | null;
  /** whether the picture changes here: not between two empty slots, nor where a clip simply goes on */
  readonly visible: boolean;
}

/** One slot and what hangs in it. */
export interface SlotReport {
  readonly number: number;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly clip: string | null;
  readonly sourceIn: number | null;
  readonly speed: number | null;
  readonly framing: Framing | null;
  /** montage seconds without a picture */
  readonly missing: number;
}

export interface SyncReport {
  readonly width: number;
  readonly height: number;
  readonly rate: FrameRate;
  readonly frames: number;
  readonly cuts: readonly CutReport[];
  readonly slots: readonly SlotReport[];
  readonly worstErrorMs: number;
  readonly emptySlots: number;
  readonly shortShots: number;
}

function pictureChanges(before: Slot, after: Slot, montage: Montage): boolean {
  const [a, b] = [before.placed, after.placed];
  const shownBefore = a && sourceFrame(a, before.frames - 1, montage);
  const shownAfter = b && sourceFrame(b, 0, montage);
  if ((shownBefore ?? null) === null || (shownAfter ?? null) === null) return (shownBefore ?? null) !== (shownAfter ?? null);
  if (a!.item.assetId !== b!.item.assetId) return true;
  if (a!.item.kind === 'photo') return a!.shot.framing !== b!.shot.framing;
  const pace = (b!.speed * framesPerSecond(b!.item.rate)) / framesPerSecond(montage.shape.rate);
  return Math.abs(shownAfter! - shownBefore!) > Math.ceil(pace) + 1 || a!.shot.framing !== b!.shot.framing;
}

/** Measures every cut of a montage against the mark it belongs to. */
export function syncReport(montage: Montage): SyncReport {
  const score = scoreOf(montage);
  const { rate, width, height } = montage.shape;
  const cuts = score.slots.slice(1).map((slot, i): CutReport => {
    const { mark, frame, time } = slot.start;
    const at = frameTime(frame, rate);
    const error = mark ? at - time : null;
    return {
      number: i + 1,
      frame,
      time: at,
      mark: mark && { kind: mark.kind, songTime: mark.time, time },
      errorMs: error === null ? null : Math.round(error * 1e6) / 1e3,
      errorFrames: error === null ? null : Math.round(error * framesPerSecond(rate) * 1e3) / 1e3,
      visible: pictureChanges(score.slots[i]!, slot, montage),
    };
  });
  const slots = score.slots.map((slot): SlotReport => {
    const { placed } = slot;
    return {
      number: slot.index + 1,
      fromFrame: slot.start.frame,
      toFrame: slot.end.frame,
      clip: placed?.item.name ?? null,
      sourceIn: placed?.shot.sourceIn ?? null,
      speed: placed ? Math.round(placed.speed * 1e4) / 1e4 : null,
      framing: placed?.shot.framing ?? null,
      missing: placed ? placed.missing : slot.length,
    };
  });
  return {
    width,
    height,
    rate,
    frames: score.frames,
    cuts,
    slots,
    worstErrorMs: cuts.reduce((worst, cut) => Math.max(worst, Math.abs(cut.errorMs ?? 0)), 0),
    emptySlots: score.slots.filter((s) => !s.placed).length,
    shortShots: score.slots.filter((s) => s.placed && s.placed.missing > 0).length,
  };
}
