import { expect, test } from '@jest/globals';
import { bestHits } from './best-hits.ts';
import { clipLooks } from '../fill/clip-looks.ts';
import { candidateKey } from '../fill/fill-options.ts';
import { sampleClip } from '../testing/sample-montage.ts';
import { WHOLE_CLIP } from '../document/footage-item.ts';

test('each select takes the best of the frames that were found in it, and keeps one of its own', () => {
  const selects = [
    { id: 'early', in: 0, out: 1, hit: null },
    { id: 'late', in: 2, out: 4, hit: null },
    { id: 'own', in: 2, out: 4, hit: 2.5 },
    { id: 'quiet', in: 5, out: 6, hit: null },
  ];
  const clip = sampleClip('a', 10, { selects });
  const found = [75, 15, 90].map((frame) => ({ frame, reason: 'jump' as const, strength: 1 }));
  expect(bestHits([clip, sampleClip('b', 10)], (id) => (id === 'a' ? found : found.slice(1, 2)))).toEqual([
    { assetId: 'a', selectId: 'early', hit: 0.5 },
    { assetId: 'a', selectId: 'late', hit: 2.5 },
    { assetId: 'b', selectId: WHOLE_CLIP, hit: 0.5 },
  ]);
  expect(bestHits([{ ...clip, kind: 'photo' }], () => found)).toEqual([]);
});

test('the look of a select is that of its own stretch', () => {
  const clip = sampleClip('a', 4, {
    selects: [
      { id: 'still', in: 0, out: 2, hit: null },
      { id: 'wild', in: 2, out: 4, hit: null },
    ],
  });
  const curve = [0, 0, 255, 255];
  const summary = {
    version: 1 as const,
    frames: 120,
    curveRate: 1,
    movementCurve: curve,
    brightnessCurve: curve,
    sharpnessCurve: curve,
    movement: 0.5,
    brightness: 0.5,
    sharpness: 0.5,
    colours: ['#1f665c'],
    hits: [],
    changes: [],
  };
  expect(Object.fromEntries(clipLooks(clip, summary))).toEqual({
    [candidateKey('a', 'still')]: { movement: 0, brightness: 0, sharpness: 0, colours: ['#1f665c'] },
    [candidateKey('a', 'wild')]: { movement: 1, brightness: 1, sharpness: 1, colours: ['#1f665c'] },
  });
});
