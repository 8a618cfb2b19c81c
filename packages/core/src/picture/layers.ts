import { onceFor } from '../lists/once-for.ts';
import { TRANSITIONS } from '../finish/transitions/all.ts';
import type { SeenPicture } from '../finish/transitions/transition-kind.ts';
import { shownFrame } from '../finish/firings.ts';
import type { Montage } from '../document/montage.ts';
import { blendAt, sourceFrame, sourceFrameBeyond, type PlacedShot } from '../score/placed-shot.ts';
import { cutawaySeen } from '../finish/cutaways.ts';
import { oversAt, scoreOf, slotAt, type Slot } from '../score/score.ts';
import { transitionAt, transitionPart, USUAL_WAY } from '../finish/placed-transitions.ts';

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
  /** how it is seen over what lies below */
  readonly seen: SeenPicture;
}

/** A shot that is seen as it is. */
const PLAINLY: SeenPicture = {};

/**
 * What is seen of a slot's shot at a frame of the montage, in the slot or beyond it; null where there is nothing.
 * @param frame of the montage, counted from 0
 * @param seen how, where it goes over into another
 */
export function layerOf(slot: Slot, frame: number, montage: Montage, seen: SeenPicture = PLAINLY): Layer | null {
  const { placed, frames } = slot;
  if (!placed) return null;
  const into = frame - slot.start.frame;
  const beyond = into < 0 || into >= frames;
  // A clip that ran out within its slot does not come back after it.
  if (into >= frames && placed.coveredFrames < frames && placed.shot.whenShort === 'gap') return null;
  const source = beyond ? sourceFrameBeyond(placed, into, frames, montage) : sourceFrame(placed, into, montage);
  if (source === null) return null;
  return { slot, placed, into, source, blend: beyond ? null : blendAt(placed, into, montage), seen };
}

/**
 * The shots that are seen in a frame of the montage, from the back to the front: one, two where they go over into each other, none in a gap;
 * and what lies over them.
 * @param frame of the montage, counted from 0
 */
export function layersAt(montage: Montage, frame: number): readonly Layer[] {
  const score = scoreOf(montage);
  const cutaways = oversAt(score, frame).flatMap(
    (slot) => layerOf(slot, shownFrame(montage, frame), montage, cutawaySeen(slot, frame, montage)) ?? [],
  );
  const covering = cutaways.findLastIndex(coversAll);
  return covering >= 0 ? cutaways.slice(covering) : [...lineLayers(montage, frame), ...cutaways];
}

/** Whether nothing of what lies below a cutaway is seen. */
function coversAll({ placed: { shot }, seen }: Layer): boolean {
  return shot.opacity === undefined && !shot.inset && Object.keys(seen).length === 0;
}

/** What is seen of the main line. */
function lineLayers(montage: Montage, frame: number): readonly Layer[] {
  const score = scoreOf(montage);
  const transition = transitionAt(montage, frame);
  const { layers } = transition ? TRANSITIONS[transition.transition.kind] : { layers: null };
  if (transition && layers) {
    const seen = layers(transitionPart(transition, frame), transition.transition.way ?? USUAL_WAY);
    const before = layerOf(transition.before, frame, montage, seen.before);
    const after = layerOf(transition.after, frame, montage, seen.after);
    // Into a gap the picture goes away by itself.
    if (!after) {
      const { opacity } = seen.after;
      return before ? [opacity === undefined ? before : { ...before, seen: { ...seen.before, opacity: 1 - opacity } }] : [];
    }
    return before ? [before, after] : [after];
  }
  const slot = slotAt(score, frame);
  const layer = slot && layerOf(slot, shownFrame(montage, frame), montage);
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

/** The montage with its pictures as they are cut and framed, with nothing else done to them. Made once for each document. */
export const undressed = onceFor((montage: Montage): Montage => {
  const pegs = montage.pegs.some((p) => p.transition) ? montage.pegs.map(({ transition: _, ...peg }) => peg) : montage.pegs;
  const bare = montage.shots.some((s) => s.moves ?? s.looks ?? s.opacity ?? s.comes ?? s.goes);
  return {
    ...montage,
    pegs,
    shots: bare ? montage.shots.map(({ moves: _, looks: __, opacity: ___, comes: ____, goes: _____, ...shot }) => shot) : montage.shots,
    moveRule: null,
    looks: [],
    effects: [],
    titles: [],
    fades: [],
    letterboxes: [],
    pictureFades: { in: 0, out: 0 },
  };
});
