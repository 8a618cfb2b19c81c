import { describe, expect, test } from '@jest/globals';
import { LoudnessMeter } from './loudness.ts';

const RATE = 48_000;

/** A tone in both channels, or in the left alone. @param level of its peaks, dB of full scale */
function tone(level: number, seconds: number, hz = 997, both = true, rate = RATE): Float32Array {
  const samples = new Float32Array(2 * seconds * rate);
  const peak = 10 ** (level / 20);
  for (let n = 0; n < samples.length / 2; n++) {
    const value = peak * Math.sin((2 * Math.PI * hz * n) / rate);
    samples[2 * n] = value;
    if (both) samples[2 * n + 1] = value;
  }
  return samples;
}
function measured(pieces: readonly Float32Array[], rate = RATE): ReturnType<LoudnessMeter['result']> {
  const meter = new LoudnessMeter(rate);
  for (const piece of pieces) meter.push(piece);
  return meter.result();
}

// The signals of ITU-R BS.1770-5 and EBU Tech 3341 and 3342; nobody's sound has to be brought along for them.
describe('loudness', () => {
  test('a tone of 997 Hz at full scale in one channel is -3.01 LUFS', () => {
    expect(measured([tone(0, 5, 997, false)]).integrated).toBeCloseTo(-3.01, 1);
  });
  test('Tech 3341, 1 and 2: a tone of 1000 Hz at -23 and at -33 dB in both channels', () => {
    for (const level of [-23, -33]) {
      const { integrated, shortTerm } = measured([tone(level, 20, 1000)]);
      expect(Math.abs(integrated! - level)).toBeLessThan(0.1);
      expect(Math.abs(shortTerm! - level)).toBeLessThan(0.1);
    }
  });
  test('Tech 3341, 3 and 4: what is much softer does not count', () => {
    const long = [tone(-36, 10, 1000), tone(-23, 60, 1000), tone(-36, 10, 1000)];
    expect(Math.abs(measured(long).integrated! + 23)).toBeLessThan(0.1);
    const longer = [tone(-72, 10, 1000), ...long, tone(-72, 10, 1000)];
    expect(Math.abs(measured(longer).integrated! + 23)).toBeLessThan(0.1);
  });
  test('Tech 3342, 1: twenty seconds at -20 and twenty at -30 dB lie 10 LU apart', () => {
    expect(Math.abs(measured([tone(-20, 20, 1000), tone(-30, 20, 1000)]).range - 10)).toBeLessThan(1);
  });
  test('a peak between samples is found: a quarter of the rate, an eighth of a turn off its samples', () => {
    const samples = new Float32Array(2 * RATE);
    for (let n = 0; n < RATE; n++) samples.fill(0.5 * Math.sin((Math.PI / 2) * n + Math.PI / 4), 2 * n, 2 * n + 2);
    const { peak } = measured([samples]);
    expect(peak!).toBeGreaterThan(-6.4);
    expect(peak!).toBeLessThan(-5.8);
  });
  test('is the same at 44,100 Hz, and in whatever pieces the sound comes', () => {
    const whole = tone(-18, 6, 1000, true, 44_100);
    const parts = [whole.subarray(0, 5000), whole.subarray(5000, 123_456), whole.subarray(123_456)];
    const [a, b] = [measured([whole], 44_100), measured(parts, 44_100)];
    expect(Math.abs(a.integrated! + 18)).toBeLessThan(0.1);
    expect(b.integrated).toBeCloseTo(a.integrated!, 9);
    expect(b.peak).toBeCloseTo(a.peak!, 9);
  });
  test('silence has none', () => {
    expect(measured([new Float32Array(2 * RATE)])).toEqual({ integrated: null, shortTerm: null, range: 0, peak: null });
  });
});
