import type { Mark, Montage } from '../document/montage.ts';
import { onceFor } from '../lists/once-for.ts';
import { MARKS } from '../marks/kinds/all.ts';
import { placedMarks } from '../marks/placed-marks.ts';
import { pegsOf } from '../score/score.ts';
import type { EffectTrigger } from './effects/triggers.ts';
import type { PlacedMoment } from './placed-moment.ts';

/** Whether a trigger is met by a mark; a bar's downbeat is a beat too. */
function metBy(what: EffectTrigger, mark: Mark): boolean {
  if (what === 'beat') return MARKS[mark.kind].counts;
  return MARKS[mark.kind].banded ? (mark.band ?? 'mid') === what : mark.kind === what;
}

/** Where every cut, or every mark of some kind, lies, in order. */
export function triggerPlaces(montage: Montage, what: EffectTrigger): readonly PlacedMoment[] {
  return what === 'cut'
    ? pegsOf(montage).pegs.flatMap(({ id, peg, frame, time }) => (peg ? [{ at: id, frame, time }] : []))
    : placedMarks(montage).flatMap(({ mark, frame, time }) => (metBy(what, mark) ? [{ at: mark.id, frame, time }] : []));
}

const framesKnown = onceFor((_: Montage) => new Map<EffectTrigger, readonly number[]>());

/** The frames of a trigger's places, in order; found once for each document. */
export function triggerFrames(montage: Montage, what: EffectTrigger): readonly number[] {
  const known = framesKnown(montage);
  let frames = known.get(what);
  if (!frames) known.set(what, (frames = triggerPlaces(montage, what).map((p) => p.frame)));
  return frames;
}
