import { MARKS } from '../marks/kinds/all.ts';
import { framesPerSecond } from '../time/rate.ts';
import { CommandError } from '../document/command-error.ts';
import type { Mark, Montage } from '../document/montage.ts';
import { firstFrom } from '../lists/first-from.ts';
import { placedMarks } from '../marks/placed-marks.ts';
import { scoreOf, type PlacedPeg, type Slot } from '../score/score.ts';
import { clipLength, stretchesOf } from '../document/footage-item.ts';

/** How cuts that lie on no mark come to lie on marks. */
export interface SettleOptions {
  /** pictures stay in their time; each shot is trimmed and the rest follows; or nothing is lost and the speed changes */
  readonly way: 'roll' | 'ripple' | 'retime';
  /** how speed goes over from shot to shot */
  readonly ease: 'hard' | 'eased';
  readonly onto: 'bars' | 'beats' | 'any';
  /** seconds */
  readonly leastShot: number;
  readonly slowest: number;
  readonly fastest: number;
  /** how far a cut may move, seconds; a rippled one, from where it would come if its shot kept its length */
  readonly reach: number;
  /** marks chosen for single cuts, by peg; null leaves the cut where it is */
  readonly choices: Readonly<Record<string, string | null>>;
}

export const SETTLE_DEFAULTS: SettleOptions = {
  way: 'roll',
  ease: 'hard',
  onto: 'beats',
  leastShot: 0.3,
  slowest: 0.5,
  fastest: 2,
  reach: 0.6,
  choices: {},
};

/** One cut before and after. */
export interface SettledCut {
  readonly pegId: string;
  readonly fromFrame: number;
  readonly toFrame: number;
  /** null where it stays off all marks */
  readonly markId: string | null;
  /** how the shot that starts here runs afterwards, 1 is as before */
  readonly speed: number;
}

export interface SettlePlan {
  readonly cuts: readonly SettledCut[];
  readonly settled: number;
  /** frames that all cuts move together, and the farthest */
  readonly movedFrames: number;
  readonly worstFrames: number;
}

/** A place where a cut may come to lie. */
interface Place {
  readonly frame: number;
  readonly mark: Mark | null;
}

/** A shot between two cuts as it was before. */
export interface ShotBefore {
  readonly slot: Slot | null;
  /** footage that may be seen before and after what is seen, montage seconds at the shot's speed */
  readonly handleBefore: number;
  readonly handleAfter: number;
}

const frameOf = (place: Place): number => place.frame;

/** What it costs, in seconds squared, to leave a cut off all marks. */
const UNSETTLED = 4;
/** What a second squared of missing footage costs beside one of movement. */
const SHORTAGE = 3;

/** What a slot's shot shows now, and how much footage it may still give on either side; a photo gives as much as is asked. */
export function shotBefore(slot: Slot | null): ShotBefore {
  if (!slot?.placed || slot.placed.item.kind === 'photo') return { slot, handleBefore: Infinity, handleAfter: Infinity };
  const { placed } = slot;
  const { sourceIn } = placed.shot;
  const out = placed.curve.source(slot.length);
  // A film that was taken apart has other pictures beside each of its parts: they are no handles.
  const own =
    placed.item.selects.length > 1 ? stretchesOf(placed.item).find((s) => sourceIn >= s.in - 1e-3 && sourceIn < s.out - 1e-3) : null;
  const [low, high] = [own?.in ?? 0, own?.out ?? clipLength(placed.item)];
  const speed = Math.max(0.05, Math.abs(placed.speed));
  return { slot, handleBefore: Math.max(0, (sourceIn - low) / speed), handleAfter: Math.max(0, (high - out) / speed) };
}

/** The cuts of a montage in order with the pegs that are to be settled among them. */
function settling(montage: Montage): { pegs: readonly PlacedPeg[]; free: ReadonlySet<string> } {
  const { pegs, slots } = scoreOf(montage);
  const edges = new Set(slots.flatMap((s) => [s.start.id, s.end.id]));
  const cuts = pegs.filter((p) => edges.has(p.id));
  return { pegs: cuts, free: new Set(cuts.filter((p) => p.peg && !p.mark).map((p) => p.id)) };
}

