import { arrangedLength, toMontageTime } from '../music/arrangement.ts';
import { cutFrame, frameCount, frameTime } from '../time/frames.ts';
import { END_PEG, START_PEG, pulse, type FootageItem, type Mark, type Montage, type Peg } from './document.ts';
import { placeShot, sourceFrame, type PlacedShot } from './placed-shot.ts';

/** A peg that is awake: its moment is in the arranged song. */
export interface PlacedPeg {
  readonly id: string;
  /** montage seconds it is meant for */
  readonly time: number;
  /** the frame its cut falls on */
  readonly frame: number;
  /** null for free pegs, the start and the end */
  readonly mark: Mark | null;
  readonly peg: Peg | null;
}

/** The stretch between two neighbouring pegs, or several where a shot hangs over more. */
export interface Slot {
  readonly index: number;
  readonly start: PlacedPeg;
  readonly end: PlacedPeg;
  readonly frames: number;
  /** seconds, a whole number of frames */
  readonly length: number;
  readonly placed: PlacedShot | null;
}

/** Everything that follows from a montage's marks, pegs and shots. */
export interface Score {
  /** montage seconds */
  readonly length: number;
  readonly frames: number;
  readonly pegs: readonly PlacedPeg[];
  readonly slots: readonly Slot[];
  /** pegs of the over line, and the cutaways that hang from them, in order of time */
  readonly overPegs: readonly PlacedPeg[];
  readonly over: readonly Slot[];
}

const maps = new WeakMap<readonly unknown[], ReadonlyMap<string, unknown>>();

/** A list by its ids; made once for each list, since most edits leave marks and footage as they are. */
function byId<T>(list: readonly T[], idOf: (item: T) => string): ReadonlyMap<string, T> {
  let map = maps.get(list) as ReadonlyMap<string, T> | undefined;
  if (!map) maps.set(list, (map = new Map(list.map((item) => [idOf(item), item]))));
  return map;
}

const scores = new WeakMap<Montage, Score>();

/** The score of a montage; computed once for each document. */
export function scoreOf(montage: Montage): Score {
  let score = scores.get(montage);
  if (!score) scores.set(montage, (score = makeScore(montage)));
  return score;
}

/** Song seconds of a place a part of the way from a mark to the beat after it; the mark's own where there is none. */
export function partTime(beats: readonly Mark[], mark: Mark, part: number | undefined): number {
  if (part === undefined) return mark.time;
  let [low, high] = [0, beats.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (beats[middle]!.time > mark.time + 1e-6) high = middle;
    else low = middle + 1;
  }
  const [next, before] = [beats[low], beats[low - 2]];
  // After the last beat the one before says how long a beat is.
  const length = next ? next.time - mark.time : before ? mark.time - before.time : 0;
  return mark.time + part * length;
}

function placePegs(montage: Montage): PlacedPeg[] {
  const { rate } = montage.shape;
  const pieces = montage.song?.pieces ?? [];
  const marks = byId(montage.marks, (m) => m.id);
  const beats = montage.pegs.some((p) => p.part !== undefined) ? pulse(montage) : [];
  const placed: PlacedPeg[] = [];
  for (const peg of montage.pegs) {
    const mark = peg.markId === null ? null : (marks.get(peg.markId) ?? null);
    const time = toMontageTime(pieces, mark ? partTime(beats, mark, peg.part) : peg.time);
    if (time === null) continue; // its moment was cut out of the song: the peg sleeps
    const { rule, lead } = montage.cut;
    // A free peg is a frame that was chosen as such: rules about marks do not move it.
    const frame = mark ? cutFrame(time, rate, rule, lead) + peg.offset : cutFrame(time, rate, 'nearest');
    placed.push({ id: peg.id, time: time + frameTime(mark ? peg.offset : 0, rate), frame, mark, peg });
  }
  return placed.sort((a, b) => a.frame - b.frame || a.time - b.time);
}

/** The pegs that are awake, in order; what the slots lie between. */
export interface Hung {
  readonly length: number;
  readonly frames: number;
  readonly pegs: readonly PlacedPeg[];
  readonly overPegs: readonly PlacedPeg[];
}

interface KnownPegs {
  readonly of: Pick<Montage, 'marks' | 'song' | 'cut' | 'shape'>;
  readonly hung: Hung;
}
const knownPegs = new WeakMap<Montage['pegs'], KnownPegs>();

/** Where the pegs of a montage hang; computed once for each list of pegs, since most edits leave it as it is. */
export function pegsOf(montage: Montage): Hung {
  const known = knownPegs.get(montage.pegs);
  const { marks, song, cut, shape } = montage;
  if (known && known.of.marks === marks && known.of.song === song && known.of.cut === cut && known.of.shape === shape) return known.hung;
  const hung = makePegs(montage);
  knownPegs.set(montage.pegs, { of: { marks, song, cut, shape }, hung });
  return hung;
}

