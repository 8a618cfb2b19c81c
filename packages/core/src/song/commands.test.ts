import { describe, expect, test } from '@jest/globals';
import { emptyMontage } from '../document/montage.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { scoreOf } from '../score/score.ts';
import { carryOut } from '../commands/carry-out.ts';

const bars = { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } } as const;

describe('the stretch of the song in use', () => {
  test('a later in moves the montage, not the marks; cuts stay on their bars', () => {
    const montage = carryOut(sampleMontage(), bars);
    const after = carryOut(montage, { do: 'setSongRange', pieces: [{ from: 3, to: 20 }] });
    expect(after.marks).toEqual(montage.marks);
    // Bars at 4, 6, 8 … are 1, 3, 5 … seconds into the montage.
    expect(
      scoreOf(after)
        .pegs.slice(1, 4)
        .map((p) => p.frame),
    ).toEqual([30, 90, 150]);
    expect(scoreOf(after).frames).toBe(17 * 30);
  });
  test('what was cut out comes back as it was', () => {
    const montage = carryOut(carryOut(sampleMontage(), bars), { do: 'fill', options: FILL_DEFAULTS });
    const short = carryOut(montage, { do: 'setSongRange', pieces: [{ from: 0, to: 7 }] });
    expect(scoreOf(short).slots).toHaveLength(4);
    const whole = carryOut(short, { do: 'setSongRange', pieces: [{ from: 0, to: 20 }] });
    expect(whole).toEqual(montage);
  });
  test('two pieces are heard one after the other', () => {
    const after = carryOut(carryOut(sampleMontage(), bars), {
      do: 'setSongRange',
      pieces: [
        { from: 0, to: 4 },
        { from: 12, to: 16 },
      ],
    });
    expect(scoreOf(after).pegs.map((p) => p.frame)).toEqual([0, 60, 120, 180, 240]);
  });
  test.each([
    ['too short', [{ from: 3, to: 3.2 }], /at least/],
    ['after the end', [{ from: 3, to: 21 }], /inside/],
    [
      'crossing',
      [
        { from: 3, to: 9 },
        { from: 8, to: 12 },
      ],
      /follow one another/,
    ],
    ['none', [], /At least one/],
  ])('%s is refused', (_, pieces, sentence) => {
    expect(() => carryOut(sampleMontage(), { do: 'setSongRange', pieces })).toThrow(sentence);
  });
});

test('another song takes marks, pegs and shots with it, and leaves the footage', () => {
  const full = carryOut(carryOut(sampleMontage(), bars), { do: 'fill', options: FILL_DEFAULTS });
  const after = carryOut(full, { do: 'setSong', assetId: 'other', name: 'other.mp3', length: 30 });
  expect(after).toMatchObject({ marks: [], pegs: [], shots: [], pegRule: null, song: { length: 30, pieces: [{ from: 0, to: 30 }] } });
  expect(after.footage).toEqual(full.footage);
});

test('fades need a song', () => {
  expect(() => carryOut(emptyMontage(), { do: 'setFades', fadeIn: 1, fadeOut: 1 })).toThrow(/no song/);
  expect(carryOut(sampleMontage(), { do: 'setFades', fadeIn: 1, fadeOut: 2 }).song).toMatchObject({ fadeIn: 1, fadeOut: 2 });
});

test('another rate keeps every cut on its mark to half a frame', () => {
  const montage = carryOut(sampleMontage(), bars);
  for (const rate of [
    { num: 24000, den: 1001 },
    { num: 25, den: 1 },
    { num: 60, den: 1 },
  ]) {
    const after = carryOut(montage, { do: 'setShape', shape: { width: 1920, height: 1080, rate } });
    for (const peg of scoreOf(after).pegs.slice(1, -1))
      expect(Math.abs((peg.frame * rate.den) / rate.num - peg.mark!.time)).toBeLessThanOrEqual(rate.den / rate.num / 2 + 1e-9);
  }
});
