import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { carryOut } from '../commands/carry-out.ts';
import type { Mark, Montage } from '../document/montage.ts';
import { readMontage } from '../document/read-montage.ts';
import { candidateKey, type FillKnowledge } from '../fill/fill-options.ts';
import { gapsOf } from '../fill/gaps.ts';
import { sourceFrame } from '../score/placed-shot.ts';
import { scoreOf } from '../score/score.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { firstCut, type FirstCutWish, type FoundHits } from './first-cut.ts';

const WISH: FirstCutWish = { lively: 0.5, free: 0.4, seed: 1, order: 'match' };
const CLIPS = ['a', 'b', 'c', 'd', 'e'];

/** A minute of a song with a quiet, a full and a middling section, a drop, and five clips and a photo. */
function bare(): Montage {
  const m = sampleMontage(60, [...CLIPS.map((id) => sampleClip(id, 6)), samplePhoto('p')]);
  const drop: Mark = { id: 'drop', kind: 'drop', time: 20, origin: 'detected' };
  const sections = [0.1, 0.9, 0.4].map((energy, i) => ({ id: `s${i}`, name: `s${i}`, from: i * 20, energy }));
  return { ...m, marks: [...m.marks, drop].sort((a, b) => a.time - b.time), song: { ...m.song!, sections } };
}

/** Clips that move the more the later they come; energy as the sections have it. */
const KNOWN: FillKnowledge = {
  energy: {},
  looks: Object.fromEntries(
    CLIPS.map((id, i) => [candidateKey(id, 'whole'), { movement: i / 4, brightness: 0.5, sharpness: 0.5, colours: [] }]),
  ),
};
const HITS: FoundHits = {
  b: [{ frame: 90, reason: 'jump', strength: 0.4 }],
  c: [{ frame: 60, reason: 'bang', strength: 0.9 }],
};

test('the whole of it is filled, the clearest hit falls on the drop, the end fades, and it is said', () => {
  const { montage, said } = firstCut(bare(), WISH, HITS, KNOWN);
  expect(readMontage(JSON.parse(JSON.stringify(montage)))).toEqual(montage);
  expect(gapsOf(montage)).toEqual([]);
  const { slots } = scoreOf(montage);
  const onDrop = slots.find((s) => s.start.frame === 600)!;
  expect(onDrop.placed!.item.assetId).toBe('c');
  expect(sourceFrame(onDrop.placed!, 0, montage)).toBe(60);
  expect(montage.song!.fadeOut).toBeGreaterThan(0);
  expect(montage.pictureFades.out).toBeGreaterThan(0);
  expect(montage.moveRule).toMatchObject({ what: 'photos' });
  expect(said.join(' ')).toMatch(/slots, from .* cut on every drop.*c[.]mp4, falls on the first drop.*fullest.*Photos move gently/);
});

test('quiet music has longer slots than full music', () => {
  const { montage } = firstCut(bare(), { ...WISH, free: 0.1 }, HITS, KNOWN);
  const mean = (from: number, to: number): number => {
    const inside = scoreOf(montage).slots.filter((s) => s.start.time >= from - 0.1 && s.start.time < to - 0.1);
    return inside.reduce((sum, s) => sum + s.length, 0) / inside.length;
  };
  // The bar that leads into the drop is its own matter.
  expect(mean(0, 18)).toBeGreaterThan(2 * mean(20, 40));
});

test('the same wish makes the same cut, another seed another one', () => {
  const cut = (seed: number): unknown => firstCut(bare(), { ...WISH, seed }, HITS, KNOWN).montage;
  expect(cut(3)).toEqual(cut(3));
  expect(cut(3)).not.toEqual(cut(4));
});

test('in story order, what comes first is seen first', () => {
  const { montage, said } = firstCut(bare(), { ...WISH, order: 'story' }, HITS, KNOWN);
  const seen = scoreOf(montage).slots.map((s) => s.placed!.item.assetId);
  expect([...new Set(seen)]).toEqual(['a', 'b', 'c', 'd', 'e', 'p']);
  expect(said).toContain('The footage hangs in story order.');
});

test('what is locked stays, the rest is rolled again', () => {
  const first = firstCut(bare(), WISH, HITS, KNOWN).montage;
  const liked = scoreOf(first).slots[2]!;
  const locked = carryOut(first, { do: 'lockShots', ids: [liked.placed!.shot.id], locked: true });
  const again = firstCut(locked, { ...WISH, lively: 0.9, seed: 9 }, HITS, KNOWN).montage;
  const there = scoreOf(again).slots.find((s) => s.placed?.shot.id === liked.placed!.shot.id)!;
  expect([there.start.frame, there.frames, there.placed!.shot.sourceIn]).toEqual([
    liked.start.frame,
    liked.frames,
    liked.placed!.shot.sourceIn,
  ]);
  expect(scoreOf(again).slots.length).toBeGreaterThan(scoreOf(first).slots.length);
  expect(gapsOf(again)).toEqual([]);
});

describe('what it lacks is said', () => {
  test.each([
    ['no song', { song: null }, 'needs a song'],
    ['no footage', { footage: [] }, 'needs footage'],
    ['no marks', { marks: [] }, 'needs marks'],
  ] as const)('%s', (_, without, sentence) => {
    expect(() => firstCut({ ...bare(), ...without }, WISH, {})).toThrow(sentence);
  });
});

test('whatever is wished, nothing is left empty', () => {
  const part = fc.double({ min: 0, max: 1, noNaN: true });
  fc.assert(
    fc.property(part, part, fc.integer({ min: 0, max: 500 }), fc.constantFrom('match', 'story'), (lively, free, seed, order) => {
      expect(gapsOf(firstCut(bare(), { lively, free, seed, order }, HITS, KNOWN).montage)).toEqual([]);
    }),
    { numRuns: 40 },
  );
});
