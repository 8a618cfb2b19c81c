import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, expect, test } from '@jest/globals';
import { CUT_FORMATS, EFFECTS, ENTRANCES, FILM_PRESETS, LOOKS, MARKS, MOVES, MARKS_FORMATS, ORDERS, TRANSITIONS } from '@bluster/core';
import { sourcesIn } from './sources.ts';
import { RULES } from '../../packages/core/src/pegs/rules/all.ts';

const root = resolve(import.meta.dirname, '../..');

/** Each family of kinds: where its files lie, and the names in its one list. */
const FAMILIES: Readonly<Record<string, { readonly folder: string; readonly list: object; readonly definition: string }>> = {
  marks: { folder: 'packages/core/src/marks/kinds', list: MARKS, definition: 'mark-kind.ts' },
  rules: { folder: 'packages/core/src/pegs/rules', list: RULES, definition: 'rule-kind.ts' },
  effects: { folder: 'packages/core/src/finish/effects', list: EFFECTS, definition: 'effect-kind.ts' },
  entrances: { folder: 'packages/core/src/finish/entrances', list: ENTRANCES, definition: 'entrance-kind.ts' },
  moves: { folder: 'packages/core/src/finish/moves', list: MOVES, definition: 'move-kind.ts' },
  looks: { folder: 'packages/core/src/finish/looks', list: LOOKS, definition: 'look-kind.ts' },
  transitions: { folder: 'packages/core/src/finish/transitions', list: TRANSITIONS, definition: 'transition-kind.ts' },
  orders: { folder: 'packages/core/src/fill/orders', list: ORDERS, definition: 'order-kind.ts' },
  'formats of marks': { folder: 'packages/core/src/formats/marks', list: MARKS_FORMATS, definition: 'marks-format.ts' },
  'formats of the cut': { folder: 'packages/core/src/formats/cuts', list: CUT_FORMATS, definition: 'cut-format.ts' },
  'presets of films': { folder: 'packages/core/src/formats/films', list: FILM_PRESETS, definition: 'film-preset.ts' },
};

/** What several formats of the cut share. */
const BESIDE = ['cut-list.ts', 'dressed-with.ts', 'found-media.ts', 'read-cut.ts', 'read-edl.ts', 'read-otio.ts', 'titles-style.ts'];

const files = sourcesIn(root, ['packages', 'apps']);

/** Lists and unions of string literals in a text, each with its literals: `['a', 'b']`, `'a' | 'b'`. */
function literalLists(text: string): string[][] {
  const lists = text.match(/\[\s*'[\w-]+'(?:\s*,\s*'[\w-]+')+\s*,?\s*\]/g) ?? [];
  const unions = text.match(/'[\w-]+'(?:\s*\|\s*'[\w-]+')+/g) ?? [];
  return [...lists, ...unions].map((list) => [...list.matchAll(/'([\w-]+)'/g)].map((match) => match[1]!));
}

test('a list of literals is found, whichever way it is written', () => {
  expect(literalLists(`const a = ['flash', 'dip'] as const; type B = 'x' | 'y' | 'z';`)).toEqual([
    ['flash', 'dip'],
    ['x', 'y', 'z'],
  ]);
});

describe.each(Object.entries(FAMILIES))('%s', (_, { folder, list, definition }) => {
  const kinds = Object.keys(list);

  test('are a file each, and nothing else lies between them', () => {
    const listed = readFileSync(join(root, folder, 'all.ts'), 'utf8');
    const others = [definition, 'all.ts', 'counting.ts', 'triggers.ts', 'curves.ts', 'look-parts.ts', ...BESIDE];
    const own = readdirSync(join(root, folder)).filter((file) => !file.endsWith('.test.ts') && !others.includes(file));
    for (const file of own) expect(listed).toContain(`from './${file}'`);
    expect(own.length).toBeGreaterThanOrEqual(kinds.length);
  });

  test('are listed in no second place', () => {
    const most = Math.max(2, Math.ceil(kinds.length / 2) + 1);
    const again = files.flatMap((file) =>
      literalLists(readFileSync(join(root, file), 'utf8'))
        .filter((literals) => new Set(literals.filter((literal) => kinds.includes(literal))).size >= most)
        .map((literals) => `${file}: ${literals.join(', ')}`),
    );
    expect(again).toEqual([]);
  });
});
