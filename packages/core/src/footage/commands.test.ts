import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { readMontage } from '../document/read-montage.ts';
import { MONTAGE_VERSION } from '../document/version.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { scoreOf } from '../score/score.ts';
import { WHOLE_CLIP } from '../document/footage-item.ts';
import { carryOut } from '../commands/carry-out.ts';

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
    let montage = carryOut(sampleMontage(), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
    const after = carryOut(montage, { do: 'removeFootage', assetIds: ['b'] });
    const [was, is] = [scoreOf(montage).slots, scoreOf(after).slots];
    expect(is.map((s) => s.start.frame)).toEqual(was.map((s) => s.start.frame));
    expect(is.map((s) => s.placed?.item.assetId ?? null)).toEqual(
      was.map((s) => (s.placed!.item.assetId === 'b' ? null : s.placed!.item.assetId)),
    );
  });
  test('in and out always hold at least a frame inside the clip, and the hit lies between them', () => {
    const clip = sampleClip('a', 5, { rate: { num: 25, den: 1 } });
    const montage = sampleMontage(20, [clip]);
    const wild = fc.double({ min: -100, max: 100, noNaN: true });
    fc.assert(
      fc.property(wild, wild, (from, to) => {
        const hit = carryOut(montage, { do: 'setHit', assetId: 'a', selectId: WHOLE_CLIP, hit: 2 });
        const selectId = hit.footage[0]!.selects[0]!.id;
        const [select] = carryOut(hit, { do: 'setSelect', assetId: 'a', selectId, in: from, out: to }).footage[0]!.selects;
        expect(select!.in).toBeGreaterThanOrEqual(0);
        expect(select!.out).toBeLessThanOrEqual(5 + 1e-9);
        expect(select!.out - select!.in).toBeGreaterThanOrEqual(1 / 25 - 1e-9);
        expect(select!.hit).toBe(select!.in < 2 + 1e-6 && select!.out > 2 + 1e-6 ? 2 : null);
      }),
    );
  });
  test('a photo has no in and out', () => {
    const montage = sampleMontage(20, [samplePhoto('p')]);
    expect(() => carryOut(montage, { do: 'setSelect', assetId: 'p', selectId: null, in: 0, out: 1 })).toThrow(/photo/);
  });

  test('selects stay in the order of time, each with its own hit', () => {
    let montage = sampleMontage(20, [sampleClip('a', 10)]);
    montage = carryOut(montage, { do: 'setSelect', assetId: 'a', selectId: null, in: 6, out: 8 });
    montage = carryOut(montage, { do: 'addSelects', assetId: 'a', stretches: [{ in: 1, out: 2, hit: 1.5 }], how: 'add' });
    const [first, second] = montage.footage[0]!.selects;
    expect([first!.in, second!.in]).toEqual([1, 6]);
    montage = carryOut(montage, { do: 'setHit', assetId: 'a', selectId: second!.id, hit: 7 });
    expect(montage.footage[0]!.selects.map((s) => s.hit)).toEqual([1.5, 7]);
    expect(() => carryOut(montage, { do: 'setHit', assetId: 'a', selectId: second!.id, hit: 1.5 })).toThrow(/between/);
    expect(() => carryOut(montage, { do: 'setHit', assetId: 'a', selectId: 'gone', hit: 1 })).toThrow(/no longer/);
    montage = carryOut(montage, { do: 'removeSelect', assetId: 'a', selectId: first!.id });
    expect(montage.footage[0]!.selects).toEqual([{ ...second, hit: 7 }]);
    montage = carryOut(montage, { do: 'addSelects', assetId: 'a', stretches: [{ in: 0, out: 3 }], how: 'replace' });
    expect(montage.footage[0]!.selects.map((s) => [s.in, s.out])).toEqual([[0, 3]]);
    expect(readMontage(JSON.parse(JSON.stringify(montage)))).toEqual(montage);
  });
  test('is described, many at once', () => {
    let montage = carryOut(sampleMontage(), { do: 'describeFootage', assetIds: ['a', 'c'], rating: 4, addTags: [' dusk ', '', 'hill'] });
    montage = carryOut(montage, { do: 'describeFootage', assetIds: ['a'], note: 'the best one', removeTags: ['hill'] });
    expect(montage.footage.map((f) => [f.rating, f.note, f.tags.join()])).toEqual([
      [4, 'the best one', 'dusk'],
      [0, '', ''],
      [4, '', 'dusk,hill'],
      [0, '', ''],
    ]);
  });
  test('its framing holds for the shots that hang and for those that will', () => {
    let montage = carryOut(sampleMontage(), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
    montage = carryOut(montage, { do: 'setFootageFraming', assetIds: ['b'], framing: 'fit' });
    for (const shot of montage.shots) expect(shot.framing).toBe(shot.assetId === 'b' ? 'fit' : 'fill');
    const again = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
    for (const shot of again.shots) expect(shot.framing).toBe(shot.assetId === 'b' ? 'fit' : 'fill');
  });
  test('sounds have a shelf of their own, with their hit inside them', () => {
    const boom = { assetId: 'boom', name: 'boom.wav', length: 2, hit: 0 };
    let montage = carryOut(sampleMontage(), { do: 'addSounds', sounds: [boom, boom] });
    montage = carryOut(montage, { do: 'setSoundHit', assetId: 'boom', hit: 9 });
    expect(montage.sounds).toEqual([{ ...boom, hit: 2 }]);
    expect(carryOut(montage, { do: 'removeSounds', assetIds: ['boom'] }).sounds).toEqual([]);
  });
  test('of a montage of the first version keeps its in and out as a select', () => {
    const montage = sampleMontage(20, [sampleClip('a', 5), sampleClip('b', 5), samplePhoto('p')]);
    const old = {
      ...montage,
      version: 1,
      sounds: undefined,
      footage: montage.footage.map(({ assetId, kind, name, width, height, rate, frames, hasSound }) => ({
        ...{ assetId, kind, name, width, height, rate, frames, hasSound },
        in: assetId === 'a' ? 1 : 0,
        out: kind === 'photo' ? 0 : assetId === 'a' ? 2.5 : 5,
      })),
    };
    const read = readMontage(JSON.parse(JSON.stringify(old)));
    expect(read.footage.map((f) => f.selects.map((s) => [s.in, s.out]))).toEqual([[[1, 2.5]], [], []]);
    expect(read.version).toBe(MONTAGE_VERSION);
  });
});
