import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  edit,
  FILL_DEFAULTS,
  readMontage,
  redo,
  scoreOf,
  sourceFrame,
  startHistory,
  undo,
  type Command,
  type History,
  type Montage,
} from '../index.ts';
import { sampleClip, sampleMontage, samplePhoto } from './sample-montage.ts';

/** Commands that name things by number; which thing is meant is settled when the command is carried out. */
type Wish = (montage: Montage) => Command | null;

const pick = <T>(list: readonly T[], n: number): T | undefined => list[n % Math.max(1, list.length)];

const wish: fc.Arbitrary<Wish> = fc.oneof(
  fc
    .tuple(fc.constantFrom('beat' as const, 'bar' as const), fc.integer({ min: 1, max: 4 }))
    .map(([unit, every]): Wish => () => ({ do: 'hangByRule', rule: { unit, every } })),
  fc
    .tuple(fc.nat(), fc.constantFrom('all' as const, 'empty' as const), fc.constantFrom('gap' as const, 'next' as const))
    .map(([seed, scope, tooShort]): Wish => () => ({
      do: 'fill',
      options: { ...FILL_DEFAULTS, seed, scope, tooShort, order: seed % 2 ? 'shuffle' : 'story' },
    })),
  fc.double({ min: 0, max: 20, noNaN: true }).map((time): Wish => () => ({ do: 'hangPeg', time })),
  fc.nat().map((n): Wish => (m) => {
    const mark = pick(m.marks, n);
    return mark ? { do: 'hangPeg', markId: mark.id } : null;
  }),
  fc.nat().map((n): Wish => (m) => {
    const peg = pick(m.pegs, n);
    return peg ? { do: 'takePeg', id: peg.id } : null;
  }),
  fc.tuple(fc.nat(), fc.double({ min: 0, max: 20, noNaN: true })).map(([n, time]): Wish => (m) => {
    const peg = pick(m.pegs, n);
    return peg ? { do: 'movePeg', id: peg.id, to: { time } } : null;
  }),
  fc.tuple(fc.nat(), fc.double({ min: -1, max: 1, noNaN: true })).map(([n, by]): Wish => (m) => {
    const mark = pick(m.marks, n);
    return mark ? { do: 'moveMarks', ids: [mark.id], by } : null;
  }),
  fc.nat().map((n): Wish => (m) => {
    const mark = pick(m.marks, n);
    return mark ? { do: 'deleteMarks', ids: [mark.id] } : null;
  }),
  fc.double({ min: 0, max: 20, noNaN: true }).map((time): Wish => () => ({ do: 'addMark', kind: 'beat', time })),
  fc.tuple(fc.nat(), fc.double({ min: -3, max: 3, noNaN: true })).map(([n, by]): Wish => (m) => {
    const shot = pick(m.shots, n);
    return shot ? { do: 'slipShot', id: shot.id, by } : null;
  }),
  fc.nat().map((n): Wish => (m) => {
    const shot = pick(m.shots, n);
    return shot ? { do: 'fitShot', id: shot.id } : null;
  }),
  fc.nat().map((n): Wish => (m) => {
    const item = pick(m.footage, n);
    return item ? { do: 'removeFootage', assetIds: [item.assetId] } : null;
  }),
  fc.tuple(fc.nat(), fc.nat()).map(([a, b]): Wish => (m) => {
    const slot = pick(scoreOf(m).slots, a);
    const item = pick(m.footage, b);
    return slot && item ? { do: 'hangShot', startPeg: slot.start.id, assetId: item.assetId } : null;
  }),
  fc
    .tuple(fc.double({ min: 0, max: 8, noNaN: true }), fc.double({ min: 1, max: 12, noNaN: true }))
    .map(([from, length]): Wish => () => ({ do: 'setSongRange', pieces: [{ from, to: from + length }] })),
  fc.constantFrom<Wish>(
    () => ({ do: 'doubleBeats' }),
    () => ({ do: 'halveBeats' }),
    () => ({ do: 'shiftHalfBeat' }),
  ),
  fc
    .tuple(fc.constantFrom('nearest' as const, 'never-late' as const, 'never-early' as const), fc.integer({ min: -3, max: 3 }))
    .map(([rule, lead]): Wish => () => ({ do: 'setCutRule', rule, lead })),
  fc
    .constantFrom({ num: 25, den: 1 }, { num: 30000, den: 1001 }, { num: 60, den: 1 })
    .map((rate): Wish => (m) => ({ do: 'setShape', shape: { ...m.shape, rate } })),
);