function placesFor(montage: Montage, options: SettleOptions): Place[] {
  const drawn = { bars: ['bars'], beats: ['bars', 'beats'], any: ['bars', 'beats', 'any'] }[options.onto];
  const taken = new Set(montage.pegs.filter((p) => !p.over).map((p) => p.markId));
  const places = placedMarks(montage).filter(({ mark }) => drawn.includes(MARKS[mark.kind].drawn) && !taken.has(mark.id));
  return places.filter((p, i) => i === 0 || p.frame > places[i - 1]!.frame);
}

/** What a shot costs when it lies between two frames instead of where it lay; infinite where it cannot. */
function shotCost(before: ShotBefore, from: number, to: number, options: SettleOptions, fps: number): number {
  const { slot } = before;
  const length = (to - from) / fps;
  if (!slot?.placed) return length > 0 ? 0 : Infinity;
  if (length < options.leastShot - 1e-6) return Infinity;
  const old = slot.length;
  if (options.way === 'retime') {
    if (slot.placed.item.kind === 'photo') return 0;
    const speed = old / length;
    return speed < options.slowest - 1e-6 || speed > options.fastest + 1e-6 ? Infinity : 0.02 * Math.log(speed) ** 2;
  }
  const [lead, tail] = options.way === 'roll' ? [slot.start.frame / fps - from / fps, to / fps - slot.end.frame / fps] : [0, length - old];
  const lacking = Math.max(0, lead - before.handleBefore) + Math.max(0, tail - before.handleAfter);
  if (lacking === 0) return 0;
  return (length - lacking) / length < options.slowest - 1e-6 ? Infinity : SHORTAGE * lacking * lacking;
}

/** How each shot runs after the cuts have moved, 1 is as before. */
export function speedAfter(before: ShotBefore, from: number, to: number, options: SettleOptions, fps: number): number {
  const { slot } = before;
  if (!slot?.placed || slot.placed.item.kind === 'photo') return 1;
  const length = (to - from) / fps;
  if (options.way === 'retime') return slot.length / length;
  const [lead, tail] = options.way === 'roll' ? [(slot.start.frame - from) / fps, (to - slot.end.frame) / fps] : [0, length - slot.length];
  const lacking = Math.max(0, lead - before.handleBefore) + Math.max(0, tail - before.handleAfter);
  return (length - lacking) / length;
}

/** All places at which a cut may lie, what each costs at the least with all cuts before it, and from which of theirs that is. */
interface Row {
  readonly places: readonly Place[];
  readonly cost: Float64Array;
  readonly from: Int32Array;
}

/** Where the places begin and end that can be come to at all. */
function reached({ cost }: Row): { first: number; end: number } {
  let first = 0;
  let end = cost.length;
  while (first < end && cost[first] === Infinity) first++;
  while (end > first && cost[end - 1] === Infinity) end--;
  return { first, end };
}

/**
 * One cut further.
 * @param follows how far the cut would lie behind the one before it if the shot kept its length, and how far from there it
 *   may move, both in frames; farther only where nothing lies within reach. Null where it counts from its own old place.
 * @param cost of a place after a frame
 */
function nextRow(
  before: Row,
  places: readonly Place[],
  follows: { readonly natural: number; readonly reach: number } | null,
  cost: (frame: number, place: Place) => number,
): Row {
  const row = { places, cost: new Float64Array(places.length).fill(Infinity), from: new Int32Array(places.length).fill(-1) };
  const earlier = before.places;
  const { first, end } = reached(before);
  for (let n = 0; n < places.length; n++) {
    const place = places[n]!;
    let best = Infinity;
    let from = -1;
    const look = (k: number): void => {
      const { frame } = earlier[k]!;
      const spent = before.cost[k]!;
      if (frame >= place.frame || spent > best) return;
      const sum = spent + cost(frame, place);
      // Of equals the earliest, whichever was looked at first.
      if (sum < best || (sum === best && sum < Infinity && k < from)) [best, from] = [sum, k];
    };
    const ideal = follows ? place.frame - follows.natural : 0;
    const beyond = (k: number): boolean => follows !== null && best < Infinity && Math.abs(earlier[k]!.frame - ideal) > follows.reach;
    const middle = follows ? Math.min(end, Math.max(first, firstFrom(earlier, frameOf, ideal))) : first;
    for (let k = middle; k < end && earlier[k]!.frame < place.frame && !beyond(k); k++) look(k);
    for (let k = middle - 1; k >= first && !beyond(k); k--) look(k);
    row.cost[n] = best;
    row.from[n] = from;
  }
  return row;
}

