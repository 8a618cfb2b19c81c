import type { Montage } from './montage.ts';

/** An edit: what it is called in the history and on the undo button, and the montage that it makes of another. */
export interface CommandDefinition<Ask> {
  readonly title: string;
  readonly carryOut: (montage: Montage, ask: Readonly<Ask>) => Montage;
}

/**
 * Defines an edit. It need not look whether it changes anything: `carryOut` does that for all of them.
 * @param carryOut throws a CommandError with a sentence for the editor where it cannot be done
 * @example
 * setPictureFades: command<{ in: number; out: number }>('Change the fades', (montage, fades) => ({ ...montage, pictureFades: fades }))
 */
export function command<Ask extends object>(
  title: string,
  carryOut: (montage: Montage, ask: Readonly<Ask>) => Montage,
): CommandDefinition<Ask> {
  return { title, carryOut };
}
