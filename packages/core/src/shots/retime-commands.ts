import { frameTime } from '../time/frames.ts';
import { CommandError } from '../document/command-error.ts';
import type { Montage, Retime, Shot } from '../document/montage.ts';
import { markInSlot } from './hang-shot.ts';
import { markOf } from '../marks/mark-list.ts';
import { placeShot } from '../score/placed-shot.ts';
import { SPEED_LIMITS, onFrame, reversed, speedsOf } from '../score/retime.ts';
import type { Slot } from '../score/score.ts';
import { changeShots, slotOfShot } from './shot-commands.ts';
import { clipLength, stretchesOf } from '../document/footage-item.ts';
import { command } from '../document/command.ts';

type Film = Slot & { placed: NonNullable<Slot['placed']> };

function filmOf(montage: Montage, id: string): Film {
  const slot = slotOfShot(montage, id);
  if (slot.placed.item.kind === 'photo') throw new CommandError('A photo has no speed: it stands as long as its slot.');
  return slot;
}

/** Refuses what would run faster or slower than clips may. */
function withinLimits(slot: Film, shot: Shot, montage: Montage): Shot {
  const placed = placeShot(shot, slot.placed.item, slot.start.frame, slot.end.frame, montage);
  const { slowest, fastest } = speedsOf(placed);
  const percent = (speed: number): string => `${Math.round(speed * 100)} %`;
  if (fastest > SPEED_LIMITS.fastest + 1e-3)
    throw new CommandError(
      `The clip would run at ${percent(fastest)} here; at most ${percent(SPEED_LIMITS.fastest)} is possible. Choose a nearer frame or mark.`,
    );
  if (shot.retime.kind === 'tied' && shot.retime.ease === 'hard' && slowest < SPEED_LIMITS.slowest - 1e-3)
    throw new CommandError(
      `The clip would run at ${percent(slowest)} here; at least ${percent(SPEED_LIMITS.slowest)} is needed. Choose frames farther apart.`,
    );
  return shot;
}

/**
 * A shot tied to marks. Before its first tie and after its last it runs as recorded, as far as there is footage; where there
 * is too little, slower.
 */
function tied(slot: Film, retime: Extract<Retime, { kind: 'tied' }>, montage: Montage): Shot {
  const { placed } = slot;
  const whole = clipLength(placed.item);
  const { rate } = montage.shape;
  const shot: Shot = { ...placed.shot, retime };
  const { ties } = placeShot(shot, placed.item, slot.start.frame, slot.end.frame, montage);
  const [first, last] = [ties[0], ties.at(-1)];
  if (!first || !last) return shot;
  const direction = first.source > last.source ? -1 : 1;
  const inClip = (seconds: number): number => Math.max(0, Math.min(whole, seconds));
  const sourceIn = inClip(first.source - direction * frameTime(first.into, rate));
  const sourceOut = inClip(last.source + direction * frameTime(slot.frames - last.into, rate));
  const { until: _, ...rest } = shot;
  return { ...rest, sourceIn, retime: { ...retime, sourceOut } };
}

/** The tied retiming of a shot, or a fresh one where it is not tied yet. */
function tiesOf(slot: Film): Extract<Retime, { kind: 'tied' }> {
  const { retime } = slot.placed.shot;
  if (retime.kind === 'tied') return retime;
  const sourceOut = Math.max(0, Math.min(clipLength(slot.placed.item), slot.placed.curve.source(slot.length)));
  return { kind: 'tied', sourceOut, ties: [], ease: 'hard' };
}

