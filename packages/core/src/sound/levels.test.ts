import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import type { Montage } from '../document/montage.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { sampleClip, sampleMontage } from '../testing/sample-montage.ts';
import { levelAlong, levelLines } from './level-line.ts';
import { LIMIT_BLOCK, limitingGains, turnDown } from './limiting.ts';
import { clipLevel, mixPlan, songLevel } from './mix-plan.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Command } from '../commands/all.ts';

const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);

/** One clip with sound in each of two slots of four seconds. */
function heard(): Montage {
  const m = act(
    sampleMontage(8, [sampleClip('a', 20, { hasSound: true }), sampleClip('b', 20, { hasSound: true })]),
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 2 } },
    { do: 'fill', options: FILL_DEFAULTS },
  );
  return act(m, { do: 'setShotSound', ids: [m.shots[1]!.id], level: 1 });
}
const at = (m: Montage, ...times: number[]): number[] => times.map((t) => songLevel(mixPlan(m), t));

describe('levels that are drawn', () => {
  test('run straight from point to point, and even before the first and after the last', () => {
    const line = [
      { id: '1', time: 1, level: 0 },
      { id: '2', time: 3, level: 1 },
    ];
    expect([0, 1, 1.5, 2, 3, 9].map((t) => levelAlong(line, t))).toEqual([0, 0, 0.25, 0.5, 1, 1]);
    expect(levelAlong([], 4)).toBe(1);
  });
  test('turn the song, or the clips, and move with their marks', () => {
    const m = heard();
    const mark = m.marks[4]!;
    const drawn = act(
      m,
      { do: 'addLevel', of: 'song', at: { markId: mark.id }, level: 0.5 },
      { do: 'addLevel', of: 'song', at: { time: 4 }, level: 1 },
    );
    expect(at(drawn, 1, 2, 3, 4, 5)).toEqual([0.5, 0.5, 0.75, 1, 1]);
    expect(at(act(drawn, { do: 'moveMarks', ids: [mark.id], by: 0.5 }), 2.5)).toEqual([0.5]);
    const clips = act(m, { do: 'addLevel', of: 'clips', at: { time: 5 }, level: 0.5 });
    const [sound] = mixPlan(clips).clips;
    expect(clipLevel(sound!, 1)).toBeCloseTo(0.5, 9);
    expect(at(clips, 5)).toEqual([1]);
  });
  test('a point is put where one is already only by taking its place; cut out of the song it sleeps', () => {
    const twice = act(
      heard(),
      { do: 'addLevel', of: 'song', at: { time: 3 }, level: 0.5 },
      { do: 'addLevel', of: 'song', at: { time: 3 }, level: 0.2 },
    );
    expect(twice.levels.map((p) => p.level)).toEqual([0.2]);
    const cutOut = act(twice, { do: 'setSongRange', pieces: [{ from: 4, to: 8 }] });
    expect(levelLines(cutOut).song).toEqual([]);
    expect(cutOut.levels).toHaveLength(1);
  });
});

describe('the song gives way', () => {
  test('under a clip that asks for it, by so many dB, over so many beats', () => {
    const m = heard();
    const shot = m.shots[1]!.id;
    const ducked = act(m, { do: 'setDucks', ids: [shot], ducks: true }, { do: 'setDucking', by: 20, beats: 1 });
    const levels = at(ducked, 1, 3.4, 5, 7.9);
    expect(levels[0]).toBe(1);
    expect(levels[1]).toBe(1);
    expect(levels[2]).toBeCloseTo(0.1, 6);
    expect(at(ducked, 3.75)[0]).toBeLessThan(1);
    expect(at(ducked, 3.75)[0]).toBeGreaterThan(0.1);
  });
  test('not under one that is silent, nor where it gives way by nothing', () => {
    const m = heard();
    const silent = act(m, { do: 'setDucks', ids: [m.shots[0]!.id], ducks: true });
    expect(at(silent, 1, 5)).toEqual([1, 1]);
    expect(at(act(m, { do: 'setDucks', ids: [m.shots[1]!.id], ducks: true }, { do: 'setDucking', by: 0 }), 5)).toEqual([1]);
  });
});

describe('turning down what would be clipped', () => {
  const sound = fc.array(fc.double({ min: -4, max: 4, noNaN: true }), { minLength: 3, maxLength: 40 });
  test('leaves nothing beyond full scale, and nothing is turned up', () => {
    fc.assert(
      fc.property(sound, (peaks) => {
        // A block each, loud at one of its samples.
        const samples = new Float32Array(peaks.length * LIMIT_BLOCK);
        peaks.forEach((peak, i) => (samples[i * LIMIT_BLOCK + ((i * 97) % LIMIT_BLOCK)] = peak));
        const gains = limitingGains(Float32Array.from(peaks, Math.abs));
        const out = samples.slice();
        if (gains) turnDown(out, 0, gains, 1);
        out.forEach((value, n) => {
          if (Math.abs(value) > 1 + 1e-6) throw new Error(`sample ${n} is ${value}`);
          if (Math.abs(value) > Math.abs(samples[n]!) + 1e-9) throw new Error(`sample ${n} was turned up`);
        });
        if (peaks.every((p) => Math.abs(p) <= 1)) expect(gains).toBeNull();
      }),
    );
  });
  test('is the same in whatever pieces it comes', () => {
    fc.assert(
      fc.property(sound, fc.integer({ min: 1, max: 2000 }), (peaks, piece) => {
        const gains = limitingGains(Float32Array.from(peaks, Math.abs));
        if (!gains) return;
        const whole = new Float32Array(2 * peaks.length * LIMIT_BLOCK).fill(1);
        const parts = whole.slice();
        turnDown(whole, 0, gains, 2);
        for (let n = 0; n < parts.length / 2; n += piece) turnDown(parts.subarray(2 * n, 2 * (n + piece)), n, gains, 2);
        expect(parts).toEqual(whole);
      }),
      { numRuns: 30 },
    );
  });
});
