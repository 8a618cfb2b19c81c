import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { carryOut } from '../commands/carry-out.ts';
import type { Mark, Montage } from '../document/montage.ts';
import { readMontage } from '../document/read-montage.ts';
import type { ClipSummary } from '../footage/clip-summary.ts';
import type { ProposedHit } from '../footage/hits.ts';
import type { Peaks } from '../music/peaks.ts';
import type { SeenMaterial } from '../fill/seen-material.ts';
import { gapsOf } from '../fill/gaps.ts';
import { sourceFrame } from '../score/placed-shot.ts';
import { scoreOf } from '../score/score.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { firstCut, type FirstCutWish } from './first-cut.ts';

const WISH: FirstCutWish = { lively: 0.5, free: 0.4, seed: 1, order: 'match' };
const CLIPS = ['a', 'b', 'c', 'd', 'e'];

/** A minute of a song with a quiet, a full and a middling section, a drop, and five clips and a photo. */
function bare(): Montage {
  const m = sampleMontage(60, [...CLIPS.map((id) => sampleClip(id, 6)), samplePhoto('p')]);
  const drop: Mark = { id: 'drop', kind: 'drop', time: 20, origin: 'detected' };
  const sections = [0.1, 0.9, 0.4].map((energy, i) => ({ id: `s${i}`, name: `s${i}`, from: i * 20, energy }));
  return { ...m, marks: [...m.marks, drop].sort((a, b) => a.time - b.time), song: { ...m.song!, sections } };
}

const RATE = 20;

/** An outline of a song that is as full as is said of each moment. */
function outlineOf(seconds: number, full: (time: number) => number): Peaks {
  const all = Float32Array.from({ length: seconds * RATE }, (_, i) => full(i / RATE));
  return { perSecond: RATE, all, low: all, mid: all, high: all };
}

/** A clip in which as much moves from its first frame to its last. */
function summaryOf(seconds: number, movement: number): ClipSummary {
  const curve = (value: number): number[] => Array<number>(seconds * RATE).fill(Math.round(255 * value));
  const curves = { movementCurve: curve(movement), brightnessCurve: curve(0.5), sharpnessCurve: curve(0.5) };
  const alike = { version: 1, frames: 30 * seconds, curveRate: RATE, brightness: 0.5, sharpness: 0.5, colours: [], changes: [] } as const;
  return { ...alike, ...curves, movement, hits: [] };
}

const hit = (frame: number, reason: ProposedHit['reason'], strength: number): ProposedHit => ({ frame, reason, strength });

/** Clips that move the more the later they come, and have hits; an outline as full as the sections are. */
const SEEN: SeenMaterial = {
  peaks: outlineOf(60, (time) => [0.1, 0.9, 0.4][Math.floor(time / 20)]!),
  clips: Object.fromEntries(
    CLIPS.map((id, i) => [
      id,
      {
        ...summaryOf(6, i / 4),
        hits: id === 'b' ? [hit(90, 'jump', 0.4)] : id === 'c' ? [hit(60, 'bang', 0.9)] : [],
      },
    ]),
  ),
};

test('the whole of it is filled, the clearest hit falls on the drop, the end fades, and it is said', () => {
  const { montage, said } = firstCut(bare(), WISH, SEEN);
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
  const { montage } = firstCut(bare(), { ...WISH, free: 0.1 }, SEEN);
  const mean = (from: number, to: number): number => {
    const inside = scoreOf(montage).slots.filter((s) => s.start.time >= from - 0.1 && s.start.time < to - 0.1);
    return inside.reduce((sum, s) => sum + s.length, 0) / inside.length;
  };
  // The bar that leads into the drop is its own matter.
  expect(mean(0, 18)).toBeGreaterThan(2 * mean(20, 40));
});

