import { frameTime } from '../time/frames.ts';
import { toMontageTime } from '../music/arrangement.ts';
import { CommandError } from './command-error.ts';
import { END_PEG, START_PEG, type Montage, type Peg, type Shot } from './document.ts';
import type { PegPlace } from './peg-rules.ts';
import { endMoved } from './retime.ts';
import { pegsOf, scoreOf } from './score.ts';

/**
 * A montage with other pegs. A shot whose first peg is gone goes too; one whose last peg is gone reaches to the peg that
 * follows; one between whose ends new pegs came ends at the first of them.
 */
export function rehang(montage: Montage, pegs: readonly Peg[]): Montage {
  const there = new Set(pegs.map((p) => p.id));
  const had = new Set(montage.pegs.map((p) => p.id));
  const oldOrder = pegsOf(montage).pegs.map((p) => p.id);
  const oldPlace = new Map(oldOrder.map((id, i) => [id, i]));
  const next = { ...montage, pegs, shots: [] as Shot[] };
  const hung = pegsOf(next);
  const order = hung.pegs.map((p) => p.id);
  const slots = new Map(scoreOf(montage).slots.flatMap((s) => (s.placed ? [[s.placed.shot.id, s] as const] : [])));
  /** A clip that was slowed to fit its slot does not race through a shorter one. */
  const keepingPace = (s: Shot, end: number): Shot => {
    const slot = slots.get(s.id);
    return slot ? endMoved(slot.placed!, slot.length, frameTime(end - slot.end.frame, montage.shape.rate)) : s;
  };
  const place = new Map(order.map((id, i) => [id, i]));
  const endOf = (s: Shot, at: number): string => {
    let end = place.get(s.endPeg);
    for (let i = oldPlace.get(s.endPeg) ?? oldOrder.length; end === undefined && i < oldOrder.length; i++) end = place.get(oldOrder[i]!);
    if (end === undefined || end <= at) return order[at + 1] ?? END_PEG;
    const fresh = order.slice(at + 1, end).find((id) => !had.has(id));
    return fresh ?? order[end]!;
  };
  const shots = montage.shots
    .filter((s) => s.startPeg === START_PEG || there.has(s.startPeg))
    .flatMap((s): Shot[] => {
      if (s.over) return there.has(s.endPeg) ? [s] : [];
      const at = place.get(s.startPeg);
      if (at === undefined) return [there.has(s.endPeg) || s.endPeg === END_PEG ? s : { ...s, endPeg: END_PEG }];
      const endPeg = endOf(s, at);
      if (endPeg === s.endPeg) return [s];
      return [{ ...keepingPace(s, hung.pegs[place.get(endPeg)!]!.frame), endPeg }];
    });
  return { ...next, shots };
}

/** The peg of an id; a sentence where it is gone. */
export function pegNamed(montage: Montage, id: string): Peg {
  const found = montage.pegs.find((p) => p.id === id);
  if (!found) throw new CommandError('That peg is no longer there. The start and the end of the montage always stay.');
  return found;
}

/** A peg for a place, with a new id. */
export function pegAt(place: PegPlace, id: string, origin: Peg['origin']): Peg {
  const part = place.part === undefined ? {} : { part: place.part };
  return { id, markId: place.markId, time: place.time, offset: 0, ...part, origin };
}

/** What tells places apart: the mark and the part of a beat after it, or the time. */
export function placeKey(montage: Montage, place: PegPlace): string {
  if (place.markId !== null) return `${place.markId} ${place.part?.toFixed(3) ?? ''}`;
  const at = toMontageTime(montage.song?.pieces ?? [], place.time);
  return `at ${(at ?? -place.time).toFixed(3)}`;
}
