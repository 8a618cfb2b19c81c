import { byId } from '../lists/by-id.ts';
import { frameTime } from '../time/frames.ts';
import { toMontageTime } from '../music/arrangement.ts';
import { CommandError } from '../document/command-error.ts';
import { END_PEG, START_PEG, type Montage, type Peg, type Shot, type Draft } from '../document/montage.ts';
import type { PegPlace } from './rules/rule-kind.ts';
import { endMoved } from '../score/retime.ts';
import { pegsOf, scoreOf, slotAt } from '../score/score.ts';

const idSet = (pegs: readonly Peg[]): ReadonlySet<string> => new Set(pegs.map((p) => p.id));

/** Made when it is first asked for: most edits of one peg never need these lists of all. */
function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | undefined;
  return () => (made ??= { value: make() }).value;
}

/** A shot hung between other pegs. */
export function between(shot: Shot, startPeg: string, endPeg: string): Shot {
  // Written into the copy, which takes half the time of naming them in the spread; all shots of a score may move.
  const hung: Draft<Shot> = { ...shot };
  hung.startPeg = startPeg;
  hung.endPeg = endPeg;
  return hung;
}

/**
 * A montage with other pegs. A shot whose first peg is gone goes too; one whose last peg is gone reaches to the peg that
 * follows; one between whose ends new pegs came ends at the first of them.
 */
export function rehang(montage: Montage, pegs: readonly Peg[]): Montage {
  const { places: oldPlaces, pegs: oldPegs } = pegsOf(montage);
  const hung = pegsOf({ ...montage, pegs });
  const { places } = hung;
  // Where all pegs were awake, besides the start and the end, those that hung are all that there were.
  const allAwake = oldPlaces.size === montage.pegs.length + 2;
  const [hadBefore, isThere] = [once(() => idSet(montage.pegs)), once(() => idSet(pegs))];
  /** A clip that was slowed to fit its slot does not race through a shorter one. */
  const keepingPace = (s: Shot, end: number): Shot => {
    const at = oldPlaces.get(s.startPeg);
    const slot = at === undefined ? undefined : slotAt(scoreOf(montage), oldPegs[at]!.frame);
    return slot?.placed?.shot === s ? endMoved(slot.placed, slot.length, frameTime(end - slot.end.frame, montage.shape.rate)) : s;
  };
  const endOf = (s: Shot, at: number): number => {
    let end = places.get(s.endPeg);
    for (let i = oldPlaces.get(s.endPeg) ?? oldPegs.length; end === undefined && i < oldPegs.length; i++) end = places.get(oldPegs[i]!.id);
    if (end === undefined || end <= at) return at + 1;
    for (let i = at + 1; i < end; i++) {
      const { id } = hung.pegs[i]!;
      if (!oldPlaces.has(id) && (allAwake || !hadBefore().has(id))) return i;
    }
    return end;
  };
  const shots: Shot[] = [];
  for (const s of montage.shots) {
    const at = s.over ? undefined : places.get(s.startPeg);
    if (at === undefined) {
      const asleep = s.startPeg === START_PEG || isThere().has(s.startPeg);
      const ends = s.endPeg === END_PEG || isThere().has(s.endPeg);
      if (asleep && (ends || !s.over)) shots.push(ends ? s : { ...s, endPeg: END_PEG });
      continue;
    }
    if (hung.pegs[at + 1]?.id === s.endPeg) {
      shots.push(s);
      continue;
    }
    const end = hung.pegs[endOf(s, at)];
    const endPeg = end?.id ?? END_PEG;
    shots.push(endPeg === s.endPeg ? s : between(keepingPace(s, end!.frame), s.startPeg, endPeg));
  }
  return { ...montage, pegs, shots };
}

/** The peg of an id; a sentence where it is gone. */
export function pegNamed(montage: Montage, id: string): Peg {
  const found = byId(montage.pegs, (p) => p.id).get(id);
  if (!found) throw new CommandError('That peg is no longer there. The start and the end of the montage always stay.');
  return found;
}

/** A peg for a place, with a new id. */
export function pegAt(place: PegPlace, id: string, origin: Peg['origin']): Peg {
  const { markId, time, part } = place;
  return part === undefined ? { id, markId, time, offset: 0, origin } : { id, markId, time, offset: 0, part, origin };
}

/** What tells places apart: the mark and the part of a beat after it, or the time. */
export function placeKey(montage: Montage, place: PegPlace | Peg): string {
  if (place.markId !== null) return place.part === undefined ? place.markId : `${place.markId} ${Math.round(place.part * 1000)}`;
  const at = toMontageTime(montage.song?.pieces ?? [], place.time);
  return `at ${(at ?? -place.time).toFixed(3)}`;
}
