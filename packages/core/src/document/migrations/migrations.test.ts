import { readFileSync } from 'node:fs';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { ruleFor } from '../../pegs/places.ts';
import { sectionStretches } from '../../song/sections.ts';
import { emptyMontage } from '../montage.ts';
import { MontageFormatError, readMontage } from '../read-montage.ts';
import { MIGRATIONS, upgradeMontage } from './all.ts';

/** Documents that earlier programs wrote. */
const specimen = (version: number): unknown =>
  JSON.parse(readFileSync(new URL(`./specimens/version-${version}.json`, import.meta.url), 'utf8'));

test('the steps lead from the first version to today’s without a hole', () => {
  expect(MIGRATIONS.map((m) => m.from)).toEqual(MIGRATIONS.map((_, i) => i + 1));
  expect(emptyMontage().version).toBe(MIGRATIONS.length + 1);
});

describe.each(MIGRATIONS.map((m) => m.from))('a document of version %d', (version) => {
  test('is read, with all that it held', () => {
    const old = specimen(version) as Record<'marks' | 'pegs' | 'shots' | 'footage', { id?: string }[]> & { version: number };
    expect(old.version).toBe(version);
    const montage = readMontage(old);
    expect(montage.version).toBe(emptyMontage().version);
    for (const key of ['marks', 'pegs', 'shots'] as const) expect(montage[key].map((m) => m.id)).toEqual(old[key].map((m) => m.id));
    expect(montage.footage).toHaveLength(old.footage.length);
    expect(readMontage(JSON.parse(JSON.stringify(montage)))).toEqual(montage);
  });
});

test('what belonged to a section by its start belongs to it by its id', () => {
  const montage = readMontage(specimen(4));
  const stretches = sectionStretches(montage);
  expect(stretches.map((s) => (ruleFor(montage, s) as { unit?: string }).unit)).toEqual(['bar', 'bar', 'beat', 'bar', 'bar', 'bar']);
  const named = montage.effects.flatMap(({ on }) => (on.kind === 'every' && on.section !== undefined ? [on.section] : []));
  expect(named).toEqual([stretches[2]!.id, stretches[4]!.id]);
});

test('a letterbox that stood throughout stands throughout', () => {
  const { letterboxes } = readMontage(specimen(5));
  expect(letterboxes).toMatchObject([{ aspect: 2.39, span: { from: null, to: null, rise: 0, fall: 0 } }]);
});

test('a document of a newer version is refused by its version, and nothing of it is dropped unseen', () => {
  const newer = { ...emptyMontage(), version: emptyMontage().version + 1, kites: [] };
  expect(() => readMontage(newer)).toThrow(/newer Bluster \(version 8 of the document; this one knows 7\)/);
});

test.each([
  ['241 frames a second', { shape: { width: 640, height: 360, rate: { num: 241, den: 1 } } }],
  ['240,000 frames a second', { shape: { width: 640, height: 360, rate: { num: 240_000, den: 1 } } }],
  ['less than a frame a second', { shape: { width: 640, height: 360, rate: { num: 1, den: 2 } } }],
  ['an odd width', { shape: { width: 641, height: 360, rate: { num: 30, den: 1 } } }],
  ['a width of 8194', { shape: { width: 8194, height: 360, rate: { num: 30, den: 1 } } }],
])('no montage has %s', (_, wrong) => {
  expect(() => readMontage({ ...emptyMontage(), ...wrong })).toThrow(MontageFormatError);
});

test('no montage is longer than six hours', () => {
  const song = { ...(readMontage(specimen(4)).song as object), length: 80_000 };
  const of = (hours: number): unknown => ({
    ...emptyMontage(),
    song: { ...song, sections: [], pieces: [0, 1].map((n) => ({ from: n * 30_000, to: n * 30_000 + hours * 1800 })) },
  });
  expect(readMontage(of(6)).song!.pieces).toHaveLength(2);
  expect(() => readMontage(of(6.1))).toThrow(/longer than six hours/);
});

test('rubbish that says an old version is refused with a sentence', () => {
  const rubbish = fc.record({
    version: fc.integer({ min: 1, max: 5 }),
    footage: fc.jsonValue(),
    song: fc.jsonValue(),
    effects: fc.jsonValue(),
  });
  fc.assert(
    fc.property(fc.oneof(rubbish, fc.jsonValue()), (value) => {
      expect(() => upgradeMontage(value)).not.toThrow();
      expect(() => readMontage(value)).toThrow(MontageFormatError);
    }),
  );
});
