import { toMontageTime, toSongTime } from '../music/arrangement.ts';
import { frameTime } from '../time/frames.ts';
import { framesPerSecond } from '../time/rate.ts';
import { withChanged } from '../lists/by-id.ts';
import { CommandError } from '../document/command-error.ts';
import type { Mark, Montage, Peg, Shot, Draft } from '../document/montage.ts';
import { markOf } from '../marks/mark-list.ts';
import { placedMarks, type PlacedMark } from '../marks/placed-marks.ts';
import { pegNamed } from '../pegs/rehang.ts';
import { endMoved, evenPace } from '../score/retime.ts';
import type { PlacedShot } from '../score/placed-shot.ts';
import { pegsOf, scoreOf, type Hung, type PlacedPeg } from '../score/score.ts';
import { slotOfShot } from './shot-commands.ts';
import { withPeg } from '../pegs/commands.ts';
import { marksInUse } from '../marks/in-use.ts';
import { clipLength } from '../document/footage-item.ts';
import { command } from '../document/command.ts';

/** Where a cut is put: on a mark, or (free) on a frame of the montage. */
export type CutPlace = { readonly markId: string } | { readonly frame: number };

/** Where a cut is put, looked up: on a mark, or (free) on a frame of the montage. */
type Landing = Mark | number;

const landingOf = (montage: Montage, place: CutPlace): Landing => ('markId' in place ? markOf(montage, place.markId) : place.frame);

function withLanding(peg: Peg, to: Landing, montage: Montage): Peg {
  // Leaving a property out costs ten times a copy, and few pegs have it; written into the copy the rest costs half.
  const moved: Draft<Peg> = peg.part === undefined ? { ...peg } : withoutPart(peg);
  if (typeof to === 'number') {
    moved.markId = null;
    moved.time = toSongTime(montage.song?.pieces ?? [], frameTime(to, montage.shape.rate));
  } else {
    moved.markId = to.id;
    moved.time = to.time;
  }
  moved.offset = 0;
  moved.origin = 'hand';
  return moved;
}

function withoutPart(peg: Peg): Peg {
  const { part: _, ...whole } = peg;
  return whole;
}

/** The source in of a shot whose start moved by so many seconds: its pictures stay where they were in time as far as there are any. */
function inAfterMove({ shot, item, curve }: PlacedShot, length: number, by: number): number {
  if (item.kind === 'photo' || shot.retime.kind === 'freeze') return shot.sourceIn;
  const sourceIn = by >= 0 ? curve.source(Math.min(by, length)) : shot.sourceIn + by * curve.speed(0);
  return Math.max(0, Math.min(clipLength(item), sourceIn));
}

/** A peg of the over line somewhere else: the cutaways that hang from it become longer or shorter. */
function moveOverPeg(montage: Montage, id: string, landing: Landing): Montage {
  const next = { ...montage, pegs: montage.pegs.map((p) => (p.id === id ? withLanding(p, landing, montage) : p)) };
  const frames = new Map(pegsOf(next).overPegs.map((p) => [p.id, p.frame]));
  const turned = next.shots.some(
    (s) => s.over && (s.startPeg === id || s.endPeg === id) && !(frames.get(s.startPeg)! < frames.get(s.endPeg)!),
  );
  if (turned) throw new CommandError('A cutaway must end after it starts.');
  return next;
}

/** By how many frames each of the pegs that hung moves. */
function movesOf(before: Hung, now: Hung, landings: ReadonlyMap<string, Landing>): Int32Array {
  const moves = new Int32Array(before.pegs.length);
  // Cuts that roll mostly stay where they are among the others: then both lists can be walked along.
  if (now.pegs.length === before.pegs.length) {
    let found = 0;
    for (let n = 0; n < moves.length; n++) {
      const [old, moved] = [before.pegs[n]!, now.pegs[n]!];
      if (old.peg === moved.peg) continue;
      if (old.id !== moved.id) break;
      moves[n] = moved.frame - old.frame;
      found++;
    }
    if (found === landings.size) return moves;
  }
  for (const id of landings.keys()) {
    const [from, to] = [before.places.get(id), now.places.get(id)];
    if (from === undefined) throw new CommandError('That peg sleeps: its moment is cut out of the song.');
    if (to === undefined) throw new CommandError('There is a cut on that very frame already.');
    moves[from] = now.pegs[to]!.frame - before.pegs[from]!.frame;
  }
  return moves;
}

