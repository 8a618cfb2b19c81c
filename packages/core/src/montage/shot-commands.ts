import { CommandError } from './command-error.ts';
import type { Handlers } from './command.ts';
import { clipLength, stretchesOf, type Montage, type Shot } from './document.ts';
import { FILL_DEFAULTS, fill } from './fill.ts';
import { placeShot, scoreOf, type Slot } from './score.ts';

function change(montage: Montage, ids: readonly string[], to: (shot: Shot) => Shot): Montage {
  const chosen = new Set(ids);
  return { ...montage, shots: montage.shots.map((s) => (chosen.has(s.id) ? to(s) : s)) };
}

function slotOfShot(montage: Montage, id: string): Slot & { placed: NonNullable<Slot['placed']> } {
  const slot = scoreOf(montage).slots.find((s) => s.placed?.shot.id === id);
  if (!slot?.placed) throw new CommandError('That shot is no longer in the score.');
  return slot as Slot & { placed: NonNullable<Slot['placed']> };
}

export const shotCommands: Handlers<
  'fill' | 'hangShot' | 'takeShot' | 'slipShot' | 'setRate' | 'fitShot' | 'setFraming' | 'setShotSound' | 'setWhenShort'
> = {
  fill: (montage, { options }) => fill(montage, options),

  hangShot: (montage, { startPeg, assetId, selectId }) => {
    const slot = scoreOf(montage).slots.find((s) => s.start.id === startPeg);
    if (!slot) throw new CommandError('That slot is no longer there.');
    const item = montage.footage.find((f) => f.assetId === assetId);
    if (!item) throw new CommandError('That clip is no longer in the footage.');
    const stretches = stretchesOf(item);
    const select = stretches.find((s) => s.id === selectId) ?? stretches[0]!;
    const fresh: Shot = {
      id: `s${montage.lastId + 1}`,
      assetId,
      startPeg: slot.start.id,
      endPeg: slot.end.id,
      sourceIn: item.kind === 'photo' ? 0 : select.in,
      retime: { kind: 'rate', rate: 1 },
      whenShort: 'gap',
      framing: item.framing,
      sound: 0,
    };
    const length = slot.length;
    const available = item.kind === 'photo' ? Infinity : select.out - select.in;
    const shot: Shot =
      available >= length - 1e-6
        ? fresh
        : available >= length * FILL_DEFAULTS.leastSpeed
          ? { ...fresh, retime: { kind: 'fit', sourceOut: select.out } }
          : { ...fresh, retime: { kind: 'rate', rate: FILL_DEFAULTS.leastSpeed } };
    return { ...montage, lastId: montage.lastId + 1, shots: [...montage.shots.filter((s) => s.startPeg !== startPeg), shot] };
  },

  takeShot: (montage, { id }) => ({ ...montage, shots: montage.shots.filter((s) => s.id !== id) }),

  // Slipping shows another part of the clip in the same slot: neither end of the slot moves.
  slipShot: (montage, { id, by }) => {
    const { placed, length } = slotOfShot(montage, id);
    if (placed.item.kind === 'photo') throw new CommandError('A photo has nothing to slip.');
    const { shot } = placed;
    const span = Math.min(length * placed.speed, clipLength(placed.item));
    const last = Math.max(0, clipLength(placed.item) - span);
    const sourceIn = Math.min(last, Math.max(0, shot.sourceIn + by));
    const moved = sourceIn - shot.sourceIn;
    if (moved === 0) return montage;
    return change(montage, [id], (s) => ({
      ...s,
      sourceIn,
      retime: s.retime.kind === 'fit' ? { kind: 'fit', sourceOut: s.retime.sourceOut + moved } : s.retime,
    }));
  },

  setRate: (montage, { id, rate }) => {
    slotOfShot(montage, id);
    if (!(rate >= 0.05 && rate <= 20)) throw new CommandError('The speed must lie between 5 % and 2000 %.');
    return change(montage, [id], (s) => ({ ...s, retime: { kind: 'rate', rate } }));
  },

  // Everything from the shot's in to the end of its select is stretched or squeezed into the slot.
  fitShot: (montage, { id }) => {
    const { placed } = slotOfShot(montage, id);
    if (placed.item.kind === 'photo') throw new CommandError('A photo fits every slot.');
    const { sourceIn } = placed.shot;
    const select = stretchesOf(placed.item).find((s) => sourceIn >= s.in - 1e-6 && sourceIn < s.out);
    const sourceOut = select?.out ?? clipLength(placed.item);
    return change(montage, [id], (s) => ({ ...s, retime: { kind: 'fit', sourceOut } }));
  },

  setFraming: (montage, { ids, framing }) => change(montage, ids, (s) => ({ ...s, framing })),

  setShotSound: (montage, { ids, level }) => change(montage, ids, (s) => ({ ...s, sound: level })),

  setWhenShort: (montage, { ids, whenShort }) => change(montage, ids, (s) => ({ ...s, whenShort })),
};

/** How much of a slot a clip would leave open if it were hung there, montage seconds; for saying so beforehand. */
export function wouldMiss(montage: Montage, slot: Slot, assetId: string): number {
  const next = shotCommands.hangShot(montage, { startPeg: slot.start.id, assetId });
  const shot = next.shots.at(-1)!;
  const item = montage.footage.find((f) => f.assetId === assetId)!;
  return placeShot(shot, item, slot.frames, next).missing;
}
