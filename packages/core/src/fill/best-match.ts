import type { Candidate } from './candidates.ts';
import type { Montage } from '../document/montage.ts';
import { candidateKey, type FillKnowledge, type FillOptions, type SelectLook } from './fill-options.ts';
import { BAR_WEIGHT, marksOfSlot, type MarkInSlot } from '../score/mark-weight.ts';
import type { Slot } from '../score/score.ts';

/** A select for a slot, and why. */
export interface Choice {
  readonly candidate: Candidate;
  readonly why: string;
}

/** How much each wish weighs in what a choice costs. */
const COST = {
  energy: 1,
  /** of a strong mark that no hit meets, and of a hit wasted on a weak one */
  missedMark: 0.9,
  wastedHit: 0.15,
  tooShort: 1.5,
  farTooShort: 4,
  sameLook: 0.5,
  tooSoon: 6,
  rating: 0.06,
  /** each time that a select comes again */
  again: 0.35,
} as const;

const { abs, ceil, max, min, sqrt } = Math;
const PASSES = 3;

/** A main colour in parts of 255. */
function colour(hex: string): [number, number, number] {
  const n = parseInt(hex.slice(1), 16);
  return [(n >> 16) / 255, ((n >> 8) & 255) / 255, (n & 255) / 255];
}

/** How alike two selects look by their main colours and brightness, 0 to 1. */
export function lookAlike(a: SelectLook, b: SelectLook): number {
  const light = 1 - min(1, 3 * abs(a.brightness - b.brightness));
  if (a.colours.length === 0 || b.colours.length === 0) return light / 2;
  const distances = a.colours.map((x) => {
    const [r, g, l] = colour(x);
    return min(
      ...b.colours.map((y) => {
        const [r2, g2, l2] = colour(y);
        return sqrt((r - r2) ** 2 + (g - g2) ** 2 + (l - l2) ** 2);
      }),
    );
  });
  const apart = distances.reduce((sum, d) => sum + d, 0) / distances.length;
  return 0.7 * (1 - min(1, apart * 2)) + 0.3 * light;
}

/** Values as their ranks, 0 to 1: what is full for this song meets what moves for this footage. */
function ranks(values: readonly number[]): Float64Array {
  const order = values.map((v, i) => [v, i] as const).sort((a, b) => a[0] - b[0]);
  const out = new Float64Array(values.length);
  for (let from = 0; from < order.length;) {
    let to = from;
    while (to < order.length && order[to]![0] === order[from]![0]) to++;
    // What is equal shares a rank, so that an unknown clip is neither calm nor lively.
    for (let k = from; k < to; k++) out[order[k]![1]] = order.length < 2 ? 0.5 : (from + to - 1) / 2 / (order.length - 1);
    from = to;
  }
  return out;
}

const NO_LOOK: SelectLook = { movement: 0.5, brightness: 0.5, sharpness: 0.5, colours: [] };

interface Problem {
  readonly slots: readonly Slot[];
  readonly candidates: readonly Candidate[];
  readonly energy: Float64Array;
  readonly movement: Float64Array;
  readonly strongest: readonly (MarkInSlot | undefined)[];
  readonly looks: readonly SelectLook[];
  /** cost of a candidate in a slot by itself */
  readonly own: Float32Array;
  /** how alike two candidates look */
  readonly alike: Float32Array;
  /** number of the clip that a candidate belongs to */
  readonly clip: Int32Array;
  readonly apart: number;
}

function problemOf(
  montage: Montage,
  slots: readonly Slot[],
  candidates: readonly Candidate[],
  options: FillOptions,
  knowledge?: FillKnowledge,
): Problem {
  const n = candidates.length;
  const looks = candidates.map((c) => knowledge?.looks[candidateKey(c.item.assetId, c.select.id)] ?? NO_LOOK);
  const energy = ranks(slots.map((s) => knowledge?.energy[s.start.id] ?? 0.5));
  const movement = ranks(looks.map((l) => l.movement));
  const strongest = slots.map((s) => marksOfSlot(montage, s)[0]);
  const own = new Float32Array(slots.length * n);
  const clips = new Map<string, number>();
  const clip = Int32Array.from(candidates, (c) => {
    if (!clips.has(c.item.assetId)) clips.set(c.item.assetId, clips.size);
    return clips.get(c.item.assetId)!;
  });
  slots.forEach((slot, s) => {
    const call = strongest[s]?.weight ?? 0;
    candidates.forEach((c, k) => {
      const have = c.length / slot.length;
      const short = have >= 1 ? 0 : have >= options.leastSpeed ? COST.tooShort * (1 - have) : COST.farTooShort;
      // From a bar's weight on a mark asks for a hit; on anything less a hit is wasted.
      const ask = max(0, call - BAR_WEIGHT);
      const hit = c.select.hit !== null ? (ask > 0.1 ? 0 : COST.wastedHit) : ask * COST.missedMark * 2;
      own[s * n + k] = COST.energy * abs(energy[s]! - movement[k]!) + hit + short - COST.rating * c.item.rating;
    });
  });
  const alike = new Float32Array(n * n);
  for (let a = 0; a < n; a++) for (let b = 0; b < a; b++) alike[a * n + b] = alike[b * n + a] = lookAlike(looks[a]!, looks[b]!);
  return { slots, candidates, energy, movement, strongest, looks, own, alike, clip, apart: max(1, options.apart) };
}

