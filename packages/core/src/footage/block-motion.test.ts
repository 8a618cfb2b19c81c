import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { hashed, paintScene, SCENE_SIZE, type Scene } from '../testing/generated-film.ts';
import { BLOCK, BlockFollower, type MotionField } from './block-motion.ts';

const REACH = 12;
const BIAS = 10;
const FLAT = 90;

/** The search as it is written down, a pixel at a time: for each block its motion, what is left, and whether it is clear. */
function plainly(
  from: Uint8Array,
  to: Uint8Array,
  width: number,
  height: number,
  known: readonly (readonly [number, number])[],
): number[][] {
  const [columns, rows] = [Math.floor(width / BLOCK), Math.floor(height / BLOCK)];
  const motions = known.map((one) => [...one] as [number, number]);
  const out: number[][] = [];
  for (let block = 0; block < columns * rows; block++) {
    const [left, top] = [(block % columns) * BLOCK, Math.floor(block / columns) * BLOCK];
    const pixel = (picture: Uint8Array, x: number, y: number): number => picture[(top + y) * width + left + x]!;
    const cost = ([dx, dy]: readonly [number, number]): number => {
      if (left + dx < 0 || left + dx + BLOCK > width || top + dy < 0 || top + dy + BLOCK > height) return Infinity;
      if (Math.abs(dx) > REACH || Math.abs(dy) > REACH) return Infinity;
      let sum = dx === 0 && dy === 0 ? 0 : BIAS;
      for (let y = 0; y < BLOCK; y++) for (let x = 0; x < BLOCK; x++) sum += Math.abs(pixel(from, x, y) - pixel(to, x + dx, y + dy));
      return sum;
    };
    let detail = 0;
    for (let y = 0; y < BLOCK - 1; y++)
      for (let x = 0; x < BLOCK - 1; x++)
        detail += Math.abs(pixel(from, x, y) - pixel(from, x + 1, y)) + Math.abs(pixel(from, x, y) - pixel(from, x, y + 1));
    let at: readonly [number, number] = [0, 0];
    const tryAll = (places: readonly (readonly [number, number])[]): boolean => {
      const old = at;
      for (const place of places) if (cost(place) < cost(at)) at = place;
      return at !== old;
    };
    const around = (steps: readonly (readonly [number, number])[]): (readonly [number, number])[] =>
      steps.map(([dx, dy]) => [at[0] + dx, at[1] + dy]);
    if (cost(at) > BIAS) {
      const near = [block, ...(left > 0 ? [block - 1] : []), ...(top > 0 ? [block - columns] : [])];
      tryAll(near.map((b) => [Math.round(motions[b]![0]), Math.round(motions[b]![1])]));
      for (let turn = 0, moved = true; moved && turn < REACH; turn++)
        moved = tryAll(around([...[[2, 0], [-2, 0], [0, 2], [0, -2], [1, 1], [1, -1], [-1, 1], [-1, -1]] as const])); // oxfmt-ignore
      tryAll(around([...[[1, 0], [-1, 0], [0, 1], [0, -1]] as const])); // oxfmt-ignore
    }
    const between = (before: number, after: number): number => {
      const bend = before - 2 * cost(at) + after;
      return bend > 0 && bend < Infinity ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend))) : 0;
    };
    const [x, y] = at;
    const still = x === 0 && y === 0 && cost(at) <= BIAS;
    const dx = Math.fround(still ? 0 : x + between(cost([x - 1, y]), cost([x + 1, y])));
    const dy = Math.fround(still ? 0 : y + between(cost([x, y - 1]), cost([x, y + 1])));
    motions[block] = [dx, dy];
    out.push([dx, dy, cost(at), detail >= FLAT ? 1 : 0]);
  }
  return out;
}
const listed = ({ x, y, rest, clear }: MotionField): number[][] => [...x].map((dx, b) => [dx, y[b]!, rest[b]!, clear[b]!]);

describe('the motion of blocks', () => {
  test('is what the search finds that looks at one pixel at a time, picture after picture, whatever the size', () => {
    const sizes = fc.record({
      width: fc.integer({ min: 8, max: 60 }),
      height: fc.integer({ min: 8, max: 40 }),
      grain: fc.constantFrom(1, 3, 6, 40),
      pan: fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 })),
      noise: fc.constantFrom(0, 4, 60),
      seed: fc.integer({ min: 0, max: 999 }),
    });
    fc.assert(
      fc.property(sizes, ({ width, height, grain, pan, noise, seed }) => {
        const picture = (n: number): Uint8Array =>
          Uint8Array.from({ length: width * height }, (_, i) => {
            const [x, y] = [(i % width) + n * pan[0], Math.floor(i / width) + n * pan[1]];
            return 40 + 150 * hashed(Math.floor(x / grain), Math.floor(y / grain), seed) + noise * hashed(x, i, n);
          });
        const follower = new BlockFollower(width, height);
        const pictures = [0, 1, 2].map(picture);
        expect(follower.push(pictures[0]!)).toBeNull();
        let known = Array.from({ length: Math.floor(width / BLOCK) * Math.floor(height / BLOCK) }, () => [0, 0] as [number, number]);
        for (const n of [1, 2]) {
          const wanted = plainly(pictures[n - 1]!, pictures[n]!, width, height, known);
          const found = listed(follower.push(pictures[n]!)!);
          expect(found).toEqual(wanted);
          known = found.map(([dx, dy]) => [dx!, dy!]);
        }
      }),
      { numRuns: 60 },
    );
  });

  test('follows a camera that pans, to a part of a pixel', () => {
    const scene: Scene = { seed: 5, ground: [120, 128, 128], pan: (n) => [-2.5 * n, 1.25 * n] };
    const follower = new BlockFollower(SCENE_SIZE.width, SCENE_SIZE.height);
    for (let n = 0; n < 3; n++) follower.push(paintScene(scene, n));
    const { x, y } = follower.push(paintScene(scene, 3))!;
    const middle = (values: Float32Array): number => values.slice().sort()[values.length >> 1]!;
    expect(middle(x)).toBeCloseTo(2.5, 0);
    expect(middle(y)).toBeCloseTo(-1.25, 0);
    expect(Math.abs(middle(x) - 2.5) + Math.abs(middle(y) + 1.25)).toBeLessThan(0.4);
  });

  test('of a picture that is too small is refused', () => {
    expect(() => new BlockFollower(16, 16).push(new Uint8Array(255))).toThrow(/256 pixels/);
  });
});
