import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { CommandError } from '../document/command-error.ts';
import type { Montage } from '../document/montage.ts';
import { readMontage } from '../document/read-montage.ts';
import { EVERY_COMMAND, everyThing } from '../testing/every-command.ts';
import { COMMANDS, type Command, type CommandName } from './all.ts';
import { carryOut, commandTitle } from './carry-out.ts';
import { edit, startHistory } from './history.ts';

const NAMES = Object.keys(COMMANDS) as CommandName[];
const commandOf = (name: CommandName, montage: Montage): Command => ({ do: name, ...EVERY_COMMAND[name].ask(montage) }) as Command;
/** The document as it is saved, without what was given out and not used. */
const saved = ({ lastId: _, ...montage }: Montage): string => JSON.stringify(montage);

describe.each(NAMES)('%s', (name) => {
  test('changes what it is to change, and only in a new montage that can be saved and read', () => {
    const before = everyThing();
    const text = JSON.stringify(before);
    const after = carryOut(before, commandOf(name, before));
    expect(JSON.stringify(before)).toBe(text);
    expect(saved(after)).not.toBe(saved(before));
    expect(readMontage(JSON.parse(JSON.stringify(after)))).toEqual(after);
  });

  test(`asked for again does ${EVERY_COMMAND[name].again}`, () => {
    const before = everyThing();
    const command = commandOf(name, before);
    const after = carryOut(before, command);
    if (EVERY_COMMAND[name].again === 'refused') expect(() => carryOut(after, command)).toThrow(CommandError);
    else if (EVERY_COMMAND[name].again === 'nothing') expect(carryOut(after, command)).toBe(after);
    else expect(saved(carryOut(after, command))).not.toBe(saved(after));
  });

  test('has a title for the history', () => {
    const history = edit(startHistory(everyThing()), commandOf(name, everyThing()));
    expect(history.past.at(-1)!.title).toBe(commandTitle(commandOf(name, everyThing())));
    expect(commandTitle(commandOf(name, everyThing()))).toMatch(/^[A-Z].{4,40}[^.]$/);
  });
});

test('after any commands, one that changes nothing gives the very same montage, and what it left alone is shared', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...NAMES), { minLength: 1, maxLength: 12 }), (names) => {
      let montage = everyThing();
      for (const name of names) {
        let after: Montage;
        try {
          after = carryOut(montage, commandOf(name, montage));
        } catch {
          // What it was to be done to is gone; such refusals are tested elsewhere.
          continue;
        }
        if (saved(after) === saved(montage)) expect(after).toBe(montage);
        for (const key of Object.keys(after) as (keyof Montage)[])
          if (after[key] !== montage[key]) expect(JSON.stringify(after[key])).not.toBe(JSON.stringify(montage[key]));
        montage = after;
      }
    }),
    { numRuns: 150 },
  );
});
