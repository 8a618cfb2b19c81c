import { describe, expect, test } from '@jest/globals';
import type { PictureItem } from '@bluster/core';
import fc from 'fast-check';
import { decodersOf } from './decoders.ts';
import type { PictureRun } from './picture-runs.ts';

const item = (assetId: string, kind: 'clip' | 'photo' = 'clip'): PictureItem =>
  ({
    assetId,
    kind,
    source: { x: 0, y: 0, width: 320, height: 180 },
    target: { x: 0, y: 0, width: 320, height: 180 },
    size: { width: 320, height: 180 },
  }) as PictureItem;

/** A run of one source frame a frame. @param first the frame of the plan @param from the source frame */
const run = (assetId: string, first: number, from: number, frames: number, more: Partial<PictureRun> = {}): PictureRun => ({
  item: item(assetId),
  raster: null,
  wants: Array.from({ length: frames }, (_, i) => [from + i]),
  order: 'rising',
  first,
  ...more,
});

const served = (runs: readonly PictureRun[], most?: number): number[][] => decodersOf(runs, most).map((d) => [...d.runs]);

describe('decoders of a plan', () => {
  test('a clip that goes on after a cut to another is not opened again', () => {
    expect(decodersOf([run('a', 0, 100, 30), run('b', 30, 0, 30), run('a', 60, 135, 20)])).toEqual([
      { runs: [0, 2], first: 100, last: 154 },
      { runs: [1], first: 0, last: 29 },
    ]);
  });
  test('one that goes back, far ahead, in another size, or runs backwards is', () => {
    const before = run('a', 0, 100, 30);
    const between = run('b', 30, 0, 30);
    for (const after of [
      run('a', 60, 129, 20),
      run('a', 60, 500, 20),
      run('a', 60, 135, 20, { raster: { width: 400, height: 200 } }),
      run('a', 60, 135, 20, { order: 'any' }),
      run('a', 60, 135, 20, { item: { ...item('a'), source: { x: 2, y: 0, width: 300, height: 180 } } }),
    ])
      expect(served([before, between, after])).toEqual([[0], [1], [2]]);
    expect(served([run('p', 0, 0, 9, { item: item('p', 'photo') }), run('p', 9, 0, 9, { item: item('p', 'photo') })])).toEqual([[0], [1]]);
  });
  test('of a clip that is dissolved into itself both are open', () => {
    expect(served([run('a', 0, 0, 40), run('a', 30, 45, 30)])).toEqual([[0], [1]]);
  });
  test('when too many would wait, the one that would wait longest is closed', () => {
    const runs = ['a', 'b', 'c', 'b', 'a'].map((name, n) => run(name, 10 * n, n * 10, 10));
    expect(served(runs, 2)).toEqual([[0, 4], [1, 3], [2]]);
    expect(served(runs, 1)).toEqual([[0], [4], [1, 3], [2]]);
  });
});

test('every run has one decoder that comes to its frames in order, and no more wait at once than may', () => {
  const one = fc.record({
    name: fc.constantFrom('a', 'b', 'c', 'd'),
    from: fc.integer({ min: 0, max: 120 }),
    frames: fc.integer({ min: 1, max: 20 }),
  });
  fc.assert(
    fc.property(fc.array(one, { minLength: 1, maxLength: 30 }), fc.integer({ min: 0, max: 4 }), (shots, most) => {
      let at = 0;
      const runs = shots.map(({ name, from, frames }) => run(name, (at += frames) - frames, from, frames));
      const decoders = decodersOf(runs, most);
      expect(decoders.flatMap((d) => d.runs).sort((a, b) => a - b)).toEqual(runs.map((_, i) => i));
      const waiting = Array.from({ length: at }, () => 0);
      for (const { runs: of, first, last } of decoders) {
        expect(first).toBe(runs[of[0]!]!.wants[0]![0]);
        expect(last).toBe(runs[of.at(-1)!]!.wants.at(-1)![0]);
        for (const [k, i] of of.entries()) {
          const [before, now] = [runs[of[k - 1] ?? -1], runs[i]!];
          if (!before) continue;
          expect(now.item.assetId).toBe(before.item.assetId);
          expect(now.wants[0]![0]).toBeGreaterThan(before.wants.at(-1)![0]!);
          const ends = before.first + before.wants.length;
          expect(now.first).toBeGreaterThanOrEqual(ends);
          for (let n = ends; n < now.first; n++) waiting[n]!++;
        }
      }
      expect(Math.max(...waiting)).toBeLessThanOrEqual(most);
    }),
  );
});
