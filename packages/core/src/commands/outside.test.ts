import { describe, expect, test } from '@jest/globals';
import type { Montage } from '../document/montage.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { titlesBroughtAlong, whatFallsOutside } from './outside.ts';
import { placedTitles } from '../finish/titles.ts';
import { scoreOf, slotFrom } from '../score/score.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { carryOut } from './carry-out.ts';

const bars = (montage: Montage): string[] => montage.marks.filter((m) => m.kind === 'bar').map((m) => m.id);
const clipOf = (montage: Montage, slot: number): string | undefined => scoreOf(montage).slots[slot]!.placed?.item.assetId;

/** Twenty seconds in ten bars, one shot a bar, a title on the bars 1 and 9, a flash on each bar. */
function dressed(): Montage {
  let montage = carryOut(sampleMontage(), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
  montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
  const [first, , , , , , , , ninth] = bars(montage);
  montage = carryOut(montage, { do: 'addTitle', text: 'KITES', at: { markId: first! }, beats: 2 });
  montage = carryOut(montage, { do: 'addTitle', text: 'HOME', at: { markId: ninth! }, beats: 2 });
  return carryOut(montage, { do: 'addEffect', kind: 'flash', what: 'bar' });
}
const from = (montage: Montage, start: number, end = 20): Montage =>
  carryOut(montage, { do: 'setSongRange', pieces: [{ from: start, to: end }] });

describe('where the song begins on a bar in its middle', () => {
  test('what hangs from that bar is seen first, and everything else as before', () => {
    const whole = dressed();
    const later = from(whole, 8);
    for (let slot = 0; slot < 6; slot++) expect(clipOf(later, slot)).toBe(clipOf(whole, slot + 4));
    expect(from(later, 0).shots).toEqual(whole.shots);
    expect(scoreOf(from(later, 0)).slots.map((s) => s.placed?.shot)).toEqual(scoreOf(whole).slots.map((s) => s.placed?.shot));
  });
  test('the first slot goes by the peg that its shot hangs from: what is hung there takes its place', () => {
    const later = from(dressed(), 8);
    const [first] = scoreOf(later).slots;
    expect(slotFrom(later, first!.start.id)).toBe(first);
    const replaced = carryOut(later, { do: 'hangShot', startPeg: first!.start.id, assetId: 'd' });
    expect(clipOf(replaced, 0)).toBe('d');
    expect(
      scoreOf(replaced)
        .slots.slice(1)
        .map((s) => s.placed?.item.assetId),
    ).toEqual(
      scoreOf(later)
        .slots.slice(1)
        .map((s) => s.placed?.item.assetId),
    );
  });
  test('what hung at the start stays there where nothing hangs from that bar', () => {
    const whole = dressed();
    const bar = scoreOf(whole).slots[4]!;
    const without = carryOut(whole, { do: 'takeDownShot', id: bar.placed!.shot.id });
    expect(clipOf(from(without, 8), 0)).toBe(clipOf(whole, 0));
  });
});

describe('what falls outside', () => {
  test('is counted: shots, titles and effects that are in use now and would not be', () => {
    const whole = dressed();
    expect(whatFallsOutside(whole, from(whole, 0, 10))).toEqual({
      shots: { of: 10, outside: 5 },
      titles: { of: 2, outside: 1 },
      effects: { of: 10, outside: 5 },
    });
    const none = { outside: 0 };
    expect(whatFallsOutside(whole, from(whole, 0))).toMatchObject({ shots: none, titles: none, effects: none });
  });
  test('titles come along, each to a bar of its own as far into the montage as it was', () => {
    const whole = dressed();
    const cut = from(whole, 6, 14);
    const brought = titlesBroughtAlong(whole, cut).reduce(carryOut, cut);
    expect(placedTitles(cut)).toHaveLength(0);
    const now = placedTitles(brought);
    expect(now.map(({ title }) => title.text)).toEqual(['KITES', 'HOME']);
    expect(now[0]!.from).toBe(0);
    // Bar 9 of ten was at 16 of 20 seconds; a bar begins every two seconds of the eight that are left.
    expect(now[1]!.from / 30).toBeCloseTo(6, 5);
    expect(titlesBroughtAlong(whole, from(whole, 0))).toEqual([]);
  });
});
