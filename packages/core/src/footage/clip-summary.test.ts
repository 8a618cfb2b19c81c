import { describe, expect, test } from '@jest/globals';
import { differentMoments, type ClipSummary, characterOf, stretchesByChanges, stretchesByHits, summarise } from './clip-summary.ts';
import { FilmLooker } from './film-look.ts';
import { SCENE_SIZE, paintScene, type Scene } from '../testing/generated-film.ts';

const FPS = 30;
/** Two seconds of a calm, bright, reddish scene, then two of a restless, dark, bluish one. */
const scenes: readonly [Scene, Scene] = [
  { seed: 1, ground: [170, 110, 170], noise: 3 },
  { seed: 2, ground: [60, 170, 110], noise: 3, things: [{ size: 12, at: (n) => [64 + 45 * Math.sin(n / 4), 36 + 20 * Math.cos(n / 3)] }] },
];
const looker = new FilmLooker(SCENE_SIZE.width, SCENE_SIZE.height);
for (let n = 0; n < 120; n++) looker.push(paintScene(scenes[n < 60 ? 0 : 1], n));
const summary = summarise(looker.finish(), FPS, [{ time: 3.01, strength: 0.8 }]);

describe('the summary of a clip', () => {
  test('tells a calm stretch from a restless one, and a bright from a dark', () => {
    const [calm, restless] = [characterOf(summary, 0, 2), characterOf(summary, 2, 4)];
    expect(restless.movement).toBeGreaterThan(3 * calm.movement);
    expect(calm.brightness).toBeGreaterThan(restless.brightness + 0.2);
    expect(summary.brightness).toBeCloseTo((calm.brightness + restless.brightness) / 2, 1);
  });
  test('names its main colours', () => {
    expect(summary.colours.length).toBeGreaterThanOrEqual(2);
    for (const colour of summary.colours) expect(colour).toMatch(/^#[0-9a-f]{6}$/);
    const parts = summary.colours.slice(0, 2).map((c) => [1, 3, 5].map((i) => parseInt(c.slice(i, i + 2), 16)));
    expect(parts.some(([r, , b]) => r! > b!)).toBe(true);
    expect(parts.some(([r, , b]) => b! > r!)).toBe(true);
  });
  test('is chopped at its cut', () => {
    expect(summary.changes).toEqual([{ kind: 'cut', from: 60, to: 60 }]);
    expect(stretchesByChanges(summary, FPS)).toEqual([
      { in: 0, out: 2 },
      { in: 2, out: 4 },
    ]);
    expect(stretchesByChanges(summary, FPS, 3)).toEqual([]);
  });
  test('is chopped around its hits, never across the cut and none over another', () => {
    const stretches = stretchesByHits(summary, FPS, { weakest: 0 });
    expect(stretches.some((s) => Math.abs(s.hit - 3) < 0.05)).toBe(true);
    for (const [i, s] of stretches.entries()) {
      expect(s.in).toBeLessThanOrEqual(s.hit);
      expect(s.out).toBeGreaterThan(s.hit);
      expect(s.in >= 2 || s.out <= 2).toBe(true);
      if (i > 0) expect(s.in).toBeGreaterThanOrEqual(stretches[i - 1]!.out - 1e-9);
    }
  });
});

test('a clip of one frame has a summary', () => {
  const one = new FilmLooker(SCENE_SIZE.width, SCENE_SIZE.height);
  one.push(paintScene(scenes[0], 0));
  expect(summarise(one.finish(), FPS, [])).toMatchObject({ frames: 1, movement: 0, hits: [], changes: [] });
});

test('clearly different pictures: after picture changes, and where enough has moved', () => {
  const still = {
    version: 1 as const,
    frames: 300,
    curveRate: 10,
    movement: 0,
    brightness: 0,
    sharpness: 0,
    brightnessCurve: [],
    sharpnessCurve: [],
    colours: [],
    hits: [],
  };
  const curve = Array.from({ length: 100 }, (_, i) => (i >= 40 && i < 80 ? 255 : 0));
  const moments = differentMoments(
    { ...still, movementCurve: curve, changes: [{ kind: 'cut', from: 60, to: 60 }] as ClipSummary['changes'] },
    30,
  );
  expect(moments[0]).toBe(2);
  expect(moments.slice(1).map((t) => Math.round(t * 10) / 10)).toEqual([4.7, 5.4, 6.1, 6.8, 7.5]);
});
