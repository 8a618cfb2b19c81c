import { onceFor } from '../lists/once-for.ts';
import { TRANSITIONS } from '../finish/transitions/all.ts';
import type { Montage } from '../document/montage.ts';
import { blendAt, sourceFrame, sourceFrameBeyond, type PlacedShot } from '../score/placed-shot.ts';
import { overAt, scoreOf, slotAt, type Slot } from '../score/score.ts';
import { transitionAt, transitionPart } from '../finish/placed-transitions.ts';

/** A shot that is seen in a frame. */
export interface Layer {
  readonly slot: Slot;
  readonly placed: PlacedShot;
  /** frames from the start of its slot; in a transition it may lie before that or after its end */
  readonly into: number;
  /** the clip's own frame */
  readonly source: number;
  /** the frame that is mixed in, and how much of it */
  readonly blend: { readonly next: number; readonly part: number } | null;
  /** how much of it is seen over what lies below, 0 to 1 */
  readonly opacity: number;
}

/**
 * What is seen of a slot's shot at a frame of the montage, in the slot or beyond it; null where there is nothing.
 * @param frame of the montage, counted from 0
 * @param opacity 0 to 1
 */
export function layerOf(slot: Slot, frame: number, opacity: number, montage: Montage): Layer | null {
  const { placed, frames } = slot;
  if (!placed) return null;
  const into = frame - slot.start.frame;
  const beyond = into < 0 || into >= frames;
  // A clip that ran out within its slot does not come back after it.
  if (into >= frames && placed.coveredFrames < frames && placed.shot.whenShort === 'gap') return null;
  const source = beyond ? sourceFrameBeyond(placed, into, frames, montage) : sourceFrame(placed, into, montage);
  if (source === null) return null;
  return { slot, placed, into, source, blend: beyond ? null : blendAt(placed, into, montage), opacity };
}

/**
 * The shots that are seen in a frame of the montage, from the back to the front: one, two where they go over into each other, none in a gap.
 * @param frame of the montage, counted from 0
 */
export function layersAt(montage: Montage, frame: number): readonly Layer[] {
  const score = scoreOf(montage);
  const over = overAt(score, frame);
  const cutaway = over && layerOf(over, frame, 1, montage);
  if (cutaway) return [cutaway];
  const transition = transitionAt(montage, frame);
  const seen = transition && TRANSITIONS[transition.transition.kind].layers?.(transitionPart(transition, frame));
  if (transition && seen) {
    const before = layerOf(transition.before, frame, seen.before, montage);
    const after = layerOf(transition.after, frame, seen.after, montage);
    // Into a gap the picture goes away by itself.
    if (!after) return before ? [{ ...before, opacity: seen.before * (1 - seen.after) }] : [];
    return before ? [before, after] : [after];
  }
  const slot = slotAt(score, frame);
  const layer = slot && layerOf(slot, frame, 1, montage);
  return layer ? [layer] : [];
}

/**
 * The frame of the montage from which a slot's shot is seen: its first, or that of a transition in which it is seen already.
 * @returns counted from 0
 */
export function seenFrom(montage: Montage, slot: Slot): number {
  const into = transitionAt(montage, slot.start.frame - 1);
  return into?.after === slot && TRANSITIONS[into.transition.kind].layers ? into.from : slot.start.frame;
}

/** The montage with its pictures as they are cut: without transitions, effects and titles. Made once for each document. */
export const undressed = onceFor((montage: Montage): Montage => {
  const pegs = montage.pegs.some((p) => p.transition) ? montage.pegs.map(({ transition: _, ...peg }) => peg) : montage.pegs;
  return { ...montage, pegs, effects: [], titles: [], pictureFades: { in: 0, out: 0 } };
});
