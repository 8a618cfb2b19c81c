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

test('rubbish that says an old version is refused with a sentence', () => {
  const rubbish = fc.record({
    version: fc.integer({ min: 1, max: 4 }),
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
