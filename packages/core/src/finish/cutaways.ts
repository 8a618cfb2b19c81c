import type { Montage, Passage } from '../document/montage.ts';
import { timeAfterBeats } from '../marks/beats-on.ts';
import type { Slot } from '../score/score.ts';
import { frameTime } from '../time/frames.ts';
import { framesPerSecond } from '../time/rate.ts';
import { USUAL_WAY } from './placed-transitions.ts';
import { TRANSITIONS } from './transitions/all.ts';
import type { SeenPicture } from './transitions/transition-kind.ts';

/** A cutaway that is seen as it is. */
const PLAINLY: SeenPicture = {};

/** How many frames a cutaway takes to come or go: half its time at the most. */
function passageFrames({ start, frames }: Slot, passage: Passage, montage: Montage): number {
  const { rate } = montage.shape;
  const at = frameTime(start.frame, rate);
  const seconds = timeAfterBeats(montage, at, passage.beats) - at;
  return Math.min(frames >> 1, Math.round(seconds * framesPerSecond(rate)));
}

/** How a cutaway is seen at a frame over what lies below: as it is, or on its way to come or to go. */
export function cutawaySeen(slot: Slot, frame: number, montage: Montage): SeenPicture {
  const { comes, goes } = slot.placed?.shot ?? {};
  const into = frame - slot.start.frame;
  const left = slot.frames - 1 - into;
  for (const [passage, far] of [
    [comes, into],
    [goes, left],
  ] as const) {
    if (!passage) continue;
    const frames = passageFrames(slot, passage, montage);
    if (far >= frames) continue;
    const { layers } = TRANSITIONS[passage.kind];
    if (layers) return layers((far + 1) / (frames + 1), passage.way ?? USUAL_WAY).after;
  }
  return PLAINLY;
}
