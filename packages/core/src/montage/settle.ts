import { toMontageTime, toSongTime } from '../music/arrangement.ts';
import { cutFrame, frameTime } from '../time/frames.ts';
import { framesPerSecond } from '../time/rate.ts';
import { CommandError } from './command-error.ts';
import { clipLength, marksInUse, stretchesOf, type Mark, type Montage, type Peg, type Shot } from './document.ts';
import { freshShot, footageOf } from './hang-shot.ts';
import { rehang } from './rehang.ts';
import { scoreOf, type PlacedPeg, type Slot } from './score.ts';

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
  /** how far a cut may move, seconds; rippled cuts may move farther */
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
interface Before {
  readonly slot: Slot | null;
  /** footage that may be seen before and after what is seen, montage seconds at the shot's speed */
  readonly handleBefore: number;
  readonly handleAfter: number;
}

/** What it costs, in seconds squared, to leave a cut off all marks. */
const UNSETTLED = 4;
/** What a second squared of missing footage costs beside one of movement. */
const SHORTAGE = 3;

function beforeOf(slot: Slot | null): Before {
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
  const { rule, lead } = montage.cut;
  const pieces = montage.song?.pieces ?? [];
  const kinds = { bars: ['bar', 'drop'], beats: ['beat', 'bar', 'drop'], any: ['beat', 'bar', 'drop', 'accent', 'cue'] }[options.onto];
  const taken = new Set(montage.pegs.filter((p) => !p.over).map((p) => p.markId));
  const places = marksInUse(montage).flatMap((mark): Place[] => {
    if (!kinds.includes(mark.kind) || taken.has(mark.id)) return [];
    const time = toMontageTime(pieces, mark.time);
    return time === null ? [] : [{ frame: cutFrame(time, montage.shape.rate, rule, lead), mark }];
  });
  places.sort((a, b) => a.frame - b.frame);
  return places.filter((p, i) => i === 0 || p.frame > places[i - 1]!.frame);
}

