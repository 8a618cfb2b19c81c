import { onceFor } from '../lists/once-for.ts';
import type { Montage, Move, Shot } from '../document/montage.ts';
import { covering, viewBetween } from '../geometry/view.ts';
import { scoreOf, type Slot } from '../score/score.ts';
import { toSongTime } from '../music/arrangement.ts';
import { isInSection, sectionStretches } from '../song/sections.ts';
import { frameTime } from '../time/frames.ts';
import { EASES } from './motion/eases.ts';
import { MIDDLE_VIEW, type View } from './motion/view.ts';
import { MOVES } from './moves/all.ts';
import { placedMoment } from './placed-moment.ts';

/** A move in a slot: frames from the slot's start, and from where to where. */
export interface PlacedMove {
  readonly move: Move;
  readonly from: number;
  readonly to: number;
  readonly views: { readonly from: View; readonly to: View };
}

/** How strong moves are in a section without energy, of their own strength. */
const USUAL_ENERGY = 0.6;

/** How full the song is where a slot starts, 0 to 1, by its sections. */
function energyAt(montage: Montage, slot: Slot): number {
  const time = toSongTime(montage.song?.pieces ?? [], slot.start.time);
  const stretch = sectionStretches(montage).find((s) => isInSection(s, time));
  return montage.song?.sections.find((s) => s.id === stretch?.id)?.energy ?? USUAL_ENERGY;
}

/** What the rule for moves gives to each slot's shot, by turns; nothing for those that were moved by hand. By the shot's id. */
const ruled = onceFor((montage: Montage): ReadonlyMap<string, Move> => {
  const moves = new Map<string, Move>();
  const { moveRule: rule } = montage;
  if (!rule) return moves;
  const { slots, over } = scoreOf(montage);
  let turn = 0;
  for (const { placed } of [...slots, ...over]) {
    if (!placed || (rule.what === 'photos' && placed.item.kind !== 'photo')) continue;
    const kind = rule.kinds[turn++ % rule.kinds.length]!;
    if (placed.shot.moves) continue;
    const { strength, ease, byEnergy } = rule;
    moves.set(placed.shot.id, { kind, strength, ease, from: null, to: null, ...(byEnergy ? { byEnergy } : {}) });
  }
  return moves;
});

/** The moves of a shot: its own, or what the rule gives it. */
export function movesOf(montage: Montage, shot: Shot): readonly Move[] {
  const rule = shot.moves ? undefined : ruled(montage).get(shot.id);
  return shot.moves ?? (rule ? [rule] : NO_MOVES);
}

const NO_MOVES: readonly Move[] = [];
const NONE: readonly PlacedMove[] = [];

const known = new WeakMap<Montage, Map<Slot, readonly PlacedMove[]>>();

/** The moves of what hangs in a slot, in order; one whose moments sleep or leave it no time does not move. Found once for each document. */
export function placedMoves(montage: Montage, slot: Slot): readonly PlacedMove[] {
  if (!slot.placed || (!montage.moveRule && !slot.placed.shot.moves)) return NONE;
  let found = known.get(montage);
  if (!found) known.set(montage, (found = new Map<Slot, readonly PlacedMove[]>()));
  let moves = found.get(slot);
  if (!moves) found.set(slot, (moves = placeMoves(montage, slot)));
  return moves;
}

function placeMoves(montage: Montage, slot: Slot): readonly PlacedMove[] {
  const { shot, item } = slot.placed!;
  const framed = (view: View): View => (shot.framing === 'fill' ? covering(view, item, montage.shape) : view);
  let stands = framed(standingView(shot, item));
  const placed: PlacedMove[] = [];
  for (const move of movesOf(montage, shot)) {
    const start = move.from ? placedMoment(montage, move.from) : { frame: slot.start.frame };
    const end = move.to ? placedMoment(montage, move.to) : { frame: slot.start.frame + slot.frames };
    if (!start || !end) continue;
    const from = Math.max(placed.at(-1)?.to ?? 0, start.frame - slot.start.frame);
    const to = Math.min(slot.frames, end.frame - slot.start.frame);
    if (to <= from) continue;
    const strength = move.byEnergy ? move.strength * (0.3 + 0.7 * energyAt(montage, slot)) : move.strength;
    const { from: a, to: b } = move.views ?? MOVES[move.kind].views(stands, strength, item.focus);
    const views = { from: framed(a), to: framed(b) };
    placed.push({ move, from, to, views });
    stands = views.to;
  }
  return placed;
}

/** How a picture stands where nothing moves: as it was framed by hand, or around what matters in it. */
export function standingView(
  shot: Pick<Shot, 'view' | 'framing'>,
  item: { readonly focus: { readonly x: number; readonly y: number } },
): View {
  return shot.view ?? (shot.framing === 'fill' ? { ...MIDDLE_VIEW, ...item.focus } : MIDDLE_VIEW);
}

/**
 * How the picture of a slot stands so many frames after the slot's start; null where its framing alone says it.
 * Where it fills the frame no edge of it is ever in sight.
 */
export function viewAt(montage: Montage, slot: Slot, into: number): View | null {
  const { shot, item } = slot.placed!;
  const moves = placedMoves(montage, slot);
  const framed = (view: View): View => (shot.framing === 'fill' ? covering(view, item, montage.shape) : view);
  if (moves.length === 0) return shot.view ? framed(shot.view) : null;
  const now = moves.findLast((m) => into >= m.from) ?? moves[0]!;
  // The last frame of a move is where it was to arrive: it is over when the next frame would begin.
  const part = Math.max(0, Math.min(1, (into - now.from) / Math.max(1, now.to - now.from - (now.to >= slot.frames ? 1 : 0))));
  return framed(viewBetween(now.views.from, now.views.to, EASES[now.move.ease].at(part)));
}

/** Seconds from a slot's start at which each of its moves begins and ends; for drawing them. */
export function moveTimes(montage: Montage, slot: Slot): { readonly move: Move; readonly from: number; readonly to: number }[] {
  const { rate } = montage.shape;
  return placedMoves(montage, slot).map(({ move, from, to }) => ({ move, from: frameTime(from, rate), to: frameTime(to, rate) }));
}
