import { useLayoutEffect, useState } from 'react';
import { flushSync } from 'react-dom';

/** How soon a turn comes: what is seen before what can be taken hold of, and both before what is out of sight. */
export type Rank = 'seen' | 'held' | 'hidden';

const RANKS: readonly Rank[] = ['seen', 'held', 'hidden'];
/** No further turn in a frame that began longer ago; the rest is for laying out, painting and what else the page does. */
const BUDGET_MS = 5;

const waiting: Record<Rank, (() => void)[]> = { seen: [], held: [], hidden: [] };
let asked = false;

const next = (): (() => void) | undefined =>
  RANKS.map((rank) => waiting[rank])
    .find((line) => line.length > 0)
    ?.shift();

/** Gives turns until this frame's share is used up, at least one: a page that has much to do makes its parts one a frame. */
function giveTurns(began: DOMHighResTimeStamp): void {
  asked = false;
  const until = began + BUDGET_MS;
  do {
    const turn = next();
    if (!turn) return;
    flushSync(turn);
  } while (performance.now() < until);
  ask();
}

function ask(): void {
  if (asked) return;
  asked = true;
  requestAnimationFrame(giveTurns);
}

/**
 * Whether this part of the page may be made yet. Parts that all come at once, as when a score is written with other bars a
 * line, are so made over a few frames, none of which is left out.
 */
export function useTurn(rank: Rank): boolean {
  const [come, setCome] = useState(false);
  useLayoutEffect(() => {
    if (come) return;
    const turn = (): void => setCome(true);
    waiting[rank].push(turn);
    ask();
    return () => {
      waiting[rank] = waiting[rank].filter((t) => t !== turn);
    };
  }, [come, rank]);
  return come;
}
