import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { carryOut } from '../commands/carry-out.ts';
import type { Mark, Montage, PegRule } from '../document/montage.ts';
import { pulse } from '../marks/in-use.ts';
import { varietyOf } from '../settle/variety.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { placesByRule } from './places.ts';

type Pace = Extract<PegRule, { kind: 'pace' }>;
const REGULAR: Pace = { kind: 'pace', lively: 0.5, free: 0, seed: 1, least: 9 };
const SECONDS = 96;

/** A song of 120 a minute in four whose sections of 16 bars are so full. */
function song(
  energies: readonly number[],
  more: Partial<{ drops: number[]; accents: { time: number; strength: number }[]; metre: number }> = {},
): Montage {
  const { drops = [], accents = [], metre = 4 } = more;
  const m = sampleMontage(SECONDS, []);
  const marks: Mark[] = [
    ...pulse(m).map((k, i) => ({ ...k, kind: i % metre === 0 ? ('bar' as const) : ('beat' as const) })),
    ...drops.map((time, i): Mark => ({ id: `d${i}`, kind: 'drop', time, origin: 'detected' })),
    ...accents.map(({ time, strength }, i): Mark => ({ id: `a${i}`, kind: 'accent', band: 'low', time, strength, origin: 'detected' })),
  ];
  const each = SECONDS / energies.length;
  const sections = energies.map((energy, i) => ({ id: `s${i}`, name: `s${i}`, from: i * each, energy }));
  return { ...m, marks: marks.sort((a, b) => a.time - b.time), song: { ...m.song!, metre, sections } };
}

const times = (m: Montage, rule: Partial<Pace> = {}): number[] => placesByRule(m, { ...REGULAR, ...rule }).map((p) => p.time);
const between = (all: readonly number[], from: number, to: number): number[] => all.filter((t) => t >= from && t < to);

test('quiet music is cut every fourth bar, full music within the bar', () => {
  const m = song([0, 1, 0.5]);
  const cuts = times(m);
  // The third time it would be foretold: it comes elsewhere.
  expect(between(cuts, 0.1, 32)).toEqual([8, 16, 20]);
  expect(between(cuts, 32, 64).length).toBeGreaterThan(14);
  expect(between(cuts, 64, 96).length).toBeGreaterThan(between(cuts, 0.1, 32).length);
  // A new section is a cut.
  expect(cuts).toEqual(expect.arrayContaining([32, 64]));
});

test('drops are cut always, with cuts that come closer before them', () => {
  const m = song([0, 1, 0], { drops: [32, 71.3] });
  const cuts = times(m);
  expect(cuts).toEqual(expect.arrayContaining([32, 71.3]));
  expect(between(cuts, 30, 32)).toEqual([30, 31, 31.5]);
  // Calm, nothing leads into it.
  expect(between(times(m, { lively: 0 }), 30, 32)).toEqual([]);
  expect(times(m, { lively: 0 })).toEqual(expect.arrayContaining([32, 71.3]));
});

test('the first and the last picture stand for a while, but for a drop', () => {
  const all = times(song([1]), { lively: 1 });
  expect([all[0]! >= 2, all.at(-1)! <= SECONDS - 2]).toEqual([true, true]);
  expect(between(times(song([1], { drops: [1] }), { lively: 1 }), 0, 2)).toEqual([1]);
});

test('of two beats alike, the one with an accent is cut', () => {
  const quiet = song([0.3, 0.7, 0.3]);
  const accented = song([0.3, 0.7, 0.3], { accents: [{ time: 47, strength: 1 }] });
  expect(times(quiet, { lively: 0.62 })).not.toContain(47);
  expect(times(accented, { lively: 0.62 })).toContain(47);
});

test('the same seed gives the same cuts, another one others', () => {
  const m = song([0.4, 0.9, 0.2]);
  expect(times(m, { free: 0.6, seed: 4 })).toEqual(times(m, { free: 0.6, seed: 4 }));
  expect(times(m, { free: 0.6, seed: 4 })).not.toEqual(times(m, { free: 0.6, seed: 5 }));
});

