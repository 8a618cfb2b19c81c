import type { Montage } from '../document/montage.ts';
import { carryOut, commandTitle } from './carry-out.ts';
import type { Command } from './all.ts';

const STEPS = 500;

interface Step {
  readonly title: string;
  readonly montage: Montage;
}

/** A montage with its past and its undone future. Documents share what did not change, so steps are cheap. */
export interface History {
  readonly now: Montage;
  readonly past: readonly Step[];
  readonly future: readonly Step[];
}

/**
 * A history that starts here.
 * @returns with nothing to undo
 */
export function startHistory(montage: Montage): History {
  return { now: montage, past: [], future: [] };
}

/**
 * Carries out a command as one step that can be undone.
 * @returns the very same history where nothing changed
 * @throws CommandError with a sentence for the editor when it cannot be done
 * @example
 * edit(startHistory(montage), { do: 'addLetterbox', aspect: 2.35 }).past[0].title // 'Lay a letterbox'
 */
export function edit(history: History, command: Command): History {
  return step(history, carryOut(history.now, command), commandTitle(command));
}

/**
 * Takes a montage that came about otherwise, such as several commands at once, as one step.
 * @returns the very same history where it is the very same montage
 */
export function step(history: History, now: Montage, title: string): History {
  if (now === history.now) return history;
  return { now, past: [...history.past.slice(-(STEPS - 1)), { title, montage: history.now }], future: [] };
}

/**
 * Makes more of the last step, so that both are undone as one.
 * @returns the very same history where it is the very same montage; what was undone cannot be done again
 */
export function amend(history: History, now: Montage): History {
  return now === history.now ? history : { now, past: history.past, future: [] };
}

/**
 * One step back; the same history where there is none.
 * @returns with what was undone to be done again
 */
export function undo(history: History): History {
  const last = history.past.at(-1);
  if (!last) return history;
  return { now: last.montage, past: history.past.slice(0, -1), future: [{ title: last.title, montage: history.now }, ...history.future] };
}

/** One undone step forward again. */
export function redo(history: History): History {
  const [next, ...rest] = history.future;
  if (!next) return history;
  return { now: next.montage, past: [...history.past, { title: next.title, montage: history.now }], future: rest };
}
