import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { carryOut } from './command.ts';
import { FILL_DEFAULTS } from './fill.ts';
import { sampleClip, sampleMontage, samplePhoto } from './sample-montage.ts';
import { scoreOf } from './score.ts';

const names = (montage: ReturnType<typeof sampleMontage>): string => montage.footage.map((f) => f.assetId).join('');

describe('footage', () => {
  test('is added once, however often it arrives', () => {
    const montage = sampleMontage();
    expect(carryOut(montage, { do: 'addFootage', items: [sampleClip('a', 5)] })).toBe(montage);
    expect(names(carryOut(montage, { do: 'addFootage', items: [sampleClip('a', 5), sampleClip('e', 5)] }))).toBe('abcde');
  });
  test('is put into any order; what the order does not name comes last', () => {
    expect(names(carryOut(sampleMontage(), { do: 'orderFootage', assetIds: ['d', 'b'] }))).toBe('dbac');
  });
  test('that is removed leaves its slots empty and every cut where it was', () => {
    let montage = carryOut(sampleMontage(), { do: 'hangByRule', rule: { unit: 'bar', every: 1 } });
    montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
    const after = carryOut(montage, { do: 'removeFootage', assetIds: ['b'] });
    const [was, is] = [scoreOf(montage).slots, scoreOf(after).slots];
    expect(is.map((s) => s.start.frame)).toEqual(was.map((s) => s.start.frame));
    expect(is.map((s) => s.placed?.item.assetId ?? null)).toEqual(
      was.map((s) => (s.placed!.item.assetId === 'b' ? null : s.placed!.item.assetId)),
    );
  });
  test('in and out always hold at least a frame inside the clip', () => {
    const clip = sampleClip('a', 5, { rate: { num: 25, den: 1 } });
    const montage = sampleMontage(20, [clip]);
    const wild = fc.double({ min: -100, max: 100, noNaN: true });
    fc.assert(
      fc.property(wild, wild, (from, to) => {
        const [item] = carryOut(montage, { do: 'setInOut', assetId: 'a', in: from, out: to }).footage;
        expect(item!.in).toBeGreaterThanOrEqual(0);
        expect(item!.out).toBeLessThanOrEqual(5 + 1e-9);
        expect(item!.out - item!.in).toBeGreaterThanOrEqual(1 / 25 - 1e-9);
      }),
    );
  });
  test('a photo has no in and out', () => {
    const montage = sampleMontage(20, [samplePhoto('p')]);
    expect(() => carryOut(montage, { do: 'setInOut', assetId: 'p', in: 0, out: 1 })).toThrow(/photo/);
  });
});