describe('whatever the music is like', () => {
  const strength = fc.double({ min: 0, max: 1, noNaN: true });
  const music = fc.record({
    energies: fc.array(strength, { minLength: 2, maxLength: 6 }),
    drops: fc.array(
      fc.integer({ min: 4, max: 180 }).map((n) => n / 2),
      { maxLength: 3 },
    ),
    accents: fc.array(fc.record({ time: fc.integer({ min: 0, max: 380 }).map((n) => n / 4), strength }), { maxLength: 60 }),
    metre: fc.integer({ min: 3, max: 7 }),
  });
  const rule = fc.record({
    lively: strength,
    free: strength,
    seed: fc.integer({ min: 0, max: 999 }),
    least: fc.integer({ min: 1, max: 40 }),
  });

  test('livelier is never fewer cuts', () => {
    fc.assert(
      fc.property(music, rule, strength, ({ energies, ...more }, pace, by) => {
        const m = song(energies, more);
        const livelier = { ...pace, lively: Math.min(1, pace.lively + by) };
        expect(times(m, livelier).length).toBeGreaterThanOrEqual(times(m, pace).length);
      }),
      { numRuns: 150 },
    );
  });

  test('a fuller section has never fewer cuts', () => {
    fc.assert(
      fc.property(music, rule, fc.nat(5), strength, ({ energies, ...more }, pace, which, by) => {
        // Held between a quietest and a fullest, since fullness is measured against those.
        const all = [0, ...energies, 1];
        const at = 1 + (which % energies.length);
        const fuller = all.map((e, i) => (i === at ? Math.min(1, e + by) : e));
        expect(times(song(fuller, more), pace).length).toBeGreaterThanOrEqual(times(song(all, more), pace).length);
      }),
      { numRuns: 150 },
    );
  });

  /** Whether a run of up to four lengths comes three times on end. */
  const monotonous = (lengths: readonly number[]): boolean =>
    lengths.some((_, end) =>
      [1, 2, 3, 4].some(
        (run) =>
          end + 1 >= 3 * run && Array.from({ length: 2 * run }, (__, i) => lengths[end - i] === lengths[end - i - run]).every(Boolean),
      ),
    );

  test('no run of lengths comes three times', () => {
    fc.assert(
      fc.property(music, rule, ({ energies, ...more }, pace) => {
        // What the eye takes in leaves room to move by a beat.
        // Drops are cut though several lie side by side.
        const cuts = times(song(energies, { ...more, drops: more.drops.slice(0, 1) }), { ...pace, least: Math.min(12, pace.least) });
        expect(monotonous(cuts.slice(1).map((t, i) => Math.round((t - cuts[i]!) * 4)))).toBe(false);
      }),
      { numRuns: 300 },
    );
  });

  test('every drop is cut, and nothing is shorter than the eye takes in but beside drops', () => {
    fc.assert(
      fc.property(music, rule, ({ energies, ...more }, pace) => {
        const m = song(energies, more);
        const cuts = times(m, pace);
        for (const drop of more.drops) if (drop > 0.25 && drop < SECONDS - 0.25) expect(cuts).toContain(drop);
        const apart = pace.least / 30;
        const fixed = (t: number): boolean => more.drops.includes(t) || m.song!.sections.some((s) => Math.abs(s.from - t) < 2.01);
        cuts.slice(1).forEach((t, i) => fixed(t) || fixed(cuts[i]!) || expect(t - cuts[i]!).toBeGreaterThan(apart - 1e-6));
      }),
      { numRuns: 150 },
    );
  });

  test('it cannot be foretold', () => {
    fc.assert(
      fc.property(fc.array(strength, { minLength: 3, maxLength: 5 }), fc.integer({ min: 0, max: 999 }), (energies, seed) => {
        const m = carryOut(song(energies), { do: 'hangByRule', rule: { ...REGULAR, free: 0.5, lively: 0.6, seed } });
        expect(varietyOf(m).predictable).toBeLessThan(0.7);
      }),
      { numRuns: 40 },
    );
  });
});

test('without bars it says what to do', () => {
  const m = sampleMontage(20);
  const bare = { ...m, marks: m.marks.map((k) => ({ ...k, kind: 'beat' as const })) };
  expect(() => carryOut(bare, { do: 'hangByRule', rule: REGULAR })).toThrow('no bars');
});
