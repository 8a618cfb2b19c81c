import { sharing } from '../document/sharing.ts';
import type { Montage } from '../document/montage.ts';
import type { CommandDefinition } from '../document/command.ts';
import { COMMANDS, type Command } from './all.ts';

/**
 * Carries out one edit.
 * @returns the montage after it, sharing with the one before whatever is the same in both; the very same object where
 *   nothing changed
 * @throws CommandError with a sentence for the editor when it cannot be done
 * @example
 * carryOut(montage, { do: 'addLetterbox', aspect: 2.35 }).letterboxes.at(-1).aspect // 2.35
 */
export function carryOut(montage: Montage, command: Command): Montage {
  const definition = COMMANDS[command.do] as CommandDefinition<unknown>;
  return sharing(montage, definition.carryOut(montage, command));
}

/** What a command is called in the history and on the undo button. */
export function commandTitle(command: Command): string {
  return COMMANDS[command.do].title;
}
