import { toSongTime } from '../music/arrangement.ts';
import { frameTime } from '../time/frames.ts';
import { framesPerSecond } from '../time/rate.ts';
import { byId, withChanged } from '../lists/by-id.ts';
import type { Montage, Peg, Shot, Draft } from '../document/montage.ts';
import { scoreOf, type PlacedPeg, type Slot } from '../score/score.ts';
import { shotBefore, speedAfter, type SettleOptions, type SettlePlan, type ShotBefore } from './settle.ts';
import { clipLength } from '../document/footage-item.ts';

/** A shot as it runs after its ends have moved. Seconds from its old start to its new one, and its new length. */
function settledShot(before: ShotBefore, lead: number, length: number, speed: number, options: SettleOptions): Shot {
  const { placed } = before.slot!;
  const { shot, item } = placed!;
  if (item.kind === 'photo' || shot.retime.kind === 'freeze') return shot;
  const inClip = (seconds: number): number => Math.max(0, Math.min(clipLength(item), seconds));
  const settled = withoutEnd(shot);
  const pace = placed!.speed;
  if (options.way === 'retime') settled.retime = { kind: 'fit', sourceOut: inClip(placed!.curve.source(before.slot!.length)) };
  else {
    if (options.way === 'roll') settled.sourceIn = inClip(shot.sourceIn - Math.min(lead, before.handleBefore) * pace);
    if (speed <= 1 - 1e-6) settled.retime = { kind: 'fit', sourceOut: inClip(settled.sourceIn + length * speed * pace) };
    else if (shot.retime.kind !== 'rate') settled.retime = { kind: 'rate', rate: Math.max(0.05, pace) };
  }
  return settled;
}

/**
 * A copy of a shot without an end of its own. Leaving a property out costs ten times a copy, and few shots have it; writing
 * into the copy takes half the time of naming properties in the spread.
 */
function withoutEnd(shot: Shot): Draft<Shot> {
  if (shot.until === undefined) return { ...shot };
  const { until: _, ...rest } = shot;
  return rest;
}

/** Lays the cuts where a plan says and trims or retimes the shots between them. */
export function takeSettle(montage: Montage, plan: SettlePlan, options: SettleOptions): Montage {
  const { rate } = montage.shape;
  const fps = framesPerSecond(rate);
  const pieces = montage.song?.pieces ?? [];
  const to = new Map<string, SettlePlan['cuts'][number]>();
  for (const cut of plan.cuts) to.set(cut.pegId, cut);
  const marks = byId(montage.marks, (m) => m.id);
  const pegs = montage.pegs.map((p): Peg => {
    const cut = to.get(p.id);
    if (!cut) return p;
    const mark = cut.markId === null ? undefined : marks.get(cut.markId);
    const moved: Draft<Peg> = { ...p };
    moved.markId = mark?.id ?? null;
    moved.time = mark?.time ?? toSongTime(pieces, frameTime(cut.toFrame, rate));
    moved.offset = 0;
    if (mark) moved.origin = 'hand';
    return moved;
  });
  const laid = (p: PlacedPeg): number => to.get(p.id)?.toFrame ?? p.frame;
  const { slots } = scoreOf(montage);
  const settled: Settled[] = [];
  let end = slots[0] ? laid(slots[0].start) : 0;
  for (const slot of slots) {
    const from = end;
    end = laid(slot.end);
    if (!slot.placed || (from === slot.start.frame && end === slot.end.frame)) {
      settled.push({ slot, speed: 1, shot: null });
      continue;
    }
    const before = shotBefore(slot);
    const speed = speedAfter(before, from, end, options, fps);
    settled.push({ slot, speed, shot: settledShot(before, (slot.start.frame - from) / fps, (end - from) / fps, speed, options) });
  }
  const eased = options.way === 'retime' && options.ease === 'eased';
  const changed: Shot[] = [];
  settled.forEach(({ shot }, i) => {
    if (shot) changed.push(eased ? easedInto(settled, i, shot) : shot);
  });
  return { ...montage, pegs, shots: withChanged(montage.shots, changed) };
}

/** A slot of before, its shot as it runs now (null where it is as it was), and how fast in times of before. */
interface Settled {
  readonly slot: Slot;
  readonly speed: number;
  readonly shot: Shot | null;
}

/** Speeds that go over into the neighbours': at a cut both shots run at the mean of the two. */
function easedInto(settled: readonly Settled[], i: number, shot: Shot): Shot {
  const own = paceOf(settled[i]);
  if (own === null || own <= 0 || shot.retime.kind !== 'fit') return shot;
  const mean = (other: number | null): number => Math.max(0, Math.min(40, other === null ? own : (own + other) / 2));
  const edges = { start: mean(paceOf(settled[i - 1])), end: mean(paceOf(settled[i + 1])) };
  return { ...shot, retime: { kind: 'tied', sourceOut: shot.retime.sourceOut, ties: [], ease: 'eased', edges } };
}

const paceOf = (one: Settled | undefined): number | null =>
  one?.slot.placed?.item.kind === 'clip' ? one.slot.placed.speed * one.speed : null;
