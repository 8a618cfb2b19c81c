import { carryForward, changeBetween, takeBack, type History, type Montage, type MontageChange } from '@bluster/core';
/** A history as the browser keeps it: what each step changed, from the document that was saved as a revision. */
export interface KeptHistory {
  readonly revision: number;
  readonly past: readonly KeptStep[];
  readonly future: readonly KeptStep[];
}

interface KeptStep {
  readonly title: string;
  readonly change: MontageChange;
}

/** Changes between two montages that follow one another; found once for each. */
const known = new WeakMap<Montage, { readonly after: Montage; readonly change: MontageChange }>();

function changeFrom(before: Montage, after: Montage): MontageChange {
  const found = known.get(before);
  if (found?.after === after) return found.change;
  const change = changeBetween(before, after);
  known.set(before, { after, change });
  return change;
}

/** A history as it is kept: what each step changed. */
export function keptOf({ now, past, future }: History, revision: number): KeptHistory {
  return {
    revision,
    past: past.map(({ title, montage }, i) => ({ title, change: changeFrom(montage, past[i + 1]?.montage ?? now) })),
    future: future.map(({ title, montage }, i) => ({ title, change: changeFrom(future[i - 1]?.montage ?? now, montage) })),
  };
}

/** The history of a montage that was saved as a revision; one without steps where what is kept does not fit. */
export function historyFrom(kept: KeptHistory | undefined, montage: Montage, revision: number): History {
  const empty: History = { now: montage, past: [], future: [] };
  if (kept?.revision !== revision) return empty;
  try {
    let before = montage;
    const past = [...kept.past].reverse().map(({ title, change }) => ({ title, montage: (before = takeBack(before, change)) }));
    let after = montage;
    const future = kept.future.map(({ title, change }) => ({ title, montage: (after = carryForward(after, change)) }));
    return { now: montage, past: past.reverse(), future };
  } catch {
    return empty;
  }
}
