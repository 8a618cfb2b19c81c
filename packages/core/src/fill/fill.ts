import { ORDERS } from './orders/all.ts';
import { saysTheSame } from '../document/sharing.ts';
import { byId } from '../lists/by-id.ts';
import { toSongTime } from '../music/arrangement.ts';
import { frameTime } from '../time/frames.ts';
import { Picker, candidatesFor, type Candidate } from './candidates.ts';
import { CommandError } from '../document/command-error.ts';
import { bestMatch } from './best-match.ts';
import type { Montage, Peg, Shot } from '../document/montage.ts';
import { FILL_DEFAULTS, type FillKnowledge, type FillOptions } from './fill-options.ts';
import { freshShot } from '../shots/hang-shot.ts';
import { marksOfSlot } from '../score/mark-weight.ts';
import { placeShot } from '../score/placed-shot.ts';
import { scoreOf, type PlacedPeg, type Slot } from '../score/score.ts';
import { clipLength } from '../document/footage-item.ts';

/** A peg that filling needs to divide a slot; shots of the plan name it by `key`. */
export interface NewPeg {
  readonly key: string;
  readonly peg: Omit<Peg, 'id'>;
}

/** What filling would do. Nothing is changed until it is taken. */
export interface FillPlan {
  readonly shots: readonly Omit<Shot, 'id'>[];
  readonly pegs: readonly NewPeg[];
  /** first pegs of the slots whose shots make way */
  readonly cleared: readonly string[];
  readonly leftovers: readonly { readonly assetId: string; readonly selectId: string }[];
  readonly counts: FillCounts;
}

/** What filling would do, in numbers. */
export interface FillCounts {
  /** slots that were to be filled, and those that get a picture */
  readonly slots: number;
  readonly filled: number;
  readonly slowed: number;
  /** shots that reach beyond their select */
  readonly beyond: number;
  readonly held: number;
  readonly gaps: number;
  /** montage seconds without a picture in those gaps */
  readonly missing: number;
  readonly divided: number;
  /** shots whose clip was shown before */
  readonly repeated: number;
  /** shots whose hit lands on a mark */
  readonly hits: number;
  readonly locked: number;
}

/** A slot as filling sees it: divided ones are two. */
type OpenSlot = Slot;

interface Hung {
  readonly shot: Omit<Shot, 'id'>;
  readonly missing: number;
  readonly beyond: boolean;
  /** the part of the clip that was used up, clip seconds */
  readonly used: readonly [number, number];
  readonly onMark: string | null;
}

/** Where in an unused part of a select a shot starts at its own speed, and on which mark its hit lands. */
function startIn(
  montage: Montage,
  c: Candidate,
  part: { in: number; out: number },
  slot: OpenSlot,
  from: FillOptions['from'],
): [number, string | null] {
  const { hit } = c.select;
  const latest = part.out - slot.length;
  if (from === 'out') return [Math.max(part.in, latest), null];
  if (from === 'in' || hit === null || hit < part.in - 1e-6 || hit > part.out - 1e-6) return [part.in, null];
  if (from === 'hit-first') return [hit, slot.start.mark?.id ?? null];
  const { rate } = montage.shape;
  const marks = marksOfSlot(montage, slot);
  const fits = marks.find(({ into }) => hit - frameTime(into, rate) >= part.in - 1e-6 && hit - frameTime(into, rate) <= latest + 1e-6);
  if (fits) return [Math.max(0, hit - frameTime(fits.into, rate)), fits.mark.id];
  return [Math.max(part.in, Math.min(latest, hit)), null];
}

/** How a candidate hangs in a slot by the options. */
export function hangCandidate(
  montage: Montage,
  c: Candidate,
  slot: OpenSlot,
  options: FillOptions,
  wanted?: { in: number; out: number },
): Hung {
  const { item } = c;
  const blank = freshShot(item, slot.start.id, slot.end.id, 0);
  if (item.kind === 'photo') return { shot: blank, missing: 0, beyond: false, used: [0, 0], onMark: null };
  const part = wanted ?? c.part(slot.length);
  const [start, onMark] = startIn(montage, c, part, slot, options.from);
  const whole = clipLength(item);
  const { length } = slot;
  const whenShort = options.tooShort === 'gap' || options.tooShort === 'divide' ? 'gap' : 'hold';
  const available = part.out - start;
  const plain = { ...blank, sourceIn: start, whenShort } as const;
  const done = (shot: Omit<Shot, 'id'>, to: number, mark: string | null): Hung => {
    const { missing } = placeShot({ ...shot, id: '' }, item, slot.start.frame, slot.end.frame, montage);
    return {
      shot,
      missing,
      beyond: to > c.select.out + 1e-6,
      used: [Math.min(shot.sourceIn, start), Math.min(to, c.select.out)],
      onMark: mark,
    };
  };
  if (available >= length - 1e-6) return done(plain, start + length, onMark);
  // From its out, or where the hit is not to be on the slot's first frame, a short part is shown from its start.
  const from = options.from === 'hit-first' && onMark !== null && whole - start >= length * options.leastSpeed ? start : part.in;
  const mark = from === start ? onMark : null;
  const left = part.out - from;
  if (left >= length - 1e-6) return done({ ...plain, sourceIn: from }, from + length, mark);
  if (left >= length * options.leastSpeed - 1e-6)
    return done({ ...plain, sourceIn: from, retime: { kind: 'fit', sourceOut: part.out } }, part.out, mark);
  const least = length * options.leastSpeed;
  if (options.handles && whole - from >= least - 1e-6) {
    const sourceOut = Math.min(whole, from + least);
    return done({ ...plain, sourceIn: from, retime: { kind: 'fit', sourceOut } }, sourceOut, mark);
  }
  const end = options.handles ? whole : part.out;
  const until = end < whole - 1e-6 ? { until: end } : {};
  return done({ ...plain, ...until, sourceIn: from, retime: { kind: 'rate', rate: options.leastSpeed } }, end, mark);
}