/** What a candidate costs in a slot beside its present neighbours. */
function beside(p: Problem, choice: Int32Array, s: number, k: number): number {
  const n = p.candidates.length;
  let cost = p.own[s * n + k]!;
  for (let d = 1; d <= p.apart; d++)
    for (const at of [s - d, s + d]) {
      const other = at >= 0 && at < choice.length ? choice[at]! : -1;
      if (other < 0) continue;
      if (p.clip[other] === p.clip[k]) cost += COST.tooSoon / d;
      if (d === 1) cost += COST.sameLook * p.alike[other * n + k]!;
    }
  return cost;
}

/** Slots are given their best select in turn, those that ask for most first; then pairs change places while that costs less. */
function solve(p: Problem, mayRepeat: boolean): Int32Array {
  const [m, n] = [p.slots.length, p.candidates.length];
  const choice = new Int32Array(m).fill(-1);
  const used = new Int32Array(n);
  const importance = (s: number): number => (p.strongest[s]?.weight ?? 0) + 0.5 * p.energy[s]!;
  const order = Array.from({ length: m }, (_, s) => s).sort((a, b) => importance(b) - importance(a));
  const most = mayRepeat ? ceil(m / n) : 1;
  for (const s of order) {
    let [best, least] = [-1, Infinity];
    for (let k = 0; k < n; k++) {
      if (used[k]! >= most) continue;
      const cost = beside(p, choice, s, k) + COST.again * used[k]!;
      if (cost < least) [best, least] = [k, cost];
    }
    if (best < 0) continue;
    choice[s] = best;
    used[best]!++;
  }
  const swap = (a: number, b: number): void => {
    const k = choice[a]!;
    choice[a] = choice[b]!;
    choice[b] = k;
  };
  const around = (a: number, b: number): number =>
    (choice[a]! < 0 ? 0 : beside(p, choice, a, choice[a]!)) + (choice[b]! < 0 ? 0 : beside(p, choice, b, choice[b]!));
  // Exchange of pairs (2-opt) as for the quadratic assignment problem; long scores look only so far around each slot.
  const reach = m <= 400 ? m : max(40, Math.floor(160_000 / m));
  for (let pass = 0; pass < PASSES; pass++) {
    let better = false;
    for (let a = 0; a < m; a++)
      for (let b = a + 1; b < min(m, a + reach); b++) {
        if (choice[a] === choice[b]) continue;
        const before = around(a, b);
        swap(a, b);
        if (around(a, b) < before - 1e-6) better = true;
        else swap(a, b);
      }
    if (!better) break;
  }
  return choice;
}

const words = (value: number): string => (value > 0.72 ? 'full' : value < 0.28 ? 'quiet' : 'middling');
const moves = (value: number): string => (value > 0.72 ? 'lively' : value < 0.28 ? 'calm' : 'moderate');

function explain(p: Problem, choice: Int32Array, s: number): string {
  const k = choice[s]!;
  const n = p.candidates.length;
  const parts = [`${moves(p.movement[k]!)} picture for ${words(p.energy[s]!)} music`];
  const before = s > 0 ? choice[s - 1]! : -1;
  if (before >= 0) {
    const alike = p.alike[before * n + k]!;
    if (p.clip[before] === p.clip[k]) parts.push('the same clip as before, since there is no other');
    else if (alike < 0.45) parts.push('looks unlike the one before');
  }
  if (p.candidates[k]!.item.rating > 3) parts.push(`rated ${p.candidates[k]!.item.rating}`);
  return parts.join('; ');
}

/**
 * Pairs slots and selects so that energy meets movement, hits meet drops and accents, neighbours come from different
 * clips and differ in look, and length suffices: a greedy start improved by exchanging pairs (Koopmans and Beckmann
 * 1957 state the problem; Burkard, Dell'Amico and Martello, "Assignment Problems", 2009, ch. 8, the exchange).
 * @returns by first peg of each slot
 */
export function bestMatch(
  montage: Montage,
  open: readonly Slot[],
  candidates: readonly Candidate[],
  options: FillOptions,
  knowledge?: FillKnowledge,
): Map<string, Choice> {
  const p = problemOf(montage, open, candidates, options, knowledge);
  const choice = solve(p, options.whenOut === 'again');
  const chosen = new Map<string, Choice>();
  open.forEach((slot, s) => {
    if (choice[s]! >= 0) chosen.set(slot.start.id, { candidate: candidates[choice[s]!]!, why: explain(p, choice, s) });
  });
  return chosen;
}
