import { describe, expect, test } from '@jest/globals';
import { downbeatEvidence, type HeardForBars } from './downbeat-evidence.ts';

const BANDS = 60;
const COLOUR_FPS = 20;
const PULSE_FPS = 50;
const BEAT_S = 0.5;

/** A song of one partial at a time, in the band that `pitch` gives for each beat, with chances of a downbeat beat by beat. */
function song(count: number, pitch: (beat: number) => number, chance: (beat: number) => number): { heard: HeardForBars; beats: number[] } {
  const seconds = count * BEAT_S;
  const colour = new Float32Array(Math.round(seconds * COLOUR_FPS) * BANDS).fill(-4);
  for (let f = 0; f * BANDS < colour.length; f++) colour[f * BANDS + pitch(Math.floor(f / COLOUR_FPS / BEAT_S))] = 2;
  const downbeat = new Float32Array(Math.round(seconds * PULSE_FPS) + 1);
  const beats = Array.from({ length: count }, (_, i) => i * BEAT_S);
  for (const [i, time] of beats.entries()) downbeat[Math.round(time * PULSE_FPS)] = chance(i);
  const none = new Float32Array(Math.round(seconds * 100));
  const onsets = {
    ...{ fps: 100, all: none, low: none, mid: none, high: none, energy: none, lowEnergy: none },
    ...{ colour, colourBands: BANDS, colourFps: COLOUR_FPS },
    ...{ pulse: none, pulseWidth: 1, pulseRises: 1, pulseFps: PULSE_FPS },
  };
  return { heard: { onsets, chances: { beat: downbeat, downbeat } }, beats };
}

/** Beats of which the evidence is larger than that of any other beat, but for those at the ends. */
const standOut = (evidence: readonly number[], every: number): boolean => {
  const inner = evidence.map((value, i) => ({ value, first: i % every === 0 })).slice(2, -2);
  return Math.min(...inner.filter((e) => e.first).map((e) => e.value)) > Math.max(...inner.filter((e) => !e.first).map((e) => e.value));
};

describe('a downbeat is heard', () => {
  test('where the network says so', () => {
    const { heard, beats } = song(
      48,
      () => 20,
      (i) => (i % 3 === 0 ? 0.6 : 0.1),
    );
    expect(standOut(downbeatEvidence(heard, beats), 3)).toBe(true);
  });
  test('where the harmony changes, though the network hears nothing', () => {
    const { heard, beats } = song(
      48,
      (i) => [12, 25, 38, 50][Math.floor(i / 4) % 4]!,
      () => 0.1,
    );
    expect(standOut(downbeatEvidence(heard, beats), 4)).toBe(true);
  });
  test('as clearly in a song whose bars are hardly heard as in any other: only what stands out counts', () => {
    const evidence = (bar: number, other: number): number[] => {
      const { heard, beats } = song(
        40,
        () => 20,
        (i) => (i % 4 === 0 ? bar : other),
      );
      return downbeatEvidence(heard, beats);
    };
    // In both the odds of a bar are 4.75 times those of another beat.
    const [faint, clear] = [evidence(0.2, 0.05), evidence(0.5429, 0.2)];
    for (const [i, e] of faint.entries()) expect(e).toBeCloseTo(clear[i]!, 1);
  });
  test('nowhere where there are no beats', () => {
    const { heard } = song(
      8,
      () => 20,
      () => 0.1,
    );
    expect(downbeatEvidence(heard, [])).toEqual([]);
  });
});