/** Where a slot is divided for the next clip: on the last beat or half beat that the first one reaches, or on its last frame. */
function dividing(
  montage: Montage,
  slot: OpenSlot,
  covered: number,
  number: number,
): { first: OpenSlot; rest: OpenSlot; peg: NewPeg } | null {
  const { rate } = montage.shape;
  const limit = slot.start.frame + covered;
  const inside = marksOfSlot(montage, slot)
    .filter(({ mark, into }) => (mark.kind === 'beat' || mark.kind === 'bar') && into > 1)
    .map(({ mark, into }) => ({ mark, frame: slot.start.frame + into }));
  const on = inside.filter((m) => m.frame <= limit).sort((a, b) => b.frame - a.frame)[0];
  const frame = on?.frame ?? limit;
  if (frame <= slot.start.frame + 1 || frame >= slot.end.frame - 1) return null;
  const key = `new ${number}`;
  const time = on?.mark.time ?? toSongTime(montage.song!.pieces, frameTime(frame, rate));
  const middle: PlacedPeg = { id: key, time: frameTime(frame, rate), frame, mark: on?.mark ?? null, peg: null };
  const piece = (start: PlacedPeg, end: PlacedPeg): OpenSlot => {
    const frames = end.frame - start.frame;
    return { index: slot.index, start, end, frames, length: frameTime(frames, rate), placed: null };
  };
  return {
    first: piece(slot.start, middle),
    rest: piece(middle, slot.end),
    peg: { key, peg: { markId: on?.mark.id ?? null, time, offset: 0, origin: 'hand' } },
  };
}

/** The slots that are to be filled, and how many of them a lock keeps. */
function openSlots(montage: Montage, options: FillOptions): { open: OpenSlot[]; locked: number } {
  const { slots } = scoreOf(montage);
  const chosen = new Set(options.slots ?? []);
  const wanted = slots.filter((s) => (options.scope === 'all' ? true : options.scope === 'empty' ? !s.placed : chosen.has(s.start.id)));
  const open = wanted.filter((s) => !s.placed?.shot.locked);
  return { open, locked: wanted.length - open.length };
}

/** Marks as used what hangs already and stays. */
function useKept(montage: Montage, candidates: readonly Candidate[], open: ReadonlySet<Slot>): void {
  for (const slot of scoreOf(montage).slots) {
    const { placed } = slot;
    if (!placed || open.has(slot)) continue;
    const from = placed.shot.sourceIn;
    const own = candidates.filter((c) => c.item.assetId === placed.item.assetId);
    const c = own.find(({ select }) => from >= select.in - 1e-6 && from < select.out) ?? own[0];
    c?.use(from, from + slot.length * Math.abs(placed.speed));
  }
}

const PLACES = { in: 'from its in', out: 'up to its out', 'hit-first': 'its hit on the cut', 'hit-mark': 'its hit on a mark' } as const;

/**
 * What filling would do: slots from first to last, selects in the order asked for; each starts as asked, or where its
 * unused part begins when it comes round again. No cut moves.
 * @param knowledge of the music and the footage; best match needs it
 * @throws CommandError when there is nothing to fill or nothing to fill with
 */
