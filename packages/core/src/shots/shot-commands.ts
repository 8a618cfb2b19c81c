import { saysTheSame } from '../document/sharing.ts';
import { frameTime } from '../time/frames.ts';
import { CommandError } from '../document/command-error.ts';
import { START_PEG, type Montage, type Shot, type Framing } from '../document/montage.ts';
import { footageOf, freshShot, planHang, slotNamed, slotsJoined, type HangPoint, type Remedy } from './hang-shot.ts';
import { handlesOf, sourceSpan } from '../score/placed-shot.ts';
import { overPegsFor, type OverEnd } from './over-line.ts';
import { between } from '../pegs/rehang.ts';
import { onFrame } from '../score/retime.ts';
import { pegsOf, scoreOf, slotOf, type Slot } from '../score/score.ts';
import { clipLength } from '../document/footage-item.ts';
import { command } from '../document/command.ts';
import { layRun, type RunStretch } from './lay-run.ts';

/** The shots of some ids changed. */
export function changeShots(montage: Montage, ids: readonly string[], to: (shot: Shot) => Shot): Montage {
  const chosen = new Set(ids);
  return { ...montage, shots: montage.shots.map((s) => (chosen.has(s.id) ? to(s) : s)) };
}

/** The slot of a shot; a sentence where it is gone. */
export function slotOfShot(montage: Montage, id: string): Slot & { placed: NonNullable<Slot['placed']> } {
  const slot = slotOf(montage, id);
  if (!slot) throw new CommandError('That shot is no longer in the score.');
  return slot;
}

/** The montage with one more shot in the place of any that starts at the same peg; as it is where that hangs there already. */
export function withShot(montage: Montage, shot: Omit<Shot, 'id'>): Montage {
  const there = montage.shots.find((s) => s.startPeg === shot.startPeg);
  if (there && saysTheSame({ ...shot, id: there.id }, there)) return montage;
  const id = `s${montage.lastId + 1}`;
  return { ...montage, lastId: montage.lastId + 1, shots: [...montage.shots.filter((s) => s.startPeg !== shot.startPeg), { ...shot, id }] };
}

/** What a shot shows, without where it hangs. */
type Content = Omit<Shot, 'id' | 'startPeg' | 'endPeg'>;
function contentOf({ id: _id, startPeg: _start, endPeg: _end, ...content }: Shot): Content {
  return content;
}

/** What makes a shot a cutaway: how it lies over the rest. It stays where the shot hung. */
type Over = Pick<Shot, 'over' | 'upper' | 'opacity' | 'inset' | 'comes' | 'goes'>;
function withoutOver<T extends Over>({
  over: _,
  upper: __,
  opacity: ___,
  inset: ____,
  comes: _____,
  goes: ______,
  ...rest
}: T): Omit<T, keyof Over> {
  return rest;
}
function overOf({ over, upper, opacity, inset, comes, goes }: Shot): Over {
  return Object.fromEntries(Object.entries({ over, upper, opacity, inset, comes, goes }).filter(([, value]) => value !== undefined));
}

/** A shot's pictures in another slot: a fitted one is fitted anew, the rest runs as it ran. */
function inSlot(content: Content, slot: Slot): Omit<Shot, 'id'> {
  const rest = withoutOver(content);
  return { ...rest, startPeg: slot.start.id, endPeg: slot.end.id };
}

/**
 * Shots from a slot on moved by one slot. Locked shots and the slots over which they hang are passed over. What has no slot
 * any more comes down.
 */
function moveOn(montage: Montage, from: number, by: 1 | -1): Montage {
  const { slots } = scoreOf(montage);
  const free = slots.filter((s) => s.index >= from && !s.placed?.shot.locked);
  const contents = free.map((s) => s.placed?.shot ?? null);
  const moved = by === 1 ? [null, ...contents.slice(0, -1)] : [...contents.slice(1), null];
  const gone = new Set(free.flatMap((s) => s.placed?.shot.id ?? []));
  const shots = free.flatMap((slot, i): Shot[] => {
    const shot = moved[i];
    return shot ? [between(shot, slot.start.id, slot.end.id)] : [];
  });
  return { ...montage, shots: [...montage.shots.filter((s) => !gone.has(s.id)), ...shots] };
}