export const retimeCommands = {
  /** negative runs backwards */
  setRate: command<{ id: string; rate: number }>('Change the speed', (montage, { id, rate }) => {
    filmOf(montage, id);
    if (!(Math.abs(rate) >= 0.05 && Math.abs(rate) <= 20))
      throw new CommandError('The speed must lie between 5 % and 2000 %, forwards or backwards.');
    return changeShots(montage, [id], ({ until: _, ...s }) => ({ ...s, retime: { kind: 'rate', rate } }));
  }),

  // Everything from the shot's in to the end of its select is stretched or squeezed into the slot.
  fitShot: command<{ id: string }>('Fit to the slot', (montage, { id }) => {
    const { placed } = slotOfShot(montage, id);
    if (placed.item.kind === 'photo') throw new CommandError('A photo fits every slot.');
    const { sourceIn } = placed.shot;
    const select = stretchesOf(placed.item).find((s) => sourceIn >= s.in - 1e-6 && sourceIn < s.out);
    const sourceOut = select?.out ?? clipLength(placed.item);
    return changeShots(montage, [id], ({ until: _, ...s }) => ({ ...s, retime: { kind: 'fit', sourceOut } }));
  }),

  // The frame that stands is one of those that were seen.
  /** the frame at a moment of the clip, or the shot's first */
  freezeShot: command<{ id: string; source?: number }>('Freeze a frame', (montage, { id, source }) => {
    const { placed } = filmOf(montage, id);
    const at = onFrame(placed.item, source ?? placed.shot.sourceIn);
    return changeShots(montage, [id], ({ until: _, ...s }) => ({ ...s, sourceIn: at, retime: { kind: 'freeze' } }));
  }),

  reverseShot: command<{ id: string }>('Run a shot backwards', (montage, { id }) => {
    const slot = filmOf(montage, id);
    if (slot.placed.shot.retime.kind === 'freeze') throw new CommandError('A frame that stands has no direction.');
    return changeShots(montage, [id], ({ until: _, ...s }) => {
      const { until: __, ...turned } = reversed(slot.placed, slot.length, frameTime(1, montage.shape.rate));
      return { ...s, ...turned };
    });
  }),

  tieFrame: command<{ id: string; markId: string; source: number }>('Tie a frame to a mark', (montage, { id, markId, source }) => {
    const slot = filmOf(montage, id);
    if (markInSlot(montage, markOf(montage, markId), slot) === null) throw new CommandError('That mark does not lie in this slot.');
    const retime = tiesOf(slot);
    const at = onFrame(slot.placed.item, source);
    const ties = [...retime.ties.filter((t) => t.markId !== markId), { markId, source: at }];
    const shot = withinLimits(slot, tied(slot, { ...retime, ties }, montage), montage);
    return changeShots(montage, [id], () => shot);
  }),

  untieFrame: command<{ id: string; markId: string }>('Untie a frame', (montage, { id, markId }) => {
    const slot = filmOf(montage, id);
    const { retime } = slot.placed.shot;
    if (retime.kind !== 'tied') return montage;
    const ties = retime.ties.filter((t) => t.markId !== markId);
    const shot: Shot =
      ties.length > 0
        ? tied(slot, { ...retime, ties }, montage)
        : { ...slot.placed.shot, retime: { kind: 'fit', sourceOut: retime.sourceOut } };
    return changeShots(montage, [id], () => shot);
  }),

  setEase: command<{ id: string; ease: 'hard' | 'eased' }>('Change how the speed goes over', (montage, { id, ease }) => {
    const slot = filmOf(montage, id);
    const { edges: _, ...retime } = tiesOf(slot);
    return changeShots(montage, [id], (s) => ({ ...s, retime: { ...retime, ease } }));
  }),

  // The ends of the curve: which picture is first and which moment is reached at the end.
  setSourceOut: command<{ id: string; sourceIn?: number; sourceOut?: number }>(
    'Change the speed curve',
    (montage, { id, sourceIn, sourceOut }) => {
      const slot = filmOf(montage, id);
      const whole = clipLength(slot.placed.item);
      const inClip = (seconds: number): number => Math.max(0, Math.min(whole, seconds));
      const shot: Shot = {
        ...slot.placed.shot,
        ...(sourceIn === undefined ? {} : { sourceIn: inClip(sourceIn) }),
        retime: { ...tiesOf(slot), ...(sourceOut === undefined ? {} : { sourceOut: inClip(sourceOut) }) },
      };
      return changeShots(montage, [id], () => withinLimits(slot, shot, montage));
    },
  ),

  setBlend: command<{ ids: readonly string[]; blend: boolean }>('Change what is seen between frames', (montage, { ids, blend }) =>
    changeShots(montage, ids, ({ blend: _, ...s }) => (blend ? { ...s, blend } : s)),
  ),
};
