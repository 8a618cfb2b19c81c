import { toSongTime } from '../music/arrangement.ts';
import { frameTime } from '../time/frames.ts';
import { framesPerSecond } from '../time/rate.ts';
import { clipLength, type Montage, type Peg, type Shot } from './document.ts';
import { scoreOf, type PlacedPeg, type Slot } from './score.ts';
import { shotBefore, speedAfter, type SettleOptions, type SettlePlan, type ShotBefore } from './settle.ts';

/** A shot as it runs after its ends have moved. Seconds from its old start to its new one, and its new length. */
function settledShot(before: ShotBefore, lead: number, length: number, speed: number, options: SettleOptions): Shot {
  const { placed } = before.slot!;
  const { shot, item } = placed!;
  if (item.kind === 'photo' || shot.retime.kind === 'freeze') return shot;
  const inClip = (seconds: number): number => Math.max(0, Math.min(clipLength(item), seconds));
  const { until: _, ...rest } = shot;
  const pace = placed!.speed;
  if (options.way === 'retime') return { ...rest, retime: { kind: 'fit', sourceOut: inClip(placed!.curve.source(before.slot!.length)) } };
  const sourceIn = options.way === 'roll' ? inClip(shot.sourceIn - Math.min(lead, before.handleBefore) * pace) : shot.sourceIn;
  if (speed > 1 - 1e-6)
    return { ...rest, sourceIn, retime: shot.retime.kind === 'rate' ? shot.retime : { kind: 'rate', rate: Math.max(0.05, pace) } };
  return { ...rest, sourceIn, retime: { kind: 'fit', sourceOut: inClip(sourceIn + length * speed * pace) } };
}

/** Lays the cuts where a plan says and trims or retimes the shots between them. */
export function takeSettle(montage: Montage, plan: SettlePlan, options: SettleOptions): Montage {
  const { rate } = montage.shape;
  const fps = framesPerSecond(rate);
  const pieces = montage.song?.pieces ?? [];
  const to = new Map(plan.cuts.map((c) => [c.pegId, c]));
  const marks = new Map(montage.marks.map((m) => [m.id, m]));
  const pegs = montage.pegs.map((p): Peg => {
    const cut = to.get(p.id);
    if (!cut) return p;
    const mark = cut.markId === null ? undefined : marks.get(cut.markId);
    if (mark) return { ...p, markId: mark.id, time: mark.time, offset: 0, origin: 'hand' };
    return { ...p, markId: null, time: toSongTime(pieces, frameTime(cut.toFrame, rate)), offset: 0 };
  });
  const laid = (p: PlacedPeg): number => to.get(p.id)?.toFrame ?? p.frame;
  const speeds = new Map<string, number>();
  const shots = new Map<string, Shot>();
  const { slots } = scoreOf(montage);
  for (const slot of slots) {
    const [from, end] = [laid(slot.start), laid(slot.end)];
    if (!slot.placed || (from === slot.start.frame && end === slot.end.frame)) continue;
    const before = shotBefore(slot);
    const speed = speedAfter(before, from, end, options, fps);
    speeds.set(slot.placed.shot.id, speed);
    shots.set(slot.placed.shot.id, settledShot(before, (slot.start.frame - from) / fps, (end - from) / fps, speed, options));
  }
  const eased = options.way === 'retime' && options.ease === 'eased' ? easeAcross(slots, shots, speeds) : shots;
  return { ...montage, pegs, shots: montage.shots.map((s) => eased.get(s.id) ?? s) };
}

/** Speeds that go over into the neighbours': at a cut both shots run at the mean of the two. */
function easeAcross(slots: readonly Slot[], shots: ReadonlyMap<string, Shot>, speeds: ReadonlyMap<string, number>): Map<string, Shot> {
  const paceOf = (slot: Slot | undefined): number | null =>
    slot?.placed && slot.placed.item.kind === 'clip' ? slot.placed.speed * (speeds.get(slot.placed.shot.id) ?? 1) : null;
  const eased = new Map(shots);
  slots.forEach((slot, i) => {
    const own = paceOf(slot);
    const shot = slot.placed && shots.get(slot.placed.shot.id);
    if (own === null || !shot || shot.retime.kind !== 'fit' || own <= 0) return;
    const mean = (other: number | null): number => Math.max(0, Math.min(40, other === null ? own : (own + other) / 2));
    const edges = { start: mean(paceOf(slots[i - 1])), end: mean(paceOf(slots[i + 1])) };
    eased.set(shot.id, { ...shot, retime: { kind: 'tied', sourceOut: shot.retime.sourceOut, ties: [], ease: 'eased', edges } });
  });
  return eased;
}
