import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { firingsOf } from './firings.ts';
import { placedTitles } from './titles.ts';
import { transitionsOf } from './placed-transitions.ts';
import type { Montage } from '../document/montage.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { edit, startHistory, undo } from '../commands/history.ts';
import { readMontage } from '../document/read-montage.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { scoreOf } from '../score/score.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Command } from '../commands/all.ts';

const after = (montage: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, montage);
const filled = (): Montage =>
  after(sampleMontage(12), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }, { do: 'fill', options: FILL_DEFAULTS });

describe('dressing', () => {
  test('a transition on some cuts leaves the others, and every other part of the document, as they are', () => {
    const montage = filled();
    const cuts = scoreOf(montage)
      .slots.slice(1)
      .map((s) => s.start.id);
    const black = { kind: 'black', beats: 1, place: 'after' } as const;
    const first = after(montage, { do: 'setTransition', pegIds: [cuts[0]!], transition: { kind: 'dissolve', beats: 2, place: 'over' } });
    const both = after(first, { do: 'setTransition', pegIds: [cuts[2]!, cuts[3]!], transition: black });
    expect(transitionsOf(both).map((t) => [t.cut, t.transition.kind])).toEqual([
      [60, 'dissolve'],
      [180, 'black'],
      [240, 'black'],
    ]);
    expect({ ...both, pegs: [] }).toEqual({ ...montage, pegs: [] });
    expect(scoreOf(both).slots.map((s) => s.placed?.shot)).toEqual(scoreOf(montage).slots.map((s) => s.placed?.shot));
  });
  test('outlives other rules and fills wherever its cut and mark do', () => {
    const montage = after(
      filled(),
      { do: 'setTransition', pegIds: [scoreOf(filled()).slots[2]!.start.id], transition: { kind: 'white', beats: 1, place: 'over' } },
      { do: 'addEffect', kind: 'punch', what: 'cut' },
    );
    const closer = after(
      montage,
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 2 } },
      { do: 'fill', options: FILL_DEFAULTS },
    );
    expect(transitionsOf(closer).map((t) => t.cut)).toEqual([120]);
    expect(firingsOf(closer)).toHaveLength(scoreOf(closer).slots.length - 1);
  });
  test('what belongs to a moment goes with its mark when all are shifted, and sleeps when it is cut out', () => {
    const montage = filled();
    const bar = montage.marks.filter((m) => m.kind === 'bar')[2]!;
    const dressed = after(
      montage,
      { do: 'addTitle', text: 'Wind', at: { markId: bar.id }, beats: 2 },
      { do: 'toggleEffect', kind: 'shake', markId: bar.id, firing: [] },
    );
    const shifted = after(dressed, { do: 'shiftAllMarks', by: 0.1 });
    expect([placedTitles(shifted)[0]!.from, firingsOf(shifted)[0]!.frame]).toEqual([123, 123]);
    const shorter = after(dressed, {
      do: 'setSongRange',
      pieces: [
        { from: 0, to: 3 },
        { from: 6, to: 12 },
      ],
    });
    expect([placedTitles(shorter), firingsOf(shorter)]).toEqual([[], []]);
    const again = after(shorter, { do: 'setSongRange', pieces: [{ from: 0, to: 12 }] });
    expect([placedTitles(again)[0]!.from, firingsOf(again)[0]!.frame]).toEqual([120, 120]);
  });
  test('any of it is undone to the very document, and can be written and read at every step', () => {
    const step = fc.oneof(
      fc.constantFrom<Command>(
        { do: 'addEffect', kind: 'flash', what: 'bar' },
        { do: 'addEffect', kind: 'shake', what: 'beat' },
        { do: 'addLetterbox', aspect: 2.39 },
        { do: 'addLook', kind: 'warmth', strength: 0.4, span: { to: { time: 6 }, fall: 2 } },
        { do: 'setMoveRule', rule: { what: 'all', kinds: ['closer', 'wider'], strength: 0.4, ease: 'even' } },
        { do: 'addFade', colour: '#203040', span: { from: { time: 2.2 }, to: { time: 4 }, rise: 1, fall: 1 } },
        { do: 'setPictureFades', in: 1, out: 2 },
        { do: 'removeEffects', ids: ['e1'] },
        { do: 'addTitle', text: 'Down', at: { time: 3.3 }, beats: 3 },
        {
          do: 'removeMarks',
          ids: sampleMontage(12)
            .marks.slice(4, 8)
            .map((m) => m.id),
        },
        { do: 'halveBeats' },
      ),
      fc.nat(20).map((n): Command => ({ do: 'toggleEffect', kind: 'dip', markId: sampleMontage(12).marks[n]!.id, firing: [] })),
      fc.nat(20).map((n): Command => ({ do: 'addTitle', text: 'Kite', at: { markId: sampleMontage(12).marks[n]!.id }, beats: 1 })),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        let history = startHistory(filled());
        const seen = [history.now];
        for (const command of steps) {
          let next;
          try {
            next = edit(history, command);
          } catch {
            continue; // laid already, or its mark is gone
          }
          if (next === history) continue;
          history = next;
          seen.push(history.now);
          expect(readMontage(JSON.parse(JSON.stringify(history.now)))).toEqual(history.now);
        }
        for (const before of seen.slice(0, -1).reverse()) {
          history = undo(history);
          expect(history.now).toEqual(before);
        }
      }),
      { numRuns: 40 },
    );
  });
});
