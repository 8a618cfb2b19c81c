import { describe, expect, test } from '@jest/globals';
import { stretchTime } from './time-stretch.ts';

const RATE = 16_000;
const tone = (hz: number, seconds: number): Float32Array =>
  Float32Array.from({ length: seconds * RATE }, (_, i) => 0.5 * Math.sin((2 * Math.PI * hz * i) / RATE));

/** Upward crossings of nought in the middle, a second. */
function pitchOf(samples: Float32Array): number {
  const [from, to] = [Math.floor(samples.length * 0.2), Math.floor(samples.length * 0.8)];
  let crossings = 0;
  for (let i = from + 1; i < to; i++) if (samples[i - 1]! < 0 && samples[i]! >= 0) crossings++;
  return (crossings * RATE) / (to - from);
}

describe('slowed sound', () => {
  test.each([220, 440, 997])('keeps the pitch of %i Hz and its level at half speed', (hz) => {
    const [slow] = stretchTime([tone(hz, 2)], RATE, 2);
    expect(slow!.length).toBe(4 * RATE);
    expect(Math.abs(pitchOf(slow!) - hz) / hz).toBeLessThan(0.01);
    const level = Math.sqrt(slow!.slice(RATE, 3 * RATE).reduce((s, v) => s + v * v, 0) / (2 * RATE));
    expect(level).toBeGreaterThan(0.3);
    expect(level).toBeLessThan(0.4);
  });
  test('clicks come at twice their time, within 15 ms', () => {
    const clicks = new Float32Array(4 * RATE);
    const at = [0.5, 1.3, 2.1, 3.4];
    for (const t of at) for (let i = 0; i < 40; i++) clicks[Math.round(t * RATE) + i] = i % 2 === 0 ? 0.9 : -0.9;
    const [slow] = stretchTime([clicks], RATE, 2);
    for (const t of at) {
      const around = slow!.slice(Math.round((2 * t - 0.1) * RATE), Math.round((2 * t + 0.1) * RATE));
      const loudest = around.reduce((best, v, i) => (Math.abs(v) > Math.abs(around[best]!) ? i : best), 0);
      expect(Math.abs(loudest / RATE - 0.1)).toBeLessThan(0.015);
    }
  });
  test('channels stay in step', () => {
    const [left, right] = stretchTime([tone(300, 1), tone(300, 1)], RATE, 2);
    expect(left).toEqual(right);
  });
  test('nothing stays nothing', () => expect(stretchTime([new Float32Array(0)], RATE, 2)[0]!.length).toBe(0));
});
