import { arrangedLength, toMontageTime } from '../music/arrangement.ts';
import { cutFrame, frameCount, frameTime } from '../time/frames.ts';
import { END_PEG, START_PEG, clipLength, type FootageItem, type Mark, type Montage, type Peg, type Shot } from './document.ts';

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

/** How a shot hangs in its slot. */
export interface PlacedShot {
  readonly shot: Shot;
  readonly item: FootageItem;
  /** clip seconds for each montage second */
  readonly speed: number;
  /** how many of the slot's frames the clip covers */
  readonly coveredFrames: number;
  /** how much footage is missing to cover the slot, montage seconds */
  readonly missing: number;
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
}

const scores = new WeakMap<Montage, Score>();

/** The score of a montage; computed once for each document. */
export function scoreOf(montage: Montage): Score {
  let score = scores.get(montage);
  if (!score) scores.set(montage, (score = makeScore(montage)));
  return score;
}

function placePegs(montage: Montage, length: number, frames: number): PlacedPeg[] {
  const { rate } = montage.shape;
  const pieces = montage.song?.pieces ?? [];
  const marks = new Map(montage.marks.map((m) => [m.id, m]));
  const placed: PlacedPeg[] = [];
  for (const peg of montage.pegs) {
    const mark = peg.markId === null ? null : (marks.get(peg.markId) ?? null);
    const time = toMontageTime(pieces, mark?.time ?? peg.time);
    if (time === null) continue; // its moment was cut out of the song: the peg sleeps
    const { rule, lead } = montage.cut;
    // A free peg is a frame that was chosen as such: rules about marks do not move it.
    const frame = mark ? cutFrame(time, rate, rule, lead) + peg.offset : cutFrame(time, rate, 'nearest');
    placed.push({ id: peg.id, time: time + frameTime(mark ? peg.offset : 0, rate), frame, mark, peg });
  }
  placed.sort((a, b) => a.frame - b.frame || a.time - b.time);
  const awake: PlacedPeg[] = [{ id: START_PEG, time: 0, frame: 0, mark: null, peg: null }];
  // Of pegs that share a frame the first is awake: a slot without a frame would be a sliver.
  for (const p of placed) if (p.frame > awake.at(-1)!.frame && p.frame < frames) awake.push(p);
  awake.push({ id: END_PEG, time: length, frame: frames, mark: null, peg: null });
  return awake;
}

/** How a shot covers a slot of so many frames. */
export function placeShot(shot: Shot, item: FootageItem, frames: number, montage: Montage): PlacedShot {
  const length = frameTime(frames, montage.shape.rate);
  const available = clipLength(item) - shot.sourceIn;
  const speed = shot.retime.kind === 'rate' ? shot.retime.rate : Math.max(0.01, (shot.retime.sourceOut - shot.sourceIn) / length);
  if (item.kind === 'photo') return { shot, item, speed: 1, coveredFrames: frames, missing: 0 };
  // The last source frame lasts until its end, so a montage frame is covered while its moment lies before that.
  const covered = Math.min(frames, Math.max(0, Math.ceil((available / speed) * (frames / length) - 1e-6)));
  return { shot, item, speed, coveredFrames: covered, missing: frameTime(frames - covered, montage.shape.rate) };
}

function makeScore(montage: Montage): Score {
  const length = montage.song ? arrangedLength(montage.song.pieces) : 0;
  const frames = frameCount(length, montage.shape.rate);
  if (frames === 0) return { length: 0, frames: 0, pegs: [], slots: [] };
  const pegs = placePegs(montage, length, frames);
  const place = new Map(pegs.map((p, i) => [p.id, i]));
  const items = new Map(montage.footage.map((item) => [item.assetId, item]));
  const shots = new Map(montage.shots.map((shot) => [shot.startPeg, shot]));
  const slots: Slot[] = [];
  for (let i = 0; i + 1 < pegs.length;) {
    const start = pegs[i]!;
    const shot = shots.get(start.id);
    const item = shot && items.get(shot.assetId);
    const to = shot ? Math.max(i + 1, place.get(shot.endPeg) ?? i + 1) : i + 1;
    const end = pegs[to]!;
    const slotFrames = end.frame - start.frame;
    slots.push({
      index: slots.length,
      start,
      end,
      frames: slotFrames,
      length: frameTime(slotFrames, montage.shape.rate),
      placed: shot && item ? placeShot(shot, item, slotFrames, montage) : null,
    });
    i = to;
  }
  return { length, frames, pegs, slots };
}

/** The slot on the screen at a frame, or undefined outside the montage. By halving, since scores may be long. */
export function slotAt(score: Score, frame: number): Slot | undefined {
  let low = 0;
  let high = score.slots.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const slot = score.slots[middle]!;
    if (frame < slot.start.frame) high = middle - 1;
    else if (frame >= slot.end.frame) low = middle + 1;
    else return slot;
  }
  return undefined;
}

/** The clip's own frame that is seen `into` frames after the start of its slot, or null where the clip has run out. */
export function sourceFrame(placed: PlacedShot, into: number, montage: Montage): number | null {
  const { shot, item, speed } = placed;
  if (item.kind === 'photo') return 0;
  if (into >= placed.coveredFrames && shot.whenShort === 'gap') return null;
  const seconds = shot.sourceIn + frameTime(into, montage.shape.rate) * speed;
  const frame = Math.floor((seconds * item.rate.num) / item.rate.den + 1e-4);
  return Math.max(0, Math.min(item.frames - 1, frame));
}