function makePegs(montage: Montage): Hung {
  const length = montage.song ? arrangedLength(montage.song.pieces) : 0;
  const frames = frameCount(length, montage.shape.rate);
  if (frames === 0) return { length: 0, frames: 0, pegs: [], overPegs: [] };
  const all = placePegs(montage);
  const pegs: PlacedPeg[] = [{ id: START_PEG, time: 0, frame: 0, mark: null, peg: null }];
  // Of pegs that share a frame the first is awake: a slot without a frame would be a sliver.
  for (const p of all) if (!p.peg!.over && p.frame > pegs.at(-1)!.frame && p.frame < frames) pegs.push(p);
  pegs.push({ id: END_PEG, time: length, frame: frames, mark: null, peg: null });
  return { length, frames, pegs, overPegs: all.filter((p) => p.peg!.over && p.frame >= 0 && p.frame <= frames) };
}

function makeScore(montage: Montage): Score {
  const { length, frames, pegs, overPegs } = pegsOf(montage);
  if (frames === 0) return { length, frames, pegs, slots: [], overPegs, over: [] };
  const place = new Map(pegs.map((p, i) => [p.id, i]));
  const items = byId(montage.footage, (item) => item.assetId);
  const shots = new Map(montage.shots.flatMap((shot) => (shot.over ? [] : [[shot.startPeg, shot]])));
  const slots: Slot[] = [];
  for (let i = 0; i + 1 < pegs.length;) {
    const start = pegs[i]!;
    const shot = shots.get(start.id);
    const item = shot && items.get(shot.assetId);
    const to = shot ? Math.max(i + 1, place.get(shot.endPeg) ?? i + 1) : i + 1;
    const end = pegs[to]!;
    const placed = shot && item ? placeShot(shot, item, start.frame, end.frame, montage) : null;
    slots.push(slotBetween(slots.length, start, end, placed, montage));
    i = to;
  }
  return { length, frames, pegs, slots, overPegs, over: overSlots(montage, overPegs, items) };
}

function slotBetween(index: number, start: PlacedPeg, end: PlacedPeg, placed: PlacedShot | null, montage: Montage): Slot {
  const frames = end.frame - start.frame;
  return { index, start, end, frames, length: frameTime(frames, montage.shape.rate), placed };
}

function overSlots(montage: Montage, pegs: readonly PlacedPeg[], items: ReadonlyMap<string, FootageItem>): Slot[] {
  const place = new Map(pegs.map((p) => [p.id, p]));
  const spans = montage.shots.flatMap((shot) => {
    const [start, end] = [place.get(shot.startPeg), place.get(shot.endPeg)];
    return shot.over && start && end && items.has(shot.assetId) ? [{ shot, start, end }] : [];
  });
  spans.sort((a, b) => a.start.frame - b.start.frame);
  const slots: Slot[] = [];
  for (const [i, { shot, start, end }] of spans.entries()) {
    // Where marks were moved so that cutaways meet, the one that comes next ends the one before.
    const next = spans[i + 1]?.start;
    const until = next && next.frame < end.frame ? next : end;
    if (until.frame <= start.frame) continue;
    const placed = placeShot(shot, items.get(shot.assetId)!, start.frame, until.frame, montage);
    slots.push(slotBetween(slots.length, start, until, placed, montage));
  }
  return slots;
}

function slotIn(slots: readonly Slot[], frame: number): Slot | undefined {
  let low = 0;
  let high = slots.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const slot = slots[middle]!;
    if (frame < slot.start.frame) high = middle - 1;
    else if (frame >= slot.end.frame) low = middle + 1;
    else return slot;
  }
  return undefined;
}

/** The slot on the screen at a frame, or undefined outside the montage. By halving, since scores may be long. */
export function slotAt(score: Score, frame: number): Slot | undefined {
  return slotIn(score.slots, frame);
}

/** The cutaway that lies over a frame. */
export function overAt(score: Score, frame: number): Slot | undefined {
  return slotIn(score.over, frame);
}

/** What is seen at a frame: a shot and the clip's own frame. */
export interface Shown {
  readonly slot: Slot;
  readonly placed: PlacedShot;
  readonly source: number;
}

/** The shot that is seen at a frame: the cutaway where there is one with a picture, else what hangs below; null in a gap. */
export function shownAt(montage: Montage, frame: number): Shown | null {
  const score = scoreOf(montage);
  for (const slot of [overAt(score, frame), slotAt(score, frame)]) {
    if (!slot?.placed) continue;
    const source = sourceFrame(slot.placed, frame - slot.start.frame, montage);
    if (source !== null) return { slot, placed: slot.placed, source };
  }
  return null;
}

/** The slot that starts at a peg, in the main line or over it. */
export function slotFrom(montage: Montage, startPeg: string): Slot | undefined {
  const score = scoreOf(montage);
  return score.slots.find((s) => s.start.id === startPeg) ?? score.over.find((s) => s.start.id === startPeg);
}

/** The slot in which a shot hangs. */
export function slotOf(montage: Montage, shotId: string): (Slot & { readonly placed: PlacedShot }) | undefined {
  const score = scoreOf(montage);
  const found = score.slots.find((s) => s.placed?.shot.id === shotId) ?? score.over.find((s) => s.placed?.shot.id === shotId);
  return found as (Slot & { readonly placed: PlacedShot }) | undefined;
}
