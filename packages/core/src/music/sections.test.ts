import { describe, expect, test } from '@jest/globals';
import type { OnsetStrength } from './onset-strength.ts';
import type { BeatSound } from './join-likeness.ts';
import { letterOf, sectionLetters } from './section-letters.ts';
import { findDrops, findSections, LOUD_SECTION } from './sections.ts';

const unnamed = (stretches: readonly unknown[]): string[] => stretches.map(() => '?');

const FPS = 100;
const BAR_S = 2;

/** A song that is so loud, with so much bass, for so many bars at a time. Log energies, natural units. */
function song(parts: readonly (readonly [bars: number, loud: number, bass: number])[]): {
  onsets: OnsetStrength;
  bars: number[];
  end: number;
} {
  const perBar = BAR_S * FPS;
  const frames = parts.reduce((sum, [bars]) => sum + bars * perBar, 0);
  const fill = (of: (part: readonly [number, number, number]) => number): Float32Array => {
    const curve = new Float32Array(frames);
    let at = 0;
    for (const part of parts) {
      curve.fill(of(part), at, at + part[0] * perBar);
      at += part[0] * perBar;
    }
    return curve;
  };
  const [energy, lowEnergy] = [fill((p) => p[1]), fill((p) => p[2])];
  const rise = fill((p) => Math.exp(p[1] / 4));
  const onsets: OnsetStrength = {
    fps: FPS,
    all: rise,
    low: rise,
    mid: rise,
    high: rise,
    energy,
    lowEnergy,
    colour: new Float32Array(0),
    colourBands: 0,
    colourFps: 20,
    pulse: new Float32Array(0),
    pulseWidth: 0,
    pulseRises: 0,
    pulseFps: 50,
  };
  return { onsets, bars: Array.from({ length: frames / perBar }, (_, i) => i * BAR_S), end: frames / FPS };
}

describe('sections', () => {
  const { onsets, bars, end } = song([
    [8, -2, -3],
    [8, 0, -2],
    [8, 3, 3],
    [8, -1, -3],
    [8, 3, 3],
    [8, -2, -3],
  ]);
  const sections = findSections(onsets, bars, end, unnamed);

  test('start where the sound changes, on bars', () => {
    const starts = sections.map((s) => s.from);
    for (const change of [32, 48, 64]) expect(starts).toContain(change);
    expect(starts.every((s) => bars.includes(s))).toBe(true);
    expect(starts).toEqual([...starts].sort((a, b) => a - b));
  });
  test('have the energy that they have against the rest', () => {
    const at = (time: number): number => sections.findLast((s) => s.from <= time)!.energy!;
    for (const loud of [40, 72]) expect(at(loud)).toBeGreaterThanOrEqual(LOUD_SECTION);
    for (const quiet of [1, 56, end - 1]) expect(at(quiet)).toBeLessThan(0.3);
    expect(Math.max(...sections.map((s) => s.energy!))).toBe(1);
  });
  test('drops are where loud ones begin after quieter ones', () => expect(findDrops(sections)).toEqual([32, 64]));
});

test('a song that is alike throughout has one section and no drop', () => {
  const { onsets, bars, end } = song([[24, 1, 1]]);
  const sections = findSections(onsets, bars, end, unnamed);
  expect(sections).toHaveLength(1);
  expect(findDrops(sections)).toEqual([]);
});

test('a song of a few bars is not divided', () => {
  const { onsets, bars, end } = song([
    [3, -2, -2],
    [3, 3, 3],
  ]);
  expect(findSections(onsets, bars, end, unnamed)).toEqual([]);
});

describe('letters', () => {
  /** Sixteen beats of chords, each a note of its own, as loud as is said. */
  const music = (chords: readonly number[], loud = 0, bass = 0): BeatSound[] =>
    Array.from({ length: 16 }, (_, i) => {
      const harmony = new Float32Array(8);
      harmony[chords[Math.floor(i / 4) % chords.length]!] = 1;
      return { harmony, loud, bass };
    });
  test('are the same for the same music, and new for other music, in order', () => {
    const [verse, chorus, bridge] = [music([0, 3, 4, 0]), music([5, 3, 0, 4], 0.8), music([6, 7], -1)];
    expect(sectionLetters([verse, chorus, verse, chorus, bridge, chorus])).toEqual(['A', 'B', 'A', 'B', 'C', 'B']);
  });
  test('are the same where it is played with a little more, or begins some beats later in itself; not where it is far louder', () => {
    const verse = music([0, 3, 4, 0]);
    expect(sectionLetters([verse, music([0, 3, 4, 0], 0.6, 1), [...verse.slice(2), ...verse.slice(0, 2)]])).toEqual(['A', 'A', 'A']);
    expect(sectionLetters([verse, music([0, 3, 4, 0], 2)])).toEqual(['A', 'B']);
  });
  test('go on after Z', () => expect([0, 25, 26, 27, 52].map(letterOf)).toEqual(['A', 'Z', 'AA', 'AB', 'BA']));
  test('nothing heard, nothing said', () => expect(sectionLetters([])).toEqual([]));
});
