import { expect, test } from '@jest/globals';
import { emptyMontage } from '../document/montage.ts';
import { footageItem } from '../document/footage-item.ts';
import type { Montage } from '../document/montage.ts';
import { recounted } from './recounted.ts';

const item = { ...footageItem('a', 'clip', 'dive.mp4', { rate: { num: 25, den: 1 }, frames: 100 }) };
const selects = [
  { id: 's1', in: 0.4, out: 1.2, hit: 0.8 },
  { id: 's2', in: 1.5, out: 3, hit: 2.5 },
  { id: 's3', in: 3, out: 4, hit: null },
];
const montage: Montage = { ...emptyMontage(), footage: [{ ...item, selects }, footageItem('p', 'photo', 'hill.jpg', {})] };

test('a clip that has fewer frames than it said ends there, and so do its selects', () => {
  const [clip, photo] = recounted(montage, new Map([['a', 50]])).footage;
  expect(clip!.frames).toBe(50);
  expect(clip!.selects).toEqual([selects[0], { id: 's2', in: 1.5, out: 2, hit: null }]);
  expect(photo).toBe(montage.footage[1]);
});

test('where nothing differs it is the same montage; photos and unknown counts are none', () => {
  expect(recounted(montage, new Map([['a', 100]]))).toBe(montage);
  expect(
    recounted(
      montage,
      new Map([
        ['p', 7],
        ['other', 3],
      ]),
    ),
  ).toBe(montage);
  expect(recounted(montage, new Map([['a', 0]]))).toBe(montage);
});
