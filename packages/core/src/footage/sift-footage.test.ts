import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { sampleClip, samplePhoto } from '../testing/sample-montage.ts';
import { ALL_FOOTAGE, FOOTAGE_ORDERS, movedTo, siftFootage, type FootageSieve } from './sift-footage.ts';

const footage = [
  sampleClip('kite-10', 4, { rating: 2, tags: ['dusk', 'red'] }),
  sampleClip('kite-9', 9, { note: 'The big dive at dusk', rating: 5 }),
  samplePhoto('hill'),
  sampleClip('crowd', 6),
];
const uses = new Map([['crowd', 2]]);
const known = new Map([
  ['kite-10', { movement: 0.2, brightness: 0.9, takenAt: 300 }],
  ['kite-9', { movement: 0.8, brightness: 0.1, takenAt: 100 }],
]);
const sifted = (sieve: Partial<FootageSieve>): string[] =>
  siftFootage(footage, { ...ALL_FOOTAGE, ...sieve }, uses, (id) => known.get(id)).map((f) => f.assetId);

describe('footage is found', () => {
  test('by words in its name, note or tags, whatever their case', () => {
    expect(sifted({ text: 'DUSK' })).toEqual(['kite-10', 'kite-9']);
    expect(sifted({ text: 'kite dive' })).toEqual(['kite-9']);
    expect(sifted({ text: 'red' })).toEqual(['kite-10']);
    expect(sifted({ text: 'nothing' })).toEqual([]);
  });
  test('by kind, use and rating', () => {
    expect(sifted({ kind: 'photo' })).toEqual(['hill']);
    expect(sifted({ use: 'used' })).toEqual(['crowd']);
    expect(sifted({ use: 'unused', kind: 'clip' })).toEqual(['kite-10', 'kite-9']);
    expect(sifted({ leastRating: 3 })).toEqual(['kite-9']);
  });
  test('in any order; what is not known comes last', () => {
    expect(sifted({ order: 'story' })).toEqual(['kite-10', 'kite-9', 'hill', 'crowd']);
    expect(sifted({ order: 'name' })).toEqual(['crowd', 'hill', 'kite-9', 'kite-10']);
    expect(sifted({ order: 'length' })).toEqual(['kite-9', 'crowd', 'kite-10', 'hill']);
    expect(sifted({ order: 'taken' })).toEqual(['kite-9', 'kite-10', 'hill', 'crowd']);
    expect(sifted({ order: 'movement' }).slice(0, 2)).toEqual(['kite-9', 'kite-10']);
    expect(sifted({ order: 'brightness' }).slice(0, 2)).toEqual(['kite-10', 'kite-9']);
    expect(sifted({ order: 'rating' })).toEqual(['kite-9', 'kite-10', 'hill', 'crowd']);
  });
  test('an order never loses anything', () => {
    for (const order of FOOTAGE_ORDERS) expect(sifted({ order }).sort()).toEqual(footage.map((f) => f.assetId).sort());
  });
});

describe('carrying', () => {
  const order = ['a', 'b', 'c', 'd', 'e'];
  test('one forward or back lands at the place it was carried to', () => {
    expect(movedTo(order, ['a'], 'c')).toEqual(['b', 'c', 'a', 'd', 'e']);
    expect(movedTo(order, ['d'], 'b')).toEqual(['a', 'd', 'b', 'c', 'e']);
  });
  test('many keep the order in which they were picked', () => {
    expect(movedTo(order, ['e', 'a'], 'c')).toEqual(['b', 'e', 'a', 'c', 'd']);
    expect(movedTo(order, ['a', 'e'], 'a')).toEqual(order);
  });
  test('nothing is lost or doubled', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.constantFrom(...order), { minLength: 1 }), fc.constantFrom(...order), (carried, target) => {
        expect([...movedTo(order, carried, target)].sort()).toEqual(order);
      }),
    );
  });
});
