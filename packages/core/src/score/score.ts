import { onceFor } from '../lists/once-for.ts';
import { arrangedLength, toMontageTime } from '../music/arrangement.ts';
import { cutFrame, frameCount, frameTime } from '../time/frames.ts';
import { END_PEG, START_PEG, type FootageItem, type Mark, type Montage, type Peg, type Shot } from '../document/montage.ts';
import { byId } from '../lists/by-id.ts';
import { firstFrom } from '../lists/first-from.ts';
import { placeShot, sourceFrame, type PlacedShot } from './placed-shot.ts';
import { pulse } from '../marks/in-use.ts';

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
  /** the same line by line, each in order: those right over the main line, and those over them */
  readonly overLines: readonly [readonly Slot[], readonly Slot[]];
}

/**
 * The score of a montage; computed once for each document.
 * Without a song it has no slots.
 * @example
 * scoreOf(montage).slots.length // 10
 */
export const scoreOf = onceFor((montage: Montage): Score => makeScore(montage));

/** Song seconds of a place a part of the way from a mark to the beat after it; the mark's own where there is none. */
export function partTime(beats: readonly Mark[], mark: Mark, part: number | undefined): number {
  if (part === undefined) return mark.time;
  const after = firstFrom(beats, (beat) => beat.time, mark.time + 1e-6);
  const [next, before] = [beats[after], beats[after - 2]];
  // After the last beat the one before says how long a beat is.
  const length = next ? next.time - mark.time : before ? mark.time - before.time : 0;
  return mark.time + part * length;
}

/** What the place of a peg follows from, besides the peg. */
type Ground = Pick<Montage, 'marks' | 'song' | 'cut' | 'shape'>;

const sameGround = (a: Ground, b: Ground): boolean => a.marks === b.marks && a.song === b.song && a.cut === b.cut && a.shape === b.shape;

function placePeg(peg: Peg, mark: Mark | null, beats: readonly Mark[], { song, shape, cut }: Ground): PlacedPeg | null {
  const { rate } = shape;
  const time = toMontageTime(song?.pieces ?? [], mark ? partTime(beats, mark, peg.part) : peg.time);
  if (time === null) return null; // its moment was cut out of the song: the peg sleeps
  // A free peg is a frame that was chosen as such: rules about marks do not move it.
  const frame = mark ? cutFrame(time, rate, cut.rule, cut.lead) + peg.offset : cutFrame(time, rate, 'nearest');
  return { id: peg.id, time: time + frameTime(mark ? peg.offset : 0, rate), frame, mark, peg };
}

/**
 * The pegs that were placed last. The next ones asked for are mostly the same but for an edit or two, in the same order;
 * walking along both costs less than a table of all.
 */
let lastPlaced: { readonly of: Ground; readonly pegs: readonly Peg[]; readonly placed: readonly (PlacedPeg | null)[] } | null = null;

function placePegs(montage: Montage): PlacedPeg[] {
  const { marks, song, cut, shape, pegs } = montage;
  const of: Ground = { marks, song, cut, shape };
  const markNamed = byId(marks, (m) => m.id);
  const beats = pegs.some((p) => p.part !== undefined) ? pulse(montage) : [];
  const old = lastPlaced;
  const steady = old !== null && sameGround(old.of, of);
  let seen = 0;
  const placed = new Array<PlacedPeg | null>(pegs.length).fill(null);
  const awake: PlacedPeg[] = [];
  let ordered = true;
  for (let i = 0; i < pegs.length; i++) {
    const peg = pegs[i]!;
    let at = seen;
    while (old && at < old.pegs.length && old.pegs[at] !== peg && old.pegs[at]!.id !== peg.id) at++;
    const known = old && old.pegs[at] === peg ? old.placed[at]! : null;
    // After one that was not there none is looked for: commands put new ones last.
    seen = at + 1;
    let now = known;
    if (!known || !steady) {
      const mark = peg.markId === null ? null : (markNamed.get(peg.markId) ?? null);
      now = placePeg(peg, mark, beats, of);
      if (now && known && known.mark === now.mark && known.frame === now.frame && known.time === now.time) now = known;
    }
    placed[i] = now;
    if (!now) continue;
    ordered &&= awake.length === 0 || inOrder(awake.at(-1)!, now) <= 0;
    awake.push(now);
  }
  lastPlaced = { of, pegs, placed };
  // Pegs are mostly kept in the order of time.
  return ordered ? awake : awake.sort(inOrder);
}

const inOrder = (a: PlacedPeg, b: PlacedPeg): number => a.frame - b.frame || a.time - b.time;

