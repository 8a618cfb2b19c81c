import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { CommandError } from '../document/command-error.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { SETTLE_DEFAULTS, planSettle } from '../settle/settle.ts';
import { carryForward, changeBetween, takeBack } from '../document/montage-change.ts';
import { carryOut } from './carry-out.ts';
import { edit, redo, startHistory, undo, type History } from './history.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { readMontage } from '../document/read-montage.ts';
import { scoreOf } from '../score/score.ts';
import { sourceFrame } from '../score/placed-shot.ts';
import type { Command } from './all.ts';
import type { Montage } from '../document/montage.ts';

/** Commands that name things by number; which thing is meant is settled when the command is carried out. */
type Wish = (montage: Montage) => Command | null;

const pick = <T>(list: readonly T[], n: number): T | undefined => list[n % Math.max(1, list.length)];

const slotStart = (m: Montage, n: number): string => pick(scoreOf(m).slots, n)?.start.id ?? 'start';
/** Commands on one shot and a number. */
const onShot = (to: (id: string, n: number, m: Montage) => Command | null): fc.Arbitrary<Wish> =>
  fc.tuple(fc.nat(), fc.nat()).map(([s, n]): Wish => (m) => {
    const shot = pick(m.shots, s);
    return shot ? to(shot.id, n, m) : null;
  });
/** Commands on one clip or photo and a number; none where all footage was taken away. */
const withClip = (to: (assetId: string, n: number, m: Montage) => Command): fc.Arbitrary<Wish> =>
  fc.tuple(fc.nat(), fc.nat()).map(([k, n]): Wish => (m) => {
    const item = pick(m.footage, k);
    return item ? to(item.assetId, n, m) : null;
  });
const marks = (m: Montage, n: number): string => pick(m.marks, n)?.id ?? '';

const scoreWish: fc.Arbitrary<Wish> = fc.oneof(
  fc
    .constantFrom(
      { kind: 'faster' as const },
      { kind: 'even' as const, frames: 37 },
      { kind: 'pattern' as const, bars: 1 as const, steps: [true, false, false, true, false, true, false, false] },
      { kind: 'none' as const },
    )
    .map((rule): Wish => () => ({ do: 'hangByRule', rule })),
  fc.tuple(fc.nat(), fc.nat()).map(([n, k]): Wish => (m) => {
    const peg = pick(m.pegs, n);
    return peg ? { do: 'rollCut', id: peg.id, to: k % 2 ? { markId: marks(m, k) } : { frame: k % 600 } } : null;
  }),
  fc.nat().map((n): Wish => (m) => ({ do: 'divideSlot', startPeg: slotStart(m, n), by: n % 2 ? 'beats' : 'half' })),
  fc.nat().map((n): Wish => (m) => ({ do: 'joinSlots', startPeg: slotStart(m, n) })),
  fc.nat().map((n): Wish => () => ({ do: n % 2 ? 'endShotAt' : 'startNextAt', frame: n % 600 })),
  fc.nat().map((n): Wish => () => ({ do: 'loosenCuts', seed: n, share: 0.5 })),
  fc.tuple(fc.nat(), fc.constantFrom('roll' as const, 'ripple' as const, 'retime' as const)).map(([n, way]): Wish => (m) => {
    const options = { ...SETTLE_DEFAULTS, way, ease: n % 2 ? ('eased' as const) : ('hard' as const) };
    try {
      return { do: 'takeSettle', plan: planSettle(m, options), options };
    } catch (problem) {
      expect(problem).toBeInstanceOf(CommandError);
      return null;
    }
  }),
  fc
    .tuple(fc.nat(300), fc.array(fc.double({ min: 0.3, max: 3, noNaN: true }), { minLength: 1, maxLength: 5 }))
    .map(([at, lengths]): Wish => () => ({
      do: 'layRun',
      at,
      run: lengths.map((length, i) => ({ assetId: i % 2 ? 'a' : 'c', in: 0.5, out: 0.5 + length })),
    })),
  withClip((assetId, n, m) => ({
    do: 'hangShot',
    startPeg: slotStart(m, n),
    assetId,
    slots: 1 + (n % 3),
    point: { kind: (['in', 'out', 'hit'] as const)[n % 3]! },
  })),
  withClip((assetId, n, m) => ({ do: 'insertShot', startPeg: slotStart(m, n), assetId })),
  fc.tuple(fc.nat(500), fc.nat(90)).map(([from, length]): Wish => () => ({
    do: 'hangOver',
    from: { frame: from },
    to: { frame: from + length },
    assetId: 'a',
  })),
  onShot((id, n) => ({ do: 'setRate', id, rate: ((n % 40) - 20) / 10 })),
  onShot((id) => ({ do: 'reverseShot', id })),
  onShot((id, n) => ({ do: 'freezeShot', id, source: n % 9 })),
  onShot((id, n, m) => ({ do: 'tieFrame', id, markId: marks(m, n), source: n % 9 })),
  onShot((id, n) => ({ do: 'setEase', id, ease: n % 2 ? 'eased' : 'hard' })),
  onShot((id, n) => ({ do: 'slideShot', id, to: n % 2 ? 'before' : (n % 21) - 10 })),
  onShot((id) => ({ do: 'removeShot', id })),
  onShot((id, n) => ({ do: 'extendShot', id, slots: 1 + (n % 4) })),
  onShot((id, n, m) => ({ do: 'copyShot', id, startPeg: slotStart(m, n) })),
  onShot((id, n) => ({ do: 'goOnShot', id, slots: 1 + (n % 4), skip: n % 30 })),
  onShot((id, n, m) => ({ do: 'swapShots', a: id, b: pick(m.shots, n)!.id })),
  onShot((id, n) => ({ do: 'lockShots', ids: [id], locked: n % 2 === 0 })),
);