/**
 * Rolls cuts: each comes earlier or later, and the pictures on both sides stay where they are in time. Where a clip has none
 * for the new stretch, its first stays its first.
 * @param landings where each goes, by the peg's id
 * @throws CommandError where a cut would pass or meet a neighbour
 */
export function rollCuts(montage: Montage, landings: ReadonlyMap<string, Landing>): Montage {
  const pegs = montage.pegs.map((p) => {
    const to = landings.get(p.id);
    return to === undefined ? p : withLanding(p, to, montage);
  });
  const { slots, pegs: before } = scoreOf(montage);
  const moves = movesOf(pegsOf(montage), pegsOf({ ...montage, pegs }), landings);
  const { rate } = montage.shape;
  const changed: Shot[] = [];
  // Slots follow one another, some over several pegs: their ends are found by walking along.
  let at = 0;
  for (const { start, end, length, placed } of slots) {
    const first = moves[at]!;
    while (before[at] !== end) at++;
    const last = moves[at]!;
    if (first === 0 && last === 0) continue;
    if (start.frame + first >= end.frame + last)
      throw new CommandError('A cut cannot pass the one beside it. Move or take away that one first.');
    if (!placed) continue;
    const shot: Draft<Shot> = { ...(last === 0 ? placed.shot : endMoved(placed, length, frameTime(last, rate))) };
    if (first !== 0) shot.sourceIn = inAfterMove(placed, length, frameTime(first, rate));
    changed.push(shot);
  }
  return { ...montage, pegs, shots: withChanged(montage.shots, changed) };
}

/** Rolls one cut, of the main line or of a cutaway. */
export function rollCut(montage: Montage, id: string, place: CutPlace): Montage {
  const peg = pegNamed(montage, id);
  if (peg.over) return moveOverPeg(montage, id, landingOf(montage, place));
  if ('markId' in place && montage.pegs.some((p) => p.id !== id && !p.over && p.markId === place.markId && !p.part))
    throw new CommandError('That mark has a peg already.');
  return rollCuts(montage, new Map([[id, landingOf(montage, place)]]));
}

/** Marks on which no peg hangs, and how many frames of the montage they lie after one (negative before). */
function freeMarks(montage: Montage, frame: number): { mark: Mark; byFrames: number }[] {
  const pieces = montage.song?.pieces ?? [];
  const taken = new Set(montage.pegs.filter((p) => !p.over && !p.part).map((p) => p.markId));
  const fps = framesPerSecond(montage.shape.rate);
  return marksInUse(montage).flatMap((mark) => {
    const time = taken.has(mark.id) ? null : toMontageTime(pieces, mark.time);
    return time === null ? [] : [{ mark, byFrames: time * fps - frame }];
  });
}

type FreeMark = ReturnType<typeof freeMarks>[number];
const nearest = (marks: readonly FreeMark[]): FreeMark | null =>
  marks.reduce<FreeMark | null>((best, m) => (!best || Math.abs(m.byFrames) < Math.abs(best.byFrames) ? m : best), null);

/**
 * The next mark after a frame of the montage in a direction, on which no other peg hangs.
 * @param frame of the montage, counted from 0
 * @returns null where there is none in that direction
 */
export function markBeside(montage: Montage, frame: number, direction: 1 | -1, wanted: (mark: Mark) => boolean = () => true): Mark | null {
  const ahead = freeMarks(montage, frame).filter((m) => direction * m.byFrames > 0.75 && wanted(m.mark));
  return nearest(ahead)?.mark ?? null;
}

/**
 * The mark to which a free cut is drawn: the nearest on which none hangs.
 * @param frame of the montage, counted from 0
 * @returns null where there is none
 */
export function nearestFreeMark(montage: Montage, frame: number): FreeMark | null {
  return nearest(freeMarks(montage, frame));
}

/**
 * Draws cuts to the nearest marks on which no other hangs, one after the other, as far as none meets or passes a neighbour.
 * @throws CommandError where none can be drawn
 */