test('what moves most hangs where the music is fullest, whatever slots the pace made', () => {
  const { montage } = firstCut(bare(), { ...WISH, free: 0.1 }, SEEN);
  const moved = (from: number, to: number): number => {
    const inside = scoreOf(montage).slots.filter((s) => s.start.time >= from - 0.1 && s.start.time < to - 0.1);
    const known = inside.flatMap((s) => SEEN.clips[s.placed!.item.assetId]?.movement ?? []);
    return known.reduce((sum, m) => sum + m, 0) / known.length;
  };
  expect(moved(20, 40)).toBeGreaterThan(moved(0, 20) + 0.1);
});

test('clips that were only glanced at are matched by what is guessed of them', () => {
  const guessed = Object.fromEntries(CLIPS.map((id, i) => [id, { movement: i / 4, brightness: 0.5, sharpness: 0.5, colours: [] }]));
  const { montage } = firstCut(bare(), WISH, { ...SEEN, clips: {}, guessed });
  expect(gapsOf(montage)).toEqual([]);
  expect(scoreOf(montage).slots[0]!.placed!.item.assetId).toBe('a');
});

test('a song that is far too long for the footage is said to be, with the length that would do', () => {
  expect(firstCut(bare(), WISH, SEEN).betterLength).toBeNull();
  const little = { ...bare(), footage: bare().footage.slice(0, 2) };
  const { betterLength, said } = firstCut(little, WISH, SEEN);
  expect(betterLength).toBe(18);
  expect(said.join(' ')).toContain('5 times as long as the footage');
});

test('it opens with a calm clip, and of those with the one that shows most detail', () => {
  const opens = (detail: Readonly<Record<string, number>>): string => {
    const clips = Object.fromEntries(
      Object.entries(SEEN.clips).map(([id, clip]) => [
        id,
        { ...clip, sharpnessCurve: clip.sharpnessCurve.map(() => 255 * (detail[id] ?? 0.5)) },
      ]),
    );
    return scoreOf(firstCut(bare(), WISH, { ...SEEN, clips }).montage).slots[0]!.placed!.item.assetId;
  };
  expect(opens({})).toBe('a');
  expect(opens({ a: 0.2 })).toBe('b');
  // What moves much does not open, however sharp it is.
  expect(opens({ a: 0.6, e: 1 })).not.toBe('e');
});

test('the same wish makes the same cut, another seed another one', () => {
  const cut = (seed: number): unknown => firstCut(bare(), { ...WISH, seed }, SEEN).montage;
  expect(cut(3)).toEqual(cut(3));
  expect(cut(3)).not.toEqual(cut(4));
});

test('in story order, what comes first is seen first', () => {
  const { montage, said } = firstCut(bare(), { ...WISH, order: 'story' }, SEEN);
  const seen = scoreOf(montage).slots.map((s) => s.placed!.item.assetId);
  expect([...new Set(seen)]).toEqual(['a', 'b', 'c', 'd', 'e', 'p']);
  expect(said).toContain('The footage hangs in story order.');
});

test('what is locked stays, the rest is rolled again', () => {
  const first = firstCut(bare(), WISH, SEEN).montage;
  const liked = scoreOf(first).slots[2]!;
  const locked = carryOut(first, { do: 'lockShots', ids: [liked.placed!.shot.id], locked: true });
  const again = firstCut(locked, { ...WISH, lively: 0.9, seed: 9 }, SEEN).montage;
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
    expect(() => firstCut({ ...bare(), ...without }, WISH, SEEN)).toThrow(sentence);
  });
});

test('whatever is wished, nothing is left empty', () => {
  const part = fc.double({ min: 0, max: 1, noNaN: true });
  fc.assert(
    fc.property(part, part, fc.integer({ min: 0, max: 500 }), fc.constantFrom('match', 'story'), (lively, free, seed, order) => {
      expect(gapsOf(firstCut(bare(), { lively, free, seed, order }, SEEN).montage)).toEqual([]);
    }),
    { numRuns: 40 },
  );
});
