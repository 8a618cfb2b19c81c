import { describe, expect, test } from '@jest/globals';
import { FilmLooker, type FilmLook } from './film-look.ts';
import { SCENE_SIZE, hashed, paintScene, type Scene } from '../testing/generated-film.ts';
import { proposeHits, type HitReason } from './hits.ts';
import { findTransients, type Transient } from './transients.ts';

const FPS = 30;
const FRAMES = 90;

function lookAt(scene: Scene, frames = FRAMES): FilmLook {
  const looker = new FilmLooker(SCENE_SIZE.width, SCENE_SIZE.height);
  for (let n = 0; n < frames; n++) looker.push(paintScene(scene, n));
  return looker.finish();
}

/** A clip in which one thing acts at one frame, with a camera that shakes, pans, or rests. */
function actionClip(seed: number, kind: 'jump' | 'stop' | 'turn'): { scene: Scene; frame: number } {
  const chance = (k: number): number => hashed(seed, k, 99);
  const frame = 25 + Math.floor(chance(1) * 40);
  const speed = 0.7 + 1.1 * chance(2);
  const angle = chance(3) * 2 * Math.PI;
  const turned = angle + (chance(4) < 0.5 ? 1 : -1) * (1.4 + 1.7 * chance(5));
  const [from, to] = kind === 'jump' ? [0, speed] : kind === 'stop' ? [speed, 0] : [speed, speed];
  const place = (n: number): readonly [number, number] => {
    const [before, after] = [Math.min(0, n - frame) * from, Math.max(0, n - frame) * to];
    return [64 + before * Math.cos(angle) + after * Math.cos(turned), 36 + before * Math.sin(angle) + after * Math.sin(turned)];
  };
  const drift = seed % 3 === 0 ? 0 : 0.4 * (chance(6) - 0.5);
  const sway = seed % 3 === 1 ? 0.5 : 0;
  return {
    frame,
    scene: {
      seed,
      ground: [80 + 60 * chance(7), 120 + 20 * chance(8), 120 + 20 * chance(9)],
      pan: (n) => [drift * n + sway * Math.sin(n / 5), sway * Math.cos(n / 7)],
      things: [
        { size: 7 + 6 * chance(10), at: place },
        { size: 5, at: (n) => [20 + 0.25 * n, 58 + Math.sin(n / 9)] },
      ],
      noise: 6,
    },
  };
}

describe('hits that are proposed', () => {
  const kinds = ['jump', 'stop', 'turn'] as const;
  const clips = Array.from({ length: 30 }, (_, i) => ({ kind: kinds[i % 3]!, ...actionClip(i + 1, kinds[i % 3]!) }));
  const found = clips.map(({ kind, frame, scene }) => {
    const first = proposeHits(lookAt(scene), FPS, []).slice(0, 3);
    return { kind, frame, near: first.find((p) => Math.abs(p.frame - frame) <= 2) };
  });

  test('hold the true frame among the first three, within two frames, in nine clips of ten', () => {
    const missed = found.filter((f) => !f.near).map((f) => `${f.kind} at ${f.frame}`);
    expect(missed.length).toBeLessThanOrEqual(3);
  });
  test('are called what they are', () => {
    const right = found.filter((f) => f.near?.reason === (f.kind satisfies HitReason));
    expect(right.length).toBeGreaterThanOrEqual(24);
  });
  test('are none where nothing happens', () => {
    const calm = lookAt({ seed: 5, ground: [120, 128, 128], pan: (n) => [0.5 * n, 0], noise: 6 });
    expect(proposeHits(calm, FPS, [])).toEqual([]);
  });
  test('do not take a picture change for action', () => {
    const looker = new FilmLooker(SCENE_SIZE.width, SCENE_SIZE.height);
    const [a, b]: Scene[] = [
      { seed: 1, ground: [90, 120, 130] },
      { seed: 2, ground: [150, 140, 110] },
    ];
    for (let n = 0; n < 60; n++) looker.push(paintScene(n < 30 ? a! : b!, n));
    expect(proposeHits(looker.finish(), FPS, [], [{ kind: 'cut', from: 30, to: 30 }])).toEqual([]);
  });
  test('a bang comes first, on the frame it is heard in', () => {
    const { scene } = actionClip(4, 'stop');
    const transients: Transient[] = [{ time: 1.205, strength: 0.9 }];
    const [first] = proposeHits(lookAt(scene), FPS, transients);
    expect(first).toMatchObject({ frame: 36, reason: 'bang', strength: 1 });
  });
});

describe('sudden sounds', () => {
  const RATE = 22_050;
  const windy = (seconds: number): Float32Array => {
    let low = 0;
    return Float32Array.from({ length: seconds * RATE }, (_, i) => (low += 0.03 * (hashed(i, 3, 1) - 0.5 - low)) * 0.6);
  };
  test('are found within 10 ms in wind, the loud before the soft', () => {
    const samples = windy(6);
    const strokes = [
      [1.2, 0.8],
      [2.75, 0.25],
      [4.4, 0.5],
    ] as const;
    for (const [at, size] of strokes)
      for (let i = 0; i < 0.2 * RATE; i++) samples[Math.round(at * RATE) + i]! += size * Math.exp((-30 * i) / RATE) * Math.sin(i * 0.35);
    const found = findTransients({ samples, rate: RATE });
    const best = [...found].sort((a, b) => b.strength - a.strength).slice(0, 3);
    expect(best[0]!.time).toBeCloseTo(1.2, 1);
    for (const [at] of strokes) expect(Math.min(...best.map((t) => Math.abs(t.time - at)))).toBeLessThan(0.01);
  });
  test('begin where a tone that goes on begins, not where it is loudest by a hair', () => {
    for (const step of [0.2, 0.43, 0.86]) {
      const tone = Float32Array.from({ length: RATE }, (_, i) => (i < 0.4 * RATE || i > 0.5 * RATE ? 0 : 0.5 * Math.sin(i * step)));
      const [first] = findTransients({ samples: tone, rate: RATE });
      expect(Math.abs(first!.time - 0.4)).toBeLessThan(0.006);
    }
  });
  test('are none in silence, nor in a steady tone', () => {
    expect(findTransients({ samples: new Float32Array(3 * RATE), rate: RATE })).toEqual([]);
    const tone = Float32Array.from({ length: 3 * RATE }, (_, i) => 0.4 * Math.sin(i * 0.2) * Math.min(1, i / RATE));
    expect(findTransients({ samples: tone, rate: RATE }).filter((t) => t.strength > 0.3)).toEqual([]);
    expect(findTransients({ samples: new Float32Array(0), rate: RATE })).toEqual([]);
  });
});
