import { expect, test } from '@jest/globals';
import { carryOut } from '../commands/carry-out.ts';
import type { Command, CommandName } from '../commands/all.ts';
import { drawListAt } from '../picture/draw-list.ts';
import { scoreOf } from '../score/score.ts';
import { mixPlan } from '../sound/mix-plan.ts';
import { EVERY_COMMAND, everyThing } from '../testing/every-command.ts';
import type { Montage } from '../document/montage.ts';
import { compareVersions } from './compare-versions.ts';

const made = (name: CommandName, m: Montage): Montage => {
  const asked = EVERY_COMMAND[name].ask(m);
  return carryOut(m, { do: name, ...asked } as unknown as Command);
};

/** All that is seen and heard of a montage. */
function shown(m: Montage): string {
  const { frames } = scoreOf(m);
  return JSON.stringify([m.shape, mixPlan(m), Array.from({ length: frames }, (_, n) => drawListAt(m, n))]);
}

test.each(Object.keys(EVERY_COMMAND) as CommandName[])('what %s changes of the film is told where two versions are compared', (name) => {
  const before = everyThing();
  const after = made(name, before);
  const { lines, same, overAll } = compareVersions(before, after);
  const told = same < lines.length || overAll.length > 0;
  if (!told) expect(shown(after) === shown(before)).toBe(true);
});

test('versions that are alike differ in nothing', () => {
  const { lines, same, overAll } = compareVersions(everyThing(), everyThing());
  expect(lines.length).toBeGreaterThan(5);
  expect([same, overAll]).toEqual([lines.length, []]);
});
