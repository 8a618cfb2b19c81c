import { describe, expect, test } from '@jest/globals';
import type { OnsetStrength } from './onset-strength.ts';
import { findDrops, findSections } from './sections.ts';

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
  const sections = findSections(onsets, bars, end);

  test('start where the sound changes, on bars', () => {
    const starts = sections.map((s) => s.from);
    for (const change of [32, 48, 64]) expect(starts).toContain(change);
    expect(starts.every((s) => bars.includes(s))).toBe(true);
    expect(starts).toEqual([...starts].sort((a, b) => a - b));
  });
  test('are named by how loud they are against the rest', () => {
    const at = (time: number): string => sections.findLast((s) => s.from <= time)!.name;
    expect(at(1)).toBe('intro');
    expect(at(40)).toBe('drop');
    expect(at(56)).toBe('break');
    expect(at(72)).toBe('drop');
    expect(at(end - 1)).toBe('outro');
  });
  test('drops are where loud ones begin after quieter ones', () => expect(findDrops(sections)).toEqual([32, 64]));
});

test('a song that is alike throughout has one section and no drop', () => {
  const { onsets, bars, end } = song([[24, 1, 1]]);
  const sections = findSections(onsets, bars, end);
  expect(sections).toHaveLength(1);
  expect(findDrops(sections)).toEqual([]);
});

test('a song of a few bars is not divided', () => {
  const { onsets, bars, end } = song([
    [3, -2, -2],
    [3, 3, 3],
  ]);
  expect(findSections(onsets, bars, end)).toEqual([]);
});