/** The pegs that are awake, in order; what the slots lie between. */
export interface Hung {
  readonly length: number;
  readonly frames: number;
  readonly pegs: readonly PlacedPeg[];
  /** pegs on the very first frame: what hangs from one of them hangs at the start */
  readonly atStart: readonly PlacedPeg[];
  /** index of each peg among them, by its id */
  readonly places: ReadonlyMap<string, number>;
  readonly overPegs: readonly PlacedPeg[];
}

/** Hung pegs whose table by id is made when it is first asked for: an edit that moves cuts can do without. */
class HungPegs implements Hung {
  private table: ReadonlyMap<string, number> | null = null;

  constructor(
    readonly length: number,
    readonly frames: number,
    readonly pegs: readonly PlacedPeg[],
    readonly atStart: readonly PlacedPeg[],
    readonly overPegs: readonly PlacedPeg[],
  ) {}

  get places(): ReadonlyMap<string, number> {
    if (this.table) return this.table;
    const places = new Map<string, number>();
    for (const peg of this.atStart) places.set(peg.id, 0);
    for (let i = 0; i < this.pegs.length; i++) places.set(this.pegs[i]!.id, i);
    return (this.table = places);
  }
}

const knownPegs = new WeakMap<Montage['pegs'], { readonly of: Ground; readonly hung: Hung }>();

/** Where the pegs of a montage hang; computed once for each list of pegs, since most edits leave it as it is. */
export function pegsOf(montage: Montage): Hung {
  const known = knownPegs.get(montage.pegs);
  if (known && sameGround(known.of, montage)) return known.hung;
  const { marks, song, cut, shape } = montage;
  const hung = makePegs(montage);
  knownPegs.set(montage.pegs, { of: { marks, song, cut, shape }, hung });
  return hung;
}

function makePegs(montage: Montage): Hung {
  const length = montage.song ? arrangedLength(montage.song.pieces) : 0;
  const frames = frameCount(length, montage.shape.rate);
  if (frames === 0) return new HungPegs(0, 0, [], [], []);
  const all = placePegs(montage);
  const pegs: PlacedPeg[] = [{ id: START_PEG, time: 0, frame: 0, mark: null, peg: null }];
  // Of pegs that share a frame the first is awake: a slot without a frame would be a sliver.
  for (const p of all) if (!p.peg!.over && p.frame > pegs.at(-1)!.frame && p.frame < frames) pegs.push(p);
  const atStart = all.filter((p) => !p.peg!.over && p.frame <= 0).map((p) => (p.frame === 0 ? p : { ...p, frame: 0 }));
  pegs.push({ id: END_PEG, time: length, frame: frames, mark: null, peg: null });
  const overPegs = all.filter((p) => p.peg!.over && p.frame >= 0 && p.frame <= frames);
  return new HungPegs(length, frames, pegs, atStart, overPegs);
}

/** The montage whose score was made last: the next one asked for is mostly the same but for an edit. */
let last: { readonly montage: Montage; readonly slots: readonly Slot[] } | null = null;

function makeScore(montage: Montage): Score {
  const { length, frames, pegs, atStart, places, overPegs } = pegsOf(montage);
  if (frames === 0) return { length, frames, pegs, slots: [], overPegs, over: [], overLines: [NO_SLOTS, NO_SLOTS] };
  const items = byId(montage.footage, (item) => item.assetId);
  const shots = new Array<Shot | undefined>(pegs.length).fill(undefined);
  for (const shot of montage.shots) {
    const at = shot.over ? undefined : places.get(shot.startPeg);
    // Where the song begins on a bar in its middle, what hangs from that bar is seen, and not what hung at the old start.
    if (at !== undefined && !(at === 0 && shots[0] && shot.startPeg === START_PEG)) shots[at] = shot;
  }
  const slots: Slot[] = [];
  const comparable = last?.montage.footage === montage.footage && last.montage.shape === montage.shape;
  const old = last && comparable ? last.slots : [];
  const steady = last !== null && sameGround(last.montage, montage);
  let seen = 0;
  for (let i = 0; i + 1 < pegs.length;) {
    const shot = shots[i];
    const start = (i === 0 && shot && atStart.find((p) => p.id === shot.startPeg)) || pegs[i]!;
    while (seen < old.length && old[seen]!.start.frame < start.frame) seen++;
    const before = old[seen];
    // A slot between the same pegs with the same shot is as it was; only ties depend on marks inside it.
    const like = before?.start === start && before.placed?.shot === shot && (!shot || shot.endPeg === before.end.id);
    if (like && (steady || shot?.retime.kind !== 'tied')) {
      const end = shot ? places.get(shot.endPeg)! : i + 1;
      if (pegs[end] === before.end) {
        slots.push(before.index === slots.length ? before : slotBetween(slots.length, start, before.end, before.placed, montage));
        i = end;
        continue;
      }
    }
    const item = shot && items.get(shot.assetId);
    const to = !shot || shot.endPeg === pegs[i + 1]!.id ? i + 1 : Math.max(i + 1, places.get(shot.endPeg) ?? i + 1);
    const end = pegs[to]!;
    const placed = shot && item ? placeShot(shot, item, start.frame, end.frame, montage) : null;
    slots.push(slotBetween(slots.length, start, end, placed, montage));
    i = to;
  }
  last = { montage, slots };
  const [first, second] = [overSlots(montage, overPegs, items, false), overSlots(montage, overPegs, items, true)];
  return { length, frames, pegs, slots, overPegs, over: second.length > 0 ? [...first, ...second] : first, overLines: [first, second] };
}