/** What a shot costs when it lies between two frames instead of where it lay; infinite where it cannot. */
function shotCost(before: Before, from: number, to: number, options: SettleOptions, fps: number): number {
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

interface Step {
  readonly place: Place;
  readonly cost: number;
  readonly from: number;
}

/** How each shot runs after the cuts have moved, 1 is as before. */
function speedAfter(before: Before, from: number, to: number, options: SettleOptions, fps: number): number {
  const { slot } = before;
  if (!slot?.placed || slot.placed.item.kind === 'photo') return 1;
  const length = (to - from) / fps;
  if (options.way === 'retime') return slot.length / length;
  const [lead, tail] = options.way === 'roll' ? [(slot.start.frame - from) / fps, (to - slot.end.frame) / fps] : [0, length - slot.length];
  const lacking = Math.max(0, lead - before.handleBefore) + Math.max(0, tail - before.handleAfter);
  return (length - lacking) / length;
}

/**
 * Where all free cuts would come to lie: solved together by dynamic programming (Bellman 1957), so that the squares of
 * all movements sum up to the least while every shot keeps its least length, its speed limits and its footage.
 * @throws CommandError where there is nothing to settle or no way to do it
 */
export function planSettle(montage: Montage, options: SettleOptions): SettlePlan {
  const { pegs, free } = settling(montage);
  if (free.size === 0) throw new CommandError('Every cut lies on a mark already.');
  const fps = framesPerSecond(montage.shape.rate);
  const { slots } = scoreOf(montage);
  const places = placesFor(montage, options);
  const marks = new Map(montage.marks.map((m) => [m.id, m]));
  const bySlot = new Map(slots.map((s) => [s.start.id, s]));
  const befores = pegs.slice(0, -1).map((p) => beforeOf(bySlot.get(p.id) ?? null));
  const lastFree = Math.max(...pegs.map((p, i) => (free.has(p.id) ? i : 0)));
  const reachFrames = options.reach * fps;

  const candidates = pegs.map((p, i): Place[] => {
    const stay: Place = { frame: p.frame, mark: p.mark };
    if (!free.has(p.id)) return [stay];
    const choice = options.choices[p.id];
    if (choice === null) return [stay];
    if (choice !== undefined) {
      const chosen = places.find((x) => x.mark!.id === choice);
      if (!chosen && !marks.has(choice)) throw new CommandError('That mark is no longer there.');
      return chosen ? [chosen] : [stay];
    }
    // Rippled cuts come ever earlier, each by at most the distance of two marks.
    const reach = options.way === 'ripple' ? Math.min(p.frame, reachFrames * (i + 1)) : reachFrames;
    return [...places.filter((x) => x.frame > p.frame - reach && x.frame < p.frame + reachFrames), { frame: p.frame, mark: null }].sort(
      (a, b) => a.frame - b.frame,
    );
  });

  let row: Step[] = candidates[0]!.map((place) => ({ place, cost: 0, from: -1 }));
  const rows = [row];
  for (let i = 1; i < pegs.length; i++) {
    const natural = pegs[i]!.frame - pegs[i - 1]!.frame;
    const settles = free.has(pegs[i]!.id);
    row = candidates[i]!.map((place): Step => {
      let best: Step = { place, cost: Infinity, from: -1 };
      const previous = rows[i - 1]!;
      for (let k = 0; k < previous.length; k++) {
        const before = previous[k]!;
        if (before.cost >= best.cost || before.place.frame >= place.frame) continue;
        const target = options.way === 'ripple' && i <= lastFree ? before.place.frame + natural : pegs[i]!.frame;
        const moved = (place.frame - target) / fps;
        const own = !settles ? 0 : place.mark ? moved * moved : UNSETTLED + moved * moved;
        const cost = before.cost + own + shotCost(befores[i - 1]!, before.place.frame, place.frame, options, fps);
        if (cost < best.cost) best = { place, cost, from: k };
      }
      return best;
    });
    rows.push(row);
  }
  let at = row.reduce((best, s, k) => (s.cost < row[best]!.cost ? k : best), 0);
  if (!Number.isFinite(row[at]?.cost ?? Infinity))
    throw new CommandError(
      'There is no way to lay all cuts on marks within these limits. Allow more speed, shorter shots, or finer marks.',
    );
  const chosen: Place[] = [];
  for (let i = pegs.length - 1; i >= 0; i--) {
    chosen[i] = rows[i]![at]!.place;
    at = rows[i]![at]!.from;
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

/** A shot as it runs after its ends have moved. Seconds from its old start to its new one, and its new length. */
function settledShot(before: Before, lead: number, length: number, speed: number, options: SettleOptions): Shot {
  const { placed } = before.slot!;
  const { shot, item } = placed!;
  if (item.kind === 'photo' || shot.retime.kind === 'freeze') return shot;
  const inClip = (seconds: number): number => Math.max(0, Math.min(clipLength(item), seconds));
  const { until: _, ...rest } = shot;
  const pace = placed!.speed;
  if (options.way === 'retime') return { ...rest, retime: { kind: 'fit', sourceOut: inClip(placed!.curve.source(before.slot!.length)) } };
  const sourceIn = options.way === 'roll' ? inClip(shot.sourceIn - Math.min(lead, before.handleBefore) * pace) : shot.sourceIn;
  if (speed > 1 - 1e-6)
    return { ...rest, sourceIn, retime: shot.retime.kind === 'rate' ? shot.retime : { kind: 'rate', rate: Math.max(0.05, pace) } };
  return { ...rest, sourceIn, retime: { kind: 'fit', sourceOut: inClip(sourceIn + length * speed * pace) } };
}

/** Lays the cuts where a plan says and trims or retimes the shots between them. */
export function takeSettle(montage: Montage, plan: SettlePlan, options: SettleOptions): Montage {
  const { rate } = montage.shape;
  const fps = framesPerSecond(rate);
  const pieces = montage.song?.pieces ?? [];
  const to = new Map(plan.cuts.map((c) => [c.pegId, c]));
  const marks = new Map(montage.marks.map((m) => [m.id, m]));
  const pegs = montage.pegs.map((p): Peg => {
    const cut = to.get(p.id);
    if (!cut) return p;
    const mark = cut.markId === null ? undefined : marks.get(cut.markId);
    if (mark) return { ...p, markId: mark.id, time: mark.time, offset: 0, origin: 'hand' };
    return { ...p, markId: null, time: toSongTime(pieces, frameTime(cut.toFrame, rate)), offset: 0 };
  });
  const frameOf = (p: PlacedPeg): number => to.get(p.id)?.toFrame ?? p.frame;
  const speeds = new Map<string, number>();
  const shots = new Map<string, Shot>();
  const { slots } = scoreOf(montage);
  for (const slot of slots) {
    const [from, end] = [frameOf(slot.start), frameOf(slot.end)];
    if (!slot.placed || (from === slot.start.frame && end === slot.end.frame)) continue;
    const before = beforeOf(slot);
    const speed = speedAfter(before, from, end, options, fps);
    speeds.set(slot.placed.shot.id, speed);
    shots.set(slot.placed.shot.id, settledShot(before, (slot.start.frame - from) / fps, (end - from) / fps, speed, options));
  }
  const eased = options.way === 'retime' && options.ease === 'eased' ? easeAcross(slots, shots, speeds) : shots;
  return { ...montage, pegs, shots: montage.shots.map((s) => eased.get(s.id) ?? s) };
}

/** Speeds that go over into the neighbours': at a cut both shots run at the mean of the two. */
function easeAcross(slots: readonly Slot[], shots: ReadonlyMap<string, Shot>, speeds: ReadonlyMap<string, number>): Map<string, Shot> {
  const paceOf = (slot: Slot | undefined): number | null =>
    slot?.placed && slot.placed.item.kind === 'clip' ? slot.placed.speed * (speeds.get(slot.placed.shot.id) ?? 1) : null;
  const eased = new Map(shots);
  slots.forEach((slot, i) => {
    const own = paceOf(slot);
    const shot = slot.placed && shots.get(slot.placed.shot.id);
    if (own === null || !shot || shot.retime.kind !== 'fit' || own <= 0) return;
    const mean = (other: number | null): number => Math.max(0, Math.min(40, other === null ? own : (own + other) / 2));
    const edges = { start: mean(paceOf(slots[i - 1])), end: mean(paceOf(slots[i + 1])) };
    eased.set(shot.id, { ...shot, retime: { kind: 'tied', sourceOut: shot.retime.sourceOut, ties: [], ease: 'eased', edges } });
  });
  return eased;
}

/** A stretch of a clip in a cut that was there before the music, clip seconds. */
export interface RunStretch {
  readonly assetId: string;
  readonly in: number;
  readonly out: number;
}

/**
 * Lays a run of shots, one after the other and as long as they are, over the song from a frame on. Its cuts hang from free
 * pegs. What hung there makes way; what goes beyond the song's end is left out.
 * @returns the montage and how many shots found no room
 */
export function layRun(montage: Montage, run: readonly RunStretch[], at: number): { montage: Montage; left: number } {
  const score = scoreOf(montage);
  if (!montage.song) throw new CommandError('There is no song to lay under the cut yet. Choose one first.');
  if (run.length === 0) throw new CommandError('There is nothing to lay out. Choose clips, or take a film apart in Footage.');
  const { rate } = montage.shape;
  const { pieces } = montage.song;
  const fps = framesPerSecond(rate);
  const borders = [at];
  let seconds = at / fps;
  for (const { in: from, out } of run) borders.push(Math.round((seconds += out - from) * fps));
  const fits = run.filter((_, i) => borders[i + 1]! <= score.frames && borders[i + 1]! > borders[i]!).length;
  const until = borders[fits]!;
  if (fits === 0) throw new CommandError('The song is shorter than the first shot. Choose more of the song.');
  const locked = score.slots.find((s) => s.placed?.shot.locked && s.start.frame < until && s.end.frame > at);
  if (locked) throw new CommandError('A locked shot hangs where the cut would lie. Unlock it first, or start later.');
  const gone = new Set(score.pegs.filter((p) => p.peg && p.frame >= at && p.frame <= until).map((p) => p.id));
  const covered = new Set(score.slots.filter((s) => s.start.frame >= at && s.start.frame < until).map((s) => s.start.id));
  const cleared = rehang(
    { ...montage, shots: montage.shots.filter((s) => s.over || !covered.has(s.startPeg)) },
    montage.pegs.filter((p) => !gone.has(p.id)),
  );
  let { lastId } = cleared;
  const pegs = borders
    .slice(0, fits + 1)
    .flatMap((frame): Peg[] =>
      frame === 0 || frame >= score.frames
        ? []
        : [{ id: `p${++lastId}`, markId: null, time: toSongTime(pieces, frameTime(frame, rate) + 1e-7), offset: 0, origin: 'hand' }],
    );
  const pegged = rehang({ ...cleared, lastId }, [...cleared.pegs, ...pegs]);
  const placed = new Map(scoreOf(pegged).pegs.map((p) => [p.frame, p.id]));
  const shots = run.slice(0, fits).map((stretch, i): Shot => {
    const item = footageOf(montage, stretch.assetId);
    return { ...freshShot(item, placed.get(borders[i]!)!, placed.get(borders[i + 1]!)!, stretch.in), id: `s${++lastId}` };
  });
  const starts = new Set(shots.map((s) => s.startPeg));
  const kept = pegged.shots.filter((s) => s.over || !starts.has(s.startPeg));
  return { montage: { ...pegged, lastId, shots: [...kept, ...shots] }, left: run.length - fits };
}