/** Carries a run of wishes out; those that cannot be done say so and change nothing. */
function perform(wishes: readonly Wish[]): History[] {
  const clips = [sampleClip('a', 4), sampleClip('b', 1.2), sampleClip('c', 9, { rate: { num: 25, den: 1 } }), samplePhoto('p')];
  const all = [startHistory(sampleMontage(20, clips))];
  for (const w of wishes) {
    const last = all.at(-1)!;
    const command = w(last.now);
    if (!command) continue;
    try {
      all.push(edit(last, command));
    } catch (error) {
      expect((error as Error).message).toMatch(/[.]$/);
    }
  }
  return all;
}

describe('after any run of commands', () => {
  test('undoing all of them gives the same document, and redoing them the last one', () => {
    fc.assert(
      fc.property(fc.array(wish, { maxLength: 25 }), (wishes) => {
        const histories = perform(wishes);
        const first = histories[0]!.now;
        const last = histories.at(-1)!;
        let back = last;
        while (back.past.length > 0) back = undo(back);
        expect(back.now).toBe(first);
        let forth = back;
        while (forth.future.length > 0) forth = redo(forth);
        expect(forth.now).toBe(last.now);
      }),
      { numRuns: 120 },
    );
  });

  test('slots follow one another without overlap or sliver, and every source frame lies in its clip', () => {
    fc.assert(
      fc.property(fc.array(wish, { maxLength: 25 }), (wishes) => {
        const { now } = perform(wishes).at(-1)!;
        const { slots, frames } = scoreOf(now);
        expect(slots[0]!.start.frame).toBe(0);
        expect(slots.at(-1)!.end.frame).toBe(frames);
        slots.forEach((slot, i) => {
          expect(slot.frames).toBeGreaterThan(0);
          if (i > 0) expect(slot.start.frame).toBe(slots[i - 1]!.end.frame);
          if (!slot.placed) return;
          for (const into of [0, Math.floor(slot.frames / 2), slot.frames - 1]) {
            const n = sourceFrame(slot.placed, into, now);
            if (n !== null) expect(n >= 0 && n < slot.placed.item.frames).toBe(true);
            else expect(into).toBeGreaterThanOrEqual(slot.placed.coveredFrames);
          }
        });
      }),
      { numRuns: 120 },
    );
  });

  test('the document still reads as a whole montage from its JSON', () => {
    fc.assert(
      fc.property(fc.array(wish, { maxLength: 25 }), (wishes) => {
        const { now } = perform(wishes).at(-1)!;
        expect(readMontage(JSON.parse(JSON.stringify(now)))).toEqual(now);
      }),
      { numRuns: 80 },
    );
  });
});

describe('reading a document', () => {
  test.each([
    ['no object', null, /not a Bluster montage/],
    ['another version', { ...sampleMontage(), version: 3 }, /version/],
    [
      'a shot of a clip that is not there',
      {
        ...sampleMontage(),
        shots: [
          {
            id: 's1',
            assetId: 'zzz',
            startPeg: 'start',
            endPeg: 'end',
            sourceIn: 0,
            retime: { kind: 'rate', rate: 1 },
            whenShort: 'gap',
            framing: 'fill',
            sound: 0,
          },
        ],
      },
      /not in the footage/,
    ],
    [
      'a peg on a mark that is not there',
      { ...sampleMontage(), pegs: [{ id: 'p1', markId: 'zzz', time: 1, offset: 0, origin: 'hand' }] },
      /names a mark/,
    ],
    [
      'a time that is no number',
      { ...sampleMontage(), marks: [{ id: 'm1', kind: 'beat', time: 'soon', origin: 'hand' }] },
      /marks\.0\.time/,
    ],
  ])('%s is refused with a sentence', (_, value, sentence) => expect(() => readMontage(value)).toThrow(sentence));
});

test('history keeps 500 steps', () => {
  let history = startHistory(sampleMontage());
  for (let i = 0; i < 600; i++) history = edit(history, { do: 'shiftAllMarks', by: 0.0001 });
  expect(history.past).toHaveLength(500);
});
