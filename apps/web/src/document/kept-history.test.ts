import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { edit, emptyMontage, redo, startHistory, undo, type Command, type History } from '@bluster/core';
import { historyFrom, keptOf, type KeptHistory } from './kept-history.ts';

const COMMANDS: readonly Command[] = [
  { do: 'setSong', assetId: 's', name: 'song', length: 12 },
  { do: 'takeBeatTimes', times: [0, 0.5, 1, 1.5, 2, 2.5], metre: 4 },
  { do: 'addMark', kind: 'drop', time: 2.2 },
  { do: 'shiftAllMarks', by: 0.05 },
  { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 2 } },
  { do: 'addLetterbox', aspect: 2.35 },
];

const attempt = (history: History, command: Command): History => {
  try {
    return edit(history, command);
  } catch {
    return history;
  }
};

/** A history after some edits, some of which were undone. */
const histories = fc.tuple(fc.array(fc.constantFrom(...COMMANDS), { minLength: 1, maxLength: 12 }), fc.nat(6)).map(([commands, back]) => {
  let history = commands.reduce(attempt, startHistory(emptyMontage()));
  for (let i = 0; i < back; i++) history = undo(history);
  return history;
});

const reloaded = (history: History): History =>
  historyFrom(JSON.parse(JSON.stringify(keptOf(history, 7))) as KeptHistory, JSON.parse(JSON.stringify(history.now)) as History['now'], 7);

test('after a reload the same can be undone and redone, step by step', () => {
  fc.assert(
    fc.property(histories, (history) => {
      let [before, after] = [history, reloaded(history)];
      while (before.past.length > 0) {
        [before, after] = [undo(before), undo(after)];
        expect(after.now).toEqual(before.now);
      }
      expect(after.past).toHaveLength(0);
      while (before.future.length > 0) {
        [before, after] = [redo(before), redo(after)];
        expect(after.now).toEqual(before.now);
      }
      expect(after.future.map((s) => s.title)).toEqual(before.future.map((s) => s.title));
    }),
  );
});

test('what was kept of another revision, or is damaged, is no history of this one', () => {
  const history = COMMANDS.reduce(attempt, startHistory(emptyMontage()));
  const kept = keptOf(history, 7);
  expect(historyFrom(kept, history.now, 8).past).toEqual([]);
  expect(historyFrom(undefined, history.now, 7).past).toEqual([]);
  expect(historyFrom({ ...kept, past: [{ title: 'x', change: null as never }] }, history.now, 7).past).toEqual([]);
});
