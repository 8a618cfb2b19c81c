import { expect, test } from '@jest/globals';
import { FILL_DEFAULTS } from './fill-options.ts';
import { sampleClip, sampleMontage } from '../testing/sample-montage.ts';
import { carryOut } from '../commands/carry-out.ts';
import { gapsOf } from './gaps.ts';
import { scoreOf } from '../score/score.ts';
import { slotEnergies, songEnergy } from '../score/slot-energy.ts';
import type { Command } from '../commands/all.ts';
import type { Montage } from '../document/montage.ts';
import type { Peaks } from '../music/peaks.ts';

const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);

/** Slots of 2 s: a clip that ends early though there is more of it, one with too little, nothing, and a long one. */
function withGaps(): Montage {
  const clips = [
    sampleClip('ends', 9, { selects: [{ id: 'e', in: 1, out: 1.5, hit: null }] }),
    sampleClip('tiny', 0.7),
    sampleClip('long', 30),
  ];
  const m = act(sampleMontage(8, clips), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
  const peg = (n: number): string => scoreOf(m).slots[n]!.start.id;
  return act(
    m,
    { do: 'hangShot', startPeg: peg(0), assetId: 'ends', remedy: 'gap' },
    { do: 'hangShot', startPeg: peg(1), assetId: 'tiny', remedy: 'gap' },
    { do: 'hangShot', startPeg: peg(3), assetId: 'long' },
  );
}

test('every gap is listed with what is missing and what would close it', () => {
  expect(gapsOf(withGaps()).map((g) => [g.slot.index, Math.round(g.missing * 100) / 100, g.remedies])).toEqual([
    [0, 1.5, ['handles', 'slow', 'hold', 'fill']],
    [1, 1.3, ['slow', 'hold', 'fill']],
    [2, 2, ['fill', 'reach-over']],
  ]);
});

test('they are closed one by one or all at once, and no other cut moves', () => {
  const m = withGaps();
  const pegs = gapsOf(m).map((g) => g.slot.start.id);
  const more = act(m, { do: 'remedyGaps', startPegs: pegs, remedy: 'handles' });
  expect(gapsOf(more).map((g) => g.slot.index)).toEqual([1, 2]);
  expect(scoreOf(more).slots[0]!.placed).toMatchObject({ speed: 1, missing: 0 });
  const slow = act(m, { do: 'remedyGaps', startPegs: pegs, remedy: 'slow' });
  expect(scoreOf(slow).slots.map((s) => s.placed && Math.round(s.placed.speed * 100))).toEqual([25, 35, null, 100]);
  const reached = act(slow, { do: 'remedyGaps', startPegs: pegs, remedy: 'reach-over' });
  expect(gapsOf(reached)).toEqual([]);
  expect(scoreOf(reached).pegs.map((p) => p.frame)).toEqual([0, 60, 180, 240]);
  const filled = act(m, { do: 'remedyGaps', startPegs: pegs.slice(2), remedy: 'fill' });
  expect(scoreOf(filled).slots[2]!.placed).toMatchObject({ missing: 0 });
  expect(
    scoreOf(filled)
      .slots.map((s) => s.placed?.shot.id ?? null)
      .filter((_, i) => i !== 2),
  ).toEqual(
    scoreOf(m)
      .slots.map((s) => s.placed?.shot.id ?? null)
      .filter((_, i) => i !== 2),
  );
  // In all three gaps, with clips that are long enough.
  expect(gapsOf(act(m, { do: 'remedyGaps', startPegs: pegs, remedy: 'fill' }))).toEqual([]);
  expect(() => act(reached, { do: 'remedyGaps', startPegs: pegs, remedy: 'hold' })).toThrow(/cannot be closed/);
});

test('the energy of a slot is that of the song where it is heard, over joins too', () => {
  const all = Float32Array.from({ length: 1600 }, (_, i) => (i < 800 ? 0.2 : 0.8));
  const peaks: Peaks = { perSecond: 200, all, low: all, mid: all, high: all };
  expect(songEnergy(peaks, 0, 2)).toBeCloseTo(0.2, 6);
  let m = act(
    sampleMontage(8),
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
    { do: 'fill', options: FILL_DEFAULTS },
  );
  expect(Object.values(slotEnergies(m, peaks)).map((e) => Math.round(e * 10) / 10)).toEqual([0.2, 0.2, 0.8, 0.8]);
  m = act(m, { do: 'setSongRange', pieces: [{ from: 4, to: 8 }] });
  expect(Object.values(slotEnergies(m, peaks)).map((e) => Math.round(e * 10) / 10)).toEqual([0.8, 0.8]);
});