export function planFill(montage: Montage, options: FillOptions = FILL_DEFAULTS, knowledge?: FillKnowledge): FillPlan {
  if (montage.footage.length === 0) throw new CommandError('There is no footage to hang. Add clips or photos in Footage first.');
  if (scoreOf(montage).slots.length === 0) throw new CommandError('There are no slots to fill. Choose a song first.');
  const { open, locked } = openSlots(montage, options);
  if (open.length === 0)
    throw new CommandError(
      locked > 0
        ? 'All of these shots are locked. Unlock some first.'
        : options.scope === 'chosen'
          ? 'No slots are chosen. Choose some in the score, or a section.'
          : 'Every slot is filled already.',
    );
  const candidates = candidatesFor(montage, options);
  if (candidates.length === 0) throw new CommandError('Nothing is picked. Pick clips in Footage, in the order in which they are to come.');
  useKept(montage, candidates, new Set(open));

  const order = ORDERS[options.order];
  const matched = order.matches ? bestMatch(montage, open, candidates, options, knowledge) : null;
  const picker = new Picker(candidates, options);
  const plan = { shots: [] as Omit<Shot, 'id'>[], pegs: [] as NewPeg[] };
  const counts = {
    slots: open.length,
    filled: 0,
    slowed: 0,
    beyond: 0,
    held: 0,
    gaps: 0,
    missing: 0,
    divided: 0,
    repeated: 0,
    hits: 0,
    locked,
  };
  const shown = new Set<string>();
  const isOpen = new Set(open);
  const put = (slot: OpenSlot, c: Candidate, why: string): void => {
    let hung = hangCandidate(montage, c, slot, matched ? { ...options, from: 'hit-mark' } : options);
    let rest: OpenSlot | null = null;
    if (hung.missing > 0 && options.tooShort === 'divide') {
      const covered = Math.round(((slot.length - hung.missing) * montage.shape.rate.num) / montage.shape.rate.den);
      const parts = dividing(montage, slot, covered, plan.pegs.length + 1);
      if (parts) {
        plan.pegs.push(parts.peg);
        hung = hangCandidate(montage, c, parts.first, options);
        rest = parts.rest;
        counts.divided++;
      }
    }
    c.use(...hung.used);
    counts.filled++;
    const { retime } = hung.shot;
    if (retime.kind === 'fit' || (retime.kind === 'rate' && retime.rate < 1)) counts.slowed++;
    if (hung.beyond) counts.beyond++;
    if (hung.missing > 0) {
      counts[hung.shot.whenShort === 'hold' ? 'held' : 'gaps']++;
      if (hung.shot.whenShort === 'gap') counts.missing += hung.missing;
    }
    if (shown.has(c.item.assetId)) counts.repeated++;
    if (hung.onMark) counts.hits++;
    shown.add(c.item.assetId);
    const mark = hung.onMark && montage.marks.find((m) => m.id === hung.onMark);
    plan.shots.push({
      ...hung.shot,
      why: `${why}${mark ? `; its hit on ${mark.kind === 'accent' ? 'an accent' : `a ${mark.kind}`}` : ''}`.slice(0, 300),
    });
    if (rest) {
      const next = picker.pick(rest.length);
      if (next) put(rest, next, 'shares the slot of a clip that was too short');
    }
  };
  for (const slot of scoreOf(montage).slots) {
    if (!isOpen.has(slot)) {
      picker.pass(slot.placed?.item.assetId ?? null);
      continue;
    }
    if (matched) {
      const choice = matched.get(slot.start.id);
      if (choice) put(slot, choice.candidate, choice.why);
      continue;
    }
    const c = picker.pick(slot.length);
    if (!c) break;
    put(slot, c, `${order.why(options)}, ${PLACES[c.select.hit === null && options.from.startsWith('hit') ? 'in' : options.from]}`);
  }
  const leftovers = candidates.filter((c) => !c.hung).map((c) => ({ assetId: c.item.assetId, selectId: c.select.id }));
  return { ...plan, cleared: open.map((s) => s.start.id), leftovers, counts };
}

/**
 * Hangs what a plan says.
 * @param plan made of this very montage
 * @returns the montage with pegs and shots of the plan; ids are given out anew
 */
export function takePlan(montage: Montage, plan: FillPlan): Montage {
  let { lastId } = montage;
  const ids = new Map(plan.pegs.map(({ key }) => [key, `p${++lastId}`]));
  const pegs = plan.pegs.map(({ key, peg }): Peg => ({ ...peg, id: ids.get(key)! }));
  const cleared = new Set(plan.cleared);
  const kept = montage.shots.filter((s) => s.over || s.locked || !cleared.has(s.startPeg));
  const to = (peg: string): string => ids.get(peg) ?? peg;
  const before = byId(montage.shots, (s) => s.startPeg);
  const hung = plan.shots.map((s): Shot => {
    const shot = { ...s, startPeg: to(s.startPeg), endPeg: to(s.endPeg) };
    const there = before.get(shot.startPeg);
    // What hangs there already is that shot, whatever is known of it by its id.
    return there && saysTheSame({ ...shot, id: there.id }, there) ? there : { ...shot, id: `s${++lastId}` };
  });
  return { ...montage, lastId, pegs: pegs.length > 0 ? [...montage.pegs, ...pegs] : montage.pegs, shots: [...kept, ...hung] };
}

/**
 * Fills slots by the options. @throws CommandError as planFill does
 * @returns the montage with every slot filled that could be
 */
export function fill(montage: Montage, options: FillOptions, knowledge?: FillKnowledge): Montage {
  return takePlan(montage, planFill(montage, options, knowledge));
}
