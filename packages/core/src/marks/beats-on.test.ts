import { describe, expect, test } from '@jest/globals';
import { emptyMontage, type Montage } from '../document/montage.ts';
import { placedBeats, timeAfterBeats } from './beats-on.ts';
import { carryOut } from '../commands/carry-out.ts';

const withBeats = (times: readonly number[], length = 20): Montage => {
  const song = carryOut(emptyMontage(), { do: 'setSong', assetId: 'song', name: 'song', length });
  return carryOut(song, { do: 'takeBeatTimes', times, metre: 4 });
};

describe('a number of beats after a moment', () => {
  test('follows the beats where the tempo changes, and ends on a beat where it began on one', () => {
    const montage = withBeats([0, 1, 2, 2.5, 3, 3.5]);
    expect(timeAfterBeats(montage, 1, 2)).toBeCloseTo(2.5);
    expect(timeAfterBeats(montage, 1.01, 1)).toBeCloseTo(2);
    expect(timeAfterBeats(montage, 1.5, 1)).toBeCloseTo(2.25);
    expect(timeAfterBeats(montage, 2, 0.5)).toBeCloseTo(2.25);
  });
  test('goes on beyond the last beat as it went there, and before the first', () => {
    const montage = withBeats([4, 5, 6, 6.5]);
    expect(timeAfterBeats(montage, 6.5, 3)).toBeCloseTo(8);
    expect(timeAfterBeats(montage, 2, 1)).toBeCloseTo(3);
  });
  test('takes half a second for a beat where there are none', () => {
    expect(timeAfterBeats(withBeats([]), 3, 4)).toBeCloseTo(5);
    expect(placedBeats(withBeats([]))).toEqual([]);
  });
  test('counts in the arranged song: beats that were cut out are not there', () => {
    const montage = carryOut(withBeats([0, 1, 2, 3, 4, 5, 6, 7, 8]), {
      do: 'setSongRange',
      pieces: [
        { from: 1, to: 3 },
        { from: 6, to: 20 },
      ],
    });
    expect(placedBeats(montage)).toEqual([0, 1, 2, 3, 4]);
    expect(timeAfterBeats(montage, 1, 2)).toBeCloseTo(3);
  });
});