/**
 * Where all free cuts would come to lie: solved together by dynamic programming (Bellman 1957), so that the squares of
 * all movements sum up to the least while every shot keeps its least length, its speed limits and its footage.
 * @throws CommandError where there is nothing to settle or no way to do it
 * @param options reach in seconds; what the editor chose for single pegs
 */
export function planSettle(montage: Montage, options: SettleOptions): SettlePlan {
  const { pegs, free } = settling(montage);
  if (free.size === 0) throw new CommandError('Every cut lies on a mark already.');
  const fps = framesPerSecond(montage.shape.rate);
  const { slots } = scoreOf(montage);
  const places = placesFor(montage, options);
  const marks = new Map(montage.marks.map((m) => [m.id, m]));
  const bySlot = new Map(slots.map((s) => [s.start.id, s]));
  const befores = pegs.slice(0, -1).map((p) => shotBefore(bySlot.get(p.id) ?? null));
  const reachFrames = options.reach * fps;
  const placeOfMark = new Map(places.map((x) => [x.mark!.id, x]));

  const candidates = pegs.map((p, i): Place[] => {
    const stay: Place = { frame: p.frame, mark: p.mark };
    if (!free.has(p.id)) return [stay];
    const choice = options.choices[p.id];
    if (choice === null) return [stay];
    if (choice !== undefined) {
      const chosen = placeOfMark.get(choice);
      if (!chosen && !marks.has(choice)) throw new CommandError('That mark is no longer there.');
      return chosen ? [chosen] : [stay];
    }
    // Rippled cuts come ever earlier, each by at most the distance of two marks.
    const reach = options.way === 'ripple' ? Math.min(p.frame, reachFrames * (i + 1)) : reachFrames;
    const [first, end] = [p.frame - reach, p.frame + reachFrames];
    const from = firstFrom(places, frameOf, first);
    let to = from;
    while (to < places.length && places[to]!.frame < end) to++;
    const near = places.slice(places[from]?.frame === first ? from + 1 : from, to);
    const own = firstFrom(near, frameOf, p.frame + 0.5);
    return [...near.slice(0, own), { frame: p.frame, mark: null }, ...near.slice(own)];
  });

  const rows: Row[] = [
    { places: candidates[0]!, cost: new Float64Array(candidates[0]!.length), from: new Int32Array(candidates[0]!.length) },
  ];
  for (let i = 1; i < pegs.length; i++) {
    const [peg, shot] = [pegs[i]!, befores[i - 1]!];
    const settles = free.has(peg.id);
    const natural = peg.frame - pegs[i - 1]!.frame;
    const follows = options.way === 'ripple' && settles ? { natural, reach: reachFrames } : null;
    const cost = (frame: number, place: Place): number => {
      const moved = settles ? (place.frame - (follows ? frame + natural : peg.frame)) / fps : 0;
      return (settles && !place.mark ? UNSETTLED : 0) + moved * moved + shotCost(shot, frame, place.frame, options, fps);
    };
    rows.push(nextRow(rows[i - 1]!, candidates[i]!, follows, cost));
  }
  const { cost } = rows.at(-1)!;
  const least = cost.reduce((a, b) => Math.min(a, b), Infinity);
  if (!Number.isFinite(least))
    throw new CommandError(
      'There is no way to lay all cuts on marks within these limits. Allow more speed, shorter shots, or finer marks.',
    );
  let at = cost.indexOf(least);
  const chosen: Place[] = [];
  for (let i = pegs.length - 1; i >= 0; i--) {
    chosen[i] = rows[i]!.places[at]!;
    at = rows[i]!.from[at]!;
  }
  const cuts = pegs.flatMap((p, i): SettledCut[] => {
    if (!free.has(p.id)) return [];
    const place = chosen[i]!;
    const speed = i < befores.length ? speedAfter(befores[i]!, place.frame, chosen[i + 1]!.frame, options, fps) : 1;
    return [{ pegId: p.id, fromFrame: p.frame, toFrame: place.frame, markId: place.mark?.id ?? null, speed }];
  });
  const moves = cuts.map((c) => Math.abs(c.toFrame - c.fromFrame));
  return {
    cuts,
    settled: cuts.filter((c) => c.markId !== null).length,
    movedFrames: moves.reduce((sum, m) => sum + m, 0),
    worstFrames: Math.max(0, ...moves),
  };
}