function drawPegs(montage: Montage, ids: readonly string[]): Montage {
  const { pegs, places } = pegsOf(montage);
  const frames = new Int32Array(pegs.length);
  for (let i = 0; i < pegs.length; i++) frames[i] = pegs[i]!.frame;
  const fps = framesPerSecond(montage.shape.rate);
  const marks = placedMarks(montage);
  const taken = new Set<string | null>();
  for (const p of montage.pegs) if (!p.over && !p.part) taken.add(p.markId);
  const drawn = new Map<string, Landing>();
  // Cuts mostly come in order: the place among the marks is found by walking on from that of the one before.
  let next = 0;
  for (const id of ids) {
    const n = places.get(id) ?? -1;
    const peg = pegs[n];
    if (!peg?.peg) continue;
    const after = frames[n - 1] ?? -1;
    const before = frames[n + 1] ?? Infinity;
    const time = peg.frame / fps;
    while (next < marks.length && marks[next]!.time < time) next++;
    while (next > 0 && marks[next - 1]!.time >= time) next--;
    let above = next;
    let below = above - 1;
    while (below >= 0 && marks[below]!.frame > after && taken.has(marks[below]!.mark.id)) below--;
    while (above < marks.length && marks[above]!.frame < before && taken.has(marks[above]!.mark.id)) above++;
    const between = (m: PlacedMark | undefined): m is PlacedMark => m !== undefined && m.frame > after && m.frame < before;
    const [left, right] = [marks[below], marks[above]];
    let near = between(left) ? left : null;
    if (between(right) && (!near || right.time * fps - peg.frame < peg.frame - near.time * fps)) near = right;
    if (!near) continue;
    frames[n] = near.frame;
    if (peg.mark) taken.delete(peg.mark.id);
    taken.add(near.mark.id);
    drawn.set(id, near.mark);
  }
  if (drawn.size === 0) throw new CommandError('There is no free mark near enough for these cuts.');
  return rollCuts(montage, drawn);
}

export const trimCommands = {
  /** the pictures on both sides stay in their time */
  rollCut: command<{ id: string; to: CutPlace }>('Roll a cut', (montage, { id, to }) => rollCut(montage, id, to)),

  // The shot keeps its pictures and its number of slots; the ones before and after it give and take.
  /** to the mark before or after, or by frames */
  slideShot: command<{ id: string; to: 'before' | 'after' | number }>('Slide a shot', (montage, { id, to }) => {
    const slot = slotOfShot(montage, id);
    if (!slot.start.peg || !slot.end.peg) throw new CommandError('The first and the last shot have no room to slide.');
    const direction = typeof to === 'number' && to < 0 ? -1 : to === 'before' ? -1 : 1;
    const place = (peg: PlacedPeg): CutPlace => {
      if (typeof to === 'number') return { frame: peg.frame + to };
      const mark = markBeside(montage, peg.frame, direction, (m) => m.kind === 'beat' || m.kind === 'bar');
      if (!mark) throw new CommandError('There is no mark in that direction to slide to.');
      return { markId: mark.id };
    };
    // The end that moves into free room goes first, so that neither passes the other.
    const order = direction === 1 ? [slot.end, slot.start] : [slot.start, slot.end];
    const places = order.map((peg) => ({ id: peg.id, to: place(peg) }));
    const moved = places.reduce((m, p) => rollCut(m, p.id, p.to), montage);
    const now = montage.shots.find((s) => s.id === id)!;
    return { ...moved, shots: moved.shots.map((s) => (s.id === id ? { ...now, startPeg: s.startPeg, endPeg: s.endPeg } : s)) };
  }),

  // The shot under the playhead ends here; the next one's pictures stay in their time, and more of them is seen.
  /** frames of the montage */
  endShotAt: command<{ frame: number }>('End a shot here', (montage, { frame }) => {
    const slot = scoreOf(montage).slots.find((s) => frame > s.start.frame && frame < s.end.frame);
    if (!slot) throw new CommandError('No shot can end here: a cut lies on this very frame.');
    if (!slot.end.peg)
      return withPeg(montage, { markId: null, time: toSongTime(montage.song!.pieces, frameTime(frame, montage.shape.rate)) });
    return rollCut(montage, slot.end.id, { frame });
  }),

  // The next shot begins here, with its own first picture.
  startNextAt: command<{ frame: number }>('Start the next shot here', (montage, { frame }) => {
    const slot = scoreOf(montage).slots.find((s) => frame > s.start.frame && frame < s.end.frame);
    if (!slot?.end.peg) throw new CommandError('There is no next shot that could start here.');
    const next = scoreOf(montage).slots.find((s) => s.start.id === slot.end.id)?.placed;
    const rolled = rollCut(montage, slot.end.id, { frame });
    if (!next) return rolled;
    const own: Shot = { ...next.shot, retime: evenPace(next) };
    return { ...rolled, shots: rolled.shots.map((s) => (s.id === own.id ? { ...own, endPeg: s.endPeg } : s)) };
  }),

  /** cuts to the nearest marks */
  drawPegs: command<{ ids: readonly string[] }>('Draw cuts to marks', (montage, { ids }) => drawPegs(montage, ids)),
};