const wish: fc.Arbitrary<Wish> = fc.oneof(
  scoreWish,
  fc.tuple(fc.constantFrom('beat' as const, 'bar' as const), fc.integer({ min: 1, max: 4 })).map(([unit, every]): Wish => () => ({
    do: 'hangByRule',
    rule: { kind: 'pulse', unit, every },
  })),
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
    return peg ? { do: 'removePeg', id: peg.id } : null;
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
    return mark ? { do: 'removeMarks', ids: [mark.id] } : null;
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
  fc.tuple(fc.double({ min: 0, max: 8, noNaN: true }), fc.double({ min: 1, max: 12, noNaN: true })).map(([from, length]): Wish => () => ({
    do: 'setSongRange',
    pieces: [{ from, to: from + length }],
  })),
  fc.constantFrom<Wish>(
    () => ({ do: 'doubleBeats' }),
    () => ({ do: 'halveBeats' }),
    () => ({ do: 'shiftHalfBeat' }),
  ),
  fc
    .tuple(fc.constantFrom('nearest' as const, 'never-late' as const, 'never-early' as const), fc.integer({ min: -3, max: 3 }))
    .map(([rule, lead]): Wish => () => ({ do: 'setCutRule', rule, lead })),
  fc.constantFrom({ num: 25, den: 1 }, { num: 30000, den: 1001 }, { num: 60, den: 1 }).map((rate): Wish => (m) => ({
    do: 'setShape',
    shape: { ...m.shape, rate },
  })),
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
      { numRuns: 200 },
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
      { numRuns: 200 },
    );
  });

  test('every shot starts and ends at pegs that are there, and cutaways do not overlap', () => {
    fc.assert(
      fc.property(fc.array(wish, { maxLength: 25 }), (wishes) => {
        const { now } = perform(wishes).at(-1)!;
        const pegs = new Set(['start', 'end', ...now.pegs.map((p) => p.id)]);
        for (const shot of now.shots) expect(pegs.has(shot.startPeg) && pegs.has(shot.endPeg)).toBe(true);
        const starts = now.shots.map((s) => s.startPeg);
        expect(new Set(starts).size).toBe(starts.length);
        const { over } = scoreOf(now);
        over.slice(1).forEach((slot, i) => expect(slot.start.frame).toBeGreaterThanOrEqual(over[i]!.end.frame));
      }),
      { numRuns: 200 },
    );
  });

  test('commands on shots move no cut; a rolled or taken peg moves no other', () => {
    const still = [
      'hangShot',
      'insertShot',
      'removeShot',
      'copyShot',
      'goOnShot',
      'swapShots',
      'setRate',
      'reverseShot',
      'freezeShot',
      'tieFrame',
    ];
    const steady = [...still, 'setEase', 'lockShots', 'slipShot', 'takeDownShot', 'hangOver', 'extendShot', 'setFraming'];
    const one = ['rollCut', 'hangPeg', 'removePeg', 'joinSlots', 'endShotAt', 'startNextAt'];
    let seen = 0;
    fc.assert(
      fc.property(fc.array(wish, { maxLength: 15 }), wish, (wishes, last) => {
        const { now } = perform(wishes).at(-1)!;
        const command = last(now);
        if (!command) return;
        let after: Montage;
        try {
          after = carryOut(now, command);
        } catch {
          return;
        }
        const at = (m: Montage): Map<string, number> => new Map(scoreOf(m).pegs.map((p) => [p.id, p.frame]));
        const [before, moved] = [at(now), at(after)];
        const changed = [...before].filter(([id, frame]) => moved.get(id) !== frame);
        if (steady.includes(command.do)) expect(changed).toEqual([]);
        else if (one.includes(command.do)) expect(changed.length).toBeLessThanOrEqual(1);
        else return;
        seen++;
      }),
      { numRuns: 1200 },
    );
    expect(seen).toBeGreaterThan(100);
  });

  test('what changed is enough to go there and back again', () => {
    fc.assert(
      fc.property(fc.array(wish, { maxLength: 15 }), (wishes) => {
        const all = perform(wishes);
        all.slice(1).forEach(({ now }, i) => {
          const before = all[i]!.now;
          const change = JSON.parse(JSON.stringify(changeBetween(before, now))) as ReturnType<typeof changeBetween>;
          expect(carryForward(before, change)).toEqual(now);
          expect(takeBack(now, change)).toEqual(before);
        });
      }),
      { numRuns: 60 },
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
    ['another version', { ...sampleMontage(), version: 99 }, /version/],
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
      /marks 1 time is not a number/,
    ],
  ])('%s is refused with a sentence', (_, value, sentence) => expect(() => readMontage(value)).toThrow(sentence));
});

test('history keeps 500 steps', () => {
  let history = startHistory(sampleMontage());
  for (let i = 0; i < 600; i++) history = edit(history, { do: 'shiftAllMarks', by: 0.0001 });
  expect(history.past).toHaveLength(500);
});
