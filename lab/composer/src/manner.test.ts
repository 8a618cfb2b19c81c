import { describe, expect, test } from '@jest/globals';
import { Chance } from './chance.ts';
import type { Part } from './composition.ts';
import { inManner, withStops } from './manner.ts';
import { FOUR } from './palette.ts';

const bars = Array.from({ length: 8 }, (_, i) => ({ at: 4 * i, metre: FOUR }));
const part: Part = {
  program: 0,
  drums: false,
  volume: 100,
  unsteady: 0,
  late: 0,
  notes: Array.from({ length: 32 }, (_, i) => ({ at: i, length: 0.5, pitch: 60 + (i % 5), velocity: 60 + i })),
};
const manners = (role: string): Part[] => Array.from({ length: 200 }, (_, seed) => inManner(new Chance(seed), part, role, bars));

describe('the manner of a part', () => {
  test('some play every note as loud, others as it was written', () => {
    const levels = manners('bass').map((p) => new Set(p.notes.map((n) => n.velocity)).size);
    expect(new Set(levels)).toEqual(new Set([1, 32]));
  });
  test('a held pedal lets notes ring to the end of their bar', () => {
    const held = manners('chords').filter((p) => p.notes[0]!.length > 0.5);
    expect(held.length).toBeGreaterThan(10);
    for (const p of held) for (const n of p.notes) expect(n.at + n.length).toBe(4 * Math.floor(n.at / 4) + 4);
  });
  test('graces come just before notes, which stay where they were', () => {
    const adorned = manners('tune').filter((p) => p.notes.length > 32);
    expect(adorned.length).toBeGreaterThan(10);
    for (const p of adorned) {
      const places = new Set(p.notes.map((n) => n.at));
      for (const n of part.notes) expect(places).toContain(n.at);
      for (const n of p.notes) if (n.at % 1 !== 0) expect((n.at + 0.1) % 1).toBeCloseTo(0, 9);
    }
  });
});

test('drums of another kit: the same strokes, some sounds others throughout', () => {
  const kit = { ...part, drums: true, notes: part.notes.map((n, i) => ({ ...n, pitch: [36, 42, 38, 42][i % 4]! })) };
  const others = Array.from({ length: 200 }, (_, seed) => inManner(new Chance(seed), kit, 'drums', bars)).filter((p) =>
    p.notes.some((n, i) => n.pitch !== kit.notes[i]!.pitch),
  );
  expect(others.length).toBeGreaterThan(10);
  for (const p of others) {
    expect(p.notes.map((n) => n.at)).toEqual(kit.notes.map((n) => n.at));
    for (const place of [0, 1, 2]) expect(new Set(p.notes.filter((_, i) => i % 4 === place).map((n) => n.pitch)).size).toBe(1);
  }
});

test('at a stop all but one part at the most rest after the first stroke of the bar', () => {
  const drums: Part = { ...part, drums: true };
  let stopped = 0;
  for (let seed = 0; seed < 200; seed++) {
    const parts = withStops(new Chance(seed), [part, drums, part], bars);
    const gone = parts.map((p) => part.notes.filter((n) => !p.notes.includes(n)));
    for (const n of gone.flat()) {
      expect(n.at % 4).toBeGreaterThan(0);
      expect(Math.floor(n.at / 4) % 4).toBe(3);
    }
    if (gone.some((g) => g.length > 0)) {
      stopped++;
      expect(gone.filter((g) => g.length > 0).length).toBeGreaterThanOrEqual(2);
    }
  }
  expect(stopped).toBeGreaterThan(5);
});
