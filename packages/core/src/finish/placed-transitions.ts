import { onceFor } from '../lists/once-for.ts';
import { firstFrom } from '../lists/first-from.ts';
import { TRANSITIONS } from './transitions/all.ts';
import { timeAfterBeats } from '../marks/beats-on.ts';
import type { Montage, Transition } from '../document/montage.ts';
import { scoreOf, type PlacedPeg, type Slot } from '../score/score.ts';
import type { Way } from './motion/ways.ts';
import { frameTime } from '../time/frames.ts';
import { framesPerSecond } from '../time/rate.ts';
import { clipLength } from '../document/footage-item.ts';

/** Where a transition goes to when nobody said it. */
export const USUAL_WAY: Way = 'left';

/** A transition between two slots, in frames of the montage. */
export interface PlacedTransition {
  readonly transition: Transition;
  readonly peg: PlacedPeg;
  readonly before: Slot;
  readonly after: Slot;
  /** its first frame, and the first after it; the cut lies between them */
  readonly from: number;
  readonly cut: number;
  readonly to: number;
  /** frames for which a clip has no more pictures to go on with and stands still */
  readonly still: { readonly before: number; readonly after: number };
}

/** How many frames of a slot's clip are missing beyond its end or its start. */
function stillFrames({ placed, frames }: Slot, count: number, side: 'end' | 'start', montage: Montage): number {
  if (!placed || placed.item.kind === 'photo' || count === 0) return 0;
  const { curve, item } = placed;
  const { rate } = montage.shape;
  const edge = side === 'end' ? frameTime(frames, rate) : 0;
  const [source, speed] = [curve.source(edge), curve.speed(edge) * (side === 'end' ? 1 : -1)];
  if (Math.abs(speed) < 1e-6) return 0;
  const left = speed > 0 ? clipLength(item) - source : source;
  const reached = Math.floor((left / Math.abs(speed)) * framesPerSecond(rate) + 1e-3);
  return Math.max(0, count - reached);
}

function place(peg: PlacedPeg, transition: Transition, before: Slot, after: Slot, montage: Montage): PlacedTransition | null {
  const seconds = timeAfterBeats(montage, peg.time, transition.beats) - peg.time;
  const frames = Math.max(1, Math.round(seconds * framesPerSecond(montage.shape.rate)));
  const wanted = transition.place === 'before' ? frames : transition.place === 'after' ? 0 : frames >> 1;
  // Of each slot half at the most, so that two transitions never meet in it.
  const first = Math.min(wanted, before.frames >> 1);
  const second = Math.min(frames - wanted, after.frames >> 1);
  if (first + second === 0) return null;
  const cut = peg.frame;
  const runOn = TRANSITIONS[transition.kind].layers !== null;
  const still = {
    before: runOn ? stillFrames(before, second, 'end', montage) : 0,
    after: runOn ? stillFrames(after, first, 'start', montage) : 0,
  };
  return { transition, peg, before, after, from: cut - first, cut, to: cut + second, still };
}

/**
 * The transitions of a montage in order; found once for each document.
 * @example
 * transitionsOf(montage) // []
 */
export const transitionsOf = onceFor((montage: Montage): readonly PlacedTransition[] => {
  const { slots } = scoreOf(montage);
  return slots.slice(1).flatMap((after, i) => {
    const { peg } = after.start;
    return (peg?.transition && place(after.start, peg.transition, slots[i]!, after, montage)) ?? [];
  });
});

/**
 * The transition that is under way at a frame.
 * @param frame of the montage, counted from 0
 * @returns null where there is none
 */
export function transitionAt(montage: Montage, frame: number): PlacedTransition | null {
  const all = transitionsOf(montage);
  const found = all[firstFrom(all, (t) => t.to, frame + 1)];
  return found && frame >= found.from ? found : null;
}

/** How far a transition has come, more than nothing and less than all. */
export function transitionPart({ from, to }: PlacedTransition, frame: number): number {
  return (frame - from + 1) / (to - from + 1);
}

/** How much of the picture a veil covers: all of it at the cut. */
export function coveredPart({ from, cut, to }: PlacedTransition, frame: number): number {
  if (frame >= cut) return 1 - (frame - cut) / (to - cut);
  return (frame - from + 1) / (cut - from + (to > cut ? 1 : 0));
}