export const shotCommands = {
  /** without a select, the clip's first one; over so many slots */
  hangShot: command<{ startPeg: string; slots?: number; assetId: string; selectId?: string; point?: HangPoint; remedy?: Remedy }>(
    'Hang a shot',
    (montage, { startPeg, slots, assetId, selectId, point, remedy }) => {
      const slot = slots !== undefined && slots > 1 ? slotsJoined(montage, startPeg, slots) : slotNamed(montage, startPeg);
      const { shot } = planHang(montage, slot, { assetId, selectId, remedy, ...(point ? { point } : {}) });
      const over = scoreOf(montage).over.find((s) => s.start.id === startPeg);
      const next = withShot(montage, over?.placed ? { ...shot, ...overOf(over.placed.shot) } : shot);
      return slots !== undefined && slots > 1 ? withoutCovered(next, next.shots.at(-1)!) : next;
    },
  ),

  takeDownShot: command<{ id: string }>('Take a shot down', (montage, { id }) => {
    const shot = montage.shots.find((s) => s.id === id);
    if (!shot) return montage;
    const without = { ...montage, shots: montage.shots.filter((s) => s.id !== id) };
    if (!shot.over) return without;
    // The pegs of the over line are the cutaway's own: they go with it unless another hangs from them.
    const used = new Set(without.shots.flatMap((s) => [s.startPeg, s.endPeg]));
    return { ...without, pegs: without.pegs.filter((p) => !p.over || used.has(p.id)) };
  }),

  // Slipping shows another part of the clip in the same slot: neither end of the slot moves.
  slipShot: command<{ id: string; by: number }>('Slip a shot', (montage, { id, by }) => {
    const { placed } = slotOfShot(montage, id);
    if (placed.item.kind === 'photo') throw new CommandError('A photo has nothing to slip.');
    const { from, to } = sourceSpan(placed, montage);
    const handles = handlesOf(placed, montage);
    const most = placed.missing > 0 ? Math.max(0, clipLength(placed.item) - to) : handles.after;
    const moved = Math.max(-from, Math.min(most, by));
    if (Math.abs(moved) < 1e-9) return montage;
    return changeShots(montage, [id], ({ until: _, ...s }) => {
      const on = (seconds: number): number => Math.max(0, Math.min(clipLength(placed.item), seconds + moved));
      const retime: Shot['retime'] =
        s.retime.kind === 'fit'
          ? { kind: 'fit', sourceOut: on(s.retime.sourceOut) }
          : s.retime.kind === 'tied'
            ? { ...s.retime, sourceOut: on(s.retime.sourceOut), ties: s.retime.ties.map((t) => ({ ...t, source: on(t.source) })) }
            : s.retime;
      return { ...s, sourceIn: on(s.sourceIn), retime };
    });
  }),

  // Another clip in the same slot, run and framed as the one before.
  replaceShot: command<{ id: string; assetId: string; selectId?: string }>('Replace a shot', (montage, { id, assetId, selectId }) => {
    const slot = slotOfShot(montage, id);
    const { shot } = planHang(montage, slot, { assetId, selectId });
    const { why: _, ...old } = slot.placed.shot;
    const item = footageOf(montage, assetId);
    const rate = old.retime.kind === 'rate' && old.retime.rate > 0 && item.kind === 'clip' ? old.retime : null;
    const enough = rate && shot.sourceIn + rate.rate * slot.length <= clipLength(item) + 1e-6;
    const { until: __, ...kept } = old;
    return changeShots(montage, [id], () => ({
      ...kept,
      ...shot,
      id,
      startPeg: old.startPeg,
      endPeg: old.endPeg,
      retime: enough ? rate : shot.retime,
      framing: shot.framing,
      sound: item.hasSound ? old.sound : 0,
      whenShort: old.whenShort,
    }));
  }),

  // The frame of the clip that is being looked at meets the playhead.
  /** the clip's moment (seconds) meets a frame of the montage */
  replaceAt: command<{ id: string; assetId: string; source: number; frame: number }>(
    'Replace a shot at the playhead',
    (montage, { id, assetId, source, frame }) => {
      const slot = slotOfShot(montage, id);
      const item = footageOf(montage, assetId);
      const into = frame - slot.start.frame;
      if (into < 0 || into >= slot.frames) throw new CommandError('The playhead is not in that slot.');
      const sourceIn = source - frameTime(into, montage.shape.rate);
      if (sourceIn < -1e-6)
        throw new CommandError(
          `The clip starts ${(-sourceIn).toFixed(2)} s too late for this frame to meet the playhead. Choose a later frame, or move the playhead back.`,
        );
      return changeShots(montage, [id], ({ until: _, why: __, ...old }) => ({
        ...old,
        ...freshShot(item, old.startPeg, old.endPeg, onFrame(item, sourceIn)),
        id,
        whenShort: old.whenShort,
      }));
    },
  ),

  swapShots: command<{ a: string; b: string }>('Swap two shots', (montage, { a, b }) => {
    const [first, second] = [slotOfShot(montage, a), slotOfShot(montage, b)];
    if (first.placed.shot.locked || second.placed.shot.locked) throw new CommandError('A locked shot stays where it is. Unlock it first.');
    const put = (shot: Shot, other: Shot): Shot => {
      return { ...withoutOver(contentOf(other)), ...overOf(shot), id: other.id, startPeg: shot.startPeg, endPeg: shot.endPeg };
    };
    return {
      ...montage,
      shots: montage.shots.map((s) => (s.id === a ? put(s, second.placed.shot) : s.id === b ? put(s, first.placed.shot) : s)),
    };
  }),

  insertShot: command<{ startPeg: string; assetId: string; selectId?: string; point?: HangPoint }>(
    'Insert a shot',
    (montage, { startPeg, assetId, selectId, point }) => {
      const slot = slotNamed(montage, startPeg);
      if (slot.placed?.shot.locked) throw new CommandError('A locked shot hangs here and stays. Unlock it first.');
      const moved = moveOn(montage, slot.index, 1);
      // The slot is the same; only what hangs in it has moved on.
      const { shot } = planHang(moved, slot, { assetId, selectId, ...(point ? { point } : {}) });
      return withShot(moved, shot);
    },
  ),

  removeShot: command<{ id: string }>('Take a shot out and close up', (montage, { id }) =>
    moveOn(montage, slotOfShot(montage, id).index, -1),
  ),

  extendShot: command<{ id: string; slots: number }>('Hang a shot over more slots', (montage, { id, slots }) => {
    const slot = slotOfShot(montage, id);
    if (slot.placed.shot.over) throw new CommandError('A cutaway has pegs of its own. Drag them instead.');
    const joined = slotsJoined(montage, slot.start.id, slots);
    const next = changeShots(montage, [id], (s) => ({ ...s, endPeg: joined.end.id }));
    return withoutCovered(
      next,
      next.shots.find((s) => s.id === id)!,
    );
  }),

  copyShot: command<{ id: string; startPeg: string }>('Copy a shot', (montage, { id, startPeg }) => {
    const { placed } = slotOfShot(montage, id);
    const slot = slotNamed(montage, startPeg);
    if (slot.placed?.shot.locked) throw new CommandError('A locked shot hangs there and stays. Unlock it first.');
    return withShot(montage, inSlot(contentOf(placed.shot), slot));
  }),

  // The same clip in the slots after its own, each time from a later place.
  /** into so many slots after its own: `skip` frames further each time, or at the next of some moments of the clip */
  goOnShot: command<{ id: string; slots: number; skip?: number; starts?: readonly number[] }>(
    'Go on with the same clip',
    (montage, { id, slots, skip, starts }) => {
      const slot = slotOfShot(montage, id);
      const { item, shot } = slot.placed;
      if (item.kind === 'photo') throw new CommandError('A photo has no later part to go on with.');
      const after = scoreOf(montage).slots.slice(slot.index + 1, slot.index + 1 + slots);
      let next = montage;
      let from = sourceSpan(slot.placed, montage).to;
      let hung = 0;
      for (const place of after) {
        if (place.placed?.shot.locked) continue;
        const wanted = skip === undefined ? starts?.find((t) => t >= from - 1e-6) : from + frameTime(skip, item.rate);
        if (wanted === undefined || wanted + place.length > clipLength(item) + 1e-6) break;
        const start = onFrame(item, wanted);
        const { why: _, ...content } = contentOf(shot);
        next = withShot(next, { ...inSlot(content, place), sourceIn: start, retime: { kind: 'rate', rate: 1 } });
        from = start + place.length;
        hung++;
      }
      if (hung === 0) throw new CommandError('The clip has no more pictures to go on with here.');
      return next;
    },
  ),

  /** `upper`: on the second of the lines over the main one, over the first one's */
  hangOver: command<{ from: OverEnd; to: OverEnd; assetId: string; selectId?: string; upper?: boolean }>(
    'Hang a cutaway',
    (montage, { from, to, assetId, selectId, upper = false }) => {
      const { montage: pegged, start, end } = overPegsFor(montage, from, to, upper);
      const slot = {
        index: 0,
        start,
        end,
        frames: end.frame - start.frame,
        length: frameTime(end.frame - start.frame, montage.shape.rate),
        placed: null,
      };
      const { shot } = planHang(pegged, slot, { assetId, selectId });
      return withShot(pegged, { ...shot, over: true, ...(upper ? { upper } : {}) });
    },
  ),

  lockShots: command<{ ids: readonly string[]; locked: boolean }>('Lock shots', (montage, { ids, locked }) =>
    changeShots(montage, ids, ({ locked: _, ...s }) => (locked ? { ...s, locked: true } : s)),
  ),

  setFraming: command<{ ids: readonly string[]; framing: Framing }>('Change the framing', (montage, { ids, framing }) =>
    changeShots(montage, ids, (s) => ({ ...s, framing })),
  ),

  setShotSound: command<{ ids: readonly string[]; level?: number; stretched?: 'pitch-kept' | 'muted' }>(
    "Change a clip's sound",
    (montage, { ids, level, stretched }) =>
      changeShots(montage, ids, (s) => ({
        ...s,
        ...(level === undefined ? {} : { sound: level }),
        ...(stretched ? { stretchedSound: stretched } : {}),
      })),
  ),

  setWhenShort: command<{ ids: readonly string[]; whenShort: 'gap' | 'hold' }>(
    'Change what a short clip leaves',
    (montage, { ids, whenShort }) => changeShots(montage, ids, (s) => ({ ...s, whenShort })),
  ),

  /** `at`: frame of the montage */
  layRun: command<{ run: readonly RunStretch[]; at: number }>(
    'Lay a cut over the song',
    (montage, { run, at }) => layRun(montage, run, at).montage,
  ),
};

/** A shot over several slots covers them: what began inside it comes down. */
function withoutCovered(montage: Montage, shot: Shot): Montage {
  const order = pegsOf(montage).pegs.map((p) => p.id);
  const [from, to] = [shot.startPeg === START_PEG ? 0 : order.indexOf(shot.startPeg), order.indexOf(shot.endPeg)];
  const inside = new Set(order.slice(from + 1, to));
  return { ...montage, shots: montage.shots.filter((s) => s.over || s.id === shot.id || !inside.has(s.startPeg)) };
}
