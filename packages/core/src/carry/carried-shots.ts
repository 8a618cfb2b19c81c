import { END_PEG, type Montage, type Move, type Retime, type Shot } from '../document/montage.ts';
import { toMontageTime, toSongTime } from '../music/arrangement.ts';
import { cutFrame, frameTime } from '../time/frames.ts';
import { pegsOf, scoreOf, slotOf, type Slot } from '../score/score.ts';
import { selectAround } from '../shots/hang-shot.ts';
import type { Crossing } from './crossing.ts';

/** The shots of a montage in another song, and those that found no place. */
export interface CarriedShots {
  readonly shots: readonly Shot[];
  readonly homeless: readonly Slot[];
}

/** A shot with what is tied to marks on the marks of the other song. */
function retied(shot: Shot, crossing: Crossing): Shot {
  const { retime, moves } = shot;
  const ties =
    retime.kind !== 'tied'
      ? null
      : retime.ties.flatMap((tie) => {
          const markId = crossing.moment({ markId: tie.markId, time: 0 })?.markId;
          return markId ? [{ ...tie, markId }] : [];
        });
  const moved = moves?.flatMap((move): Move[] => {
    const from = move.from && crossing.moment(move.from);
    const to = move.to && crossing.moment(move.to);
    // A move whose moment is gone goes over the whole slot.
    return [{ ...move, from: from ?? null, to: to ?? null }];
  });
  const time: Retime = ties && retime.kind === 'tied' ? { ...retime, ties } : retime;
  return { ...shot, retime: time, ...(moved ? { moves: moved } : {}) };
}

/** The shot begun so that its hit is seen at the same bar and beat as before. */
function onItsHit(shot: Shot, before: Slot, source: Montage, after: Montage, crossing: Crossing): Shot {
  if (shot.retime.kind !== 'rate' || shot.retime.rate <= 0 || before.placed!.item.kind === 'photo') return shot;
  const { rate } = shot.retime;
  const { hit } = selectAround(before.placed!.item, shot.sourceIn);
  const into = hit === null ? -1 : (hit - shot.sourceIn) / rate;
  if (hit === null || into <= 0 || into >= before.length) return shot;
  const fps = source.shape.rate;
  const heard = toSongTime(source.song!.pieces, frameTime(before.start.frame, fps) + into);
  const mark = source.marks.find((m) => {
    const at = toMontageTime(source.song!.pieces, m.time);
    return at !== null && cutFrame(at, fps, source.cut.rule, source.cut.lead) === before.start.frame + Math.round(into / frameTime(1, fps));
  });
  const there = crossing.moment({ markId: mark?.id ?? null, time: heard });
  const at = there && toMontageTime(after.song!.pieces, there.time);
  const slot = slotOf(after, shot.id);
  if (at === null || !slot) return shot;
  const frame = cutFrame(at, after.shape.rate, after.cut.rule, after.cut.lead);
  if (frame <= slot.start.frame || frame >= slot.end.frame) return shot;
  return { ...shot, sourceIn: Math.max(0, hit - rate * frameTime(frame - slot.start.frame, after.shape.rate)) };
}

/**
 * Hangs the shots of a montage from the pegs that stand for theirs.
 * @param after the montage of the other song, with its pegs and footage, without shots
 * @param names the peg that stands for each of the old ones
 */
export function carriedShots(source: Montage, after: Montage, crossing: Crossing, names: ReadonlyMap<string, string>): CarriedShots {
  const { pegs: oldPegs, places: oldPlaces } = pegsOf(source);
  const { pegs, places, overPegs } = pegsOf(after);
  const here = new Set(after.footage.map((f) => f.assetId));
  const shots: Shot[] = [];
  const before = new Map<string, Slot>();
  const homeless: Slot[] = [];
  const { slots, over } = scoreOf(source);
  const taken = new Set<number>();
  const overAt = new Map(overPegs.map((p) => [p.id, p.frame]));
  for (const slot of [...slots, ...over]) {
    const shot = slot.placed?.shot;
    if (!shot) continue;
    const startPeg = names.get(slot.start.id);
    const there = shot.over ? undefined : places.get(startPeg ?? '');
    const endPeg = ((): string | undefined => {
      if (!here.has(shot.assetId) || startPeg === undefined) return undefined;
      if (shot.over) {
        const end = names.get(shot.endPeg);
        const [a, b] = [overAt.get(startPeg), overAt.get(end ?? '')];
        return a !== undefined && b !== undefined && b > a ? end : undefined;
      }
      if (there === undefined || taken.has(there)) return undefined;
      // A shot over several slots reaches over those of them that came along.
      const inner = oldPegs.slice(oldPlaces.get(slot.start.id)! + 1, oldPlaces.get(slot.end.id)).map((p) => names.get(p.id));
      let end = there + 1;
      while (end < pegs.length - 1 && inner.includes(pegs[end]!.id)) end++;
      taken.add(there);
      return pegs[end]?.id ?? END_PEG;
    })();
    if (endPeg === undefined) homeless.push(slot);
    else {
      before.set(shot.id, slot);
      shots.push({ ...retied(shot, crossing), startPeg: startPeg!, endPeg });
    }
  }
  const hung = { ...after, shots };
  return { shots: shots.map((s) => (s.over ? s : onItsHit(s, before.get(s.id)!, source, hung, crossing))), homeless };
}