const NO_SLOTS: readonly Slot[] = [];

function slotBetween(index: number, start: PlacedPeg, end: PlacedPeg, placed: PlacedShot | null, montage: Montage): Slot {
  const frames = end.frame - start.frame;
  return { index, start, end, frames, length: frameTime(frames, montage.shape.rate), placed };
}

/** The slots of one of the two lines that lie over the main one. */
function overSlots(montage: Montage, pegs: readonly PlacedPeg[], items: ReadonlyMap<string, FootageItem>, upper: boolean): readonly Slot[] {
  if (pegs.length === 0) return NO_SLOTS;
  const place = new Map(pegs.map((p) => [p.id, p]));
  const cutaways = montage.shots.filter((shot) => shot.over && Boolean(shot.upper) === upper && items.has(shot.assetId));
  const spans = cutaways.flatMap((shot) => {
    const [start, end] = [place.get(shot.startPeg), place.get(shot.endPeg)];
    return start && end ? [{ shot, start, end }] : [];
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
  const slot = slots[firstFrom(slots, (s) => s.end.frame, frame + 1)];
  return slot && frame >= slot.start.frame ? slot : undefined;
}

/**
 * The slot on the screen at a frame, or undefined outside the montage. By halving, since scores may be long.
 * @param frame of the montage, counted from 0
 */
export function slotAt(score: Score, frame: number): Slot | undefined {
  return slotIn(score.slots, frame);
}

/**
 * The cutaway that lies over a frame; of two the upper one.
 * @param frame of the montage, counted from 0
 * @returns undefined where none does
 */
export function overAt(score: Score, frame: number): Slot | undefined {
  return slotIn(score.overLines[1], frame) ?? slotIn(score.overLines[0], frame);
}

/** The cutaways that lie over a frame, from the lower to the upper. */
export function oversAt(score: Score, frame: number): readonly Slot[] {
  if (score.over.length === 0) return NO_SLOTS;
  return score.overLines.flatMap((line) => slotIn(line, frame) ?? []);
}

/** What is seen at a frame: a shot and the clip's own frame. */
export interface Shown {
  readonly slot: Slot;
  readonly placed: PlacedShot;
  readonly source: number;
}

/**
 * The shot that is seen at a frame: the cutaway where there is one with a picture, else what hangs below; null in a gap.
 * @param frame of the montage, counted from 0
 */
export function shownAt(montage: Montage, frame: number): Shown | null {
  const score = scoreOf(montage);
  for (const slot of [...oversAt(score, frame)].reverse().concat(slotAt(score, frame) ?? [])) {
    if (!slot?.placed) continue;
    const source = sourceFrame(slot.placed, frame - slot.start.frame, montage);
    if (source !== null) return { slot, placed: slot.placed, source };
  }
  return null;
}

/**
 * The slot that starts at a peg, in the main line or over it.
 * @returns undefined where none does, as for pegs that are not in use
 */
export function slotFrom(montage: Montage, startPeg: string): Slot | undefined {
  const score = scoreOf(montage);
  return score.slots.find((s) => s.start.id === startPeg) ?? score.over.find((s) => s.start.id === startPeg);
}

/**
 * The slot in which a shot hangs.
 * @returns undefined where it is not in use or not there
 */
export function slotOf(montage: Montage, shotId: string): (Slot & { readonly placed: PlacedShot }) | undefined {
  const score = scoreOf(montage);
  const found = score.slots.find((s) => s.placed?.shot.id === shotId) ?? score.over.find((s) => s.placed?.shot.id === shotId);
  return found as (Slot & { readonly placed: PlacedShot }) | undefined;
}
