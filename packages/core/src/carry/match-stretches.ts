import type { Stretch } from './stretches.ts';

/** For each stretch of the new song, which one of the old it takes its cut from; null for none. */
export type Matching = readonly (number | null)[];

/** How much of the new song is used: all of it, or as much as there was of the old. */
export type Reach = 'all' | 'as-long';

/** What counts how much against a pair. */
const ENERGY = 0.9;
const LENGTH = 0.35;
const PLACE = 0.5;
const OTHER_NAME = 0.25;
const OTHER_DROP = 0.4;

/** How unlike two stretches are, from 0 up; a difference of energy tells most, where it is known of both. */
export function unlikeness(a: Stretch, b: Stretch): number {
  return (
    (a.energy === null || b.energy === null ? 0 : ENERGY * Math.abs(a.energy - b.energy)) +
    LENGTH * Math.abs(Math.log2(a.bars / b.bars)) +
    PLACE * Math.abs(a.middle - b.middle) +
    (a.name.toLowerCase() === b.name.toLowerCase() ? 0 : OTHER_NAME) +
    (a.drops > 0 === b.drops > 0 ? 0 : OTHER_DROP)
  );
}

/** What it costs to go back, to stay with the same one, and to pass one over, in the order of the old song; at its ends less. */
const BACK = 0.9;
const SAME = 0.6;
const PASSED = 0.45;
const PASSED_AT_END = 0.3;
/** What it costs where one of the old finds no place, and where one of the new stays out. */
const HOMELESS = 1.6;
const UNUSED = 0.1;

/** Every stretch of the new song takes one of the old: the likest path through them (Viterbi), which prefers their order. */
function matchAll(old: readonly Stretch[], fresh: readonly Stretch[]): Matching {
  const step = (from: number, to: number): number => (to < from ? BACK : to === from ? SAME : PASSED * (to - from - 1));
  let cost = old.map((o, i) => unlikeness(o, fresh[0]!) + PASSED_AT_END * i);
  const back: number[][] = [];
  for (const f of fresh.slice(1)) {
    const came: number[] = [];
    const next = old.map((o, to) => {
      let best = 0;
      for (let from = 1; from < old.length; from++) if (cost[from]! + step(from, to) < cost[best]! + step(best, to)) best = from;
      came.push(best);
      return cost[best]! + step(best, to) + unlikeness(o, f);
    });
    back.push(came);
    cost = next;
  }
  const ended = cost.map((c, i) => c + PASSED_AT_END * (old.length - 1 - i));
  const path = [ended.indexOf(Math.min(...ended))];
  for (const came of back.toReversed()) path.unshift(came[path[0]!]!);
  return path;
}

/** Each of the old takes a place of its own, in their order, where it is likest (global alignment; Needleman and Wunsch, 1970). */
function matchEach(old: readonly Stretch[], fresh: readonly Stretch[]): Matching {
  // cost[i][j]: of the old from i and the new from j on
  const cost = Array.from({ length: old.length + 1 }, () => new Array<number>(fresh.length + 1).fill(0));
  const pair = (i: number, j: number): number => unlikeness(old[i]!, fresh[j]!) + cost[i + 1]![j + 1]!;
  for (let i = old.length; i >= 0; i--)
    for (let j = fresh.length; j >= 0; j--) {
      if (i === old.length && j === fresh.length) continue;
      const ways = [
        ...(i < old.length ? [HOMELESS + cost[i + 1]![j]!] : []),
        ...(j < fresh.length ? [UNUSED + cost[i]![j + 1]!] : []),
        ...(i < old.length && j < fresh.length ? [pair(i, j)] : []),
      ];
      cost[i]![j] = Math.min(...ways);
    }
  const matching: (number | null)[] = [];
  let i = 0;
  for (let j = 0; j < fresh.length;) {
    if (i < old.length && cost[i]![j] === HOMELESS + cost[i + 1]![j]! && cost[i]![j]! < pair(i, j)) i++;
    else if (i < old.length && cost[i]![j] === pair(i, j)) {
      matching.push(i++);
      j++;
    } else {
      matching.push(null);
      j++;
    }
  }
  return matching;
}

/**
 * Which stretch of the old song each of the new one takes its cut from, by likeness and order.
 * @returns one entry for each of the new; none where the old has none
 */
export function matchStretches(old: readonly Stretch[], fresh: readonly Stretch[], reach: Reach): Matching {
  if (old.length === 0 || fresh.length === 0) return fresh.map(() => null);
  const matching = reach === 'all' ? matchAll(old, fresh) : matchEach(old, fresh);
  if (matching.some((i) => i !== null)) return matching;
  // Where nothing is alike, the least unlike is still a beginning.
  const pairs = fresh.flatMap((f, j) => old.map((o, i) => ({ i, j, far: unlikeness(o, f) })));
  const least = pairs.reduce((a, b) => (b.far < a.far ? b : a));
  return fresh.map((_, j) => (j === least.j ? least.i : null));
}
